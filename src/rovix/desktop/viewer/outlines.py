"""Words as vector outlines for overlays: the rest ghost, and what is parked beyond the frame."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache

import numpy as np
from PySide6.QtCore import Qt
from PySide6.QtGui import QPainterPath, QTransform

from rovix.model import Project, TextClip
from rovix.motion import Scene
from rovix.motion.scene import world_of
from rovix.motion.transform import projected
from rovix.text import Face
from rovix.text.face import CUBIC, LINE, MOVE, QUADRATIC


def layer_outline(project: Project, clip: TextClip, frame: int, rest: bool) -> QPainterPath:
    """The outline of a text layer's letters in px of the frame: at rest, or where they are."""
    scene = Scene.of(project)
    state = scene.state(clip, np.array([float(frame)]))
    layout, of_glyph = state.subject.layout, state.subject.of_glyph
    path = QPainterPath()
    path.setFillRule(Qt.FillRule.WindingFill)
    if layout is None or of_glyph is None:
        return path
    world = world_of(scene, clip, frame + clip.start) @ state.layer[0]
    matrices = projected(world if rest else world @ state.local[0], scene.size)
    for glyph in range(len(layout.glyph)):
        face = layout.faces[layout.face[glyph]]
        letter = _glyph(face, int(layout.glyph[glyph]))
        scale = float(layout.em[glyph]) / face.upem
        placed = QTransform(scale, 0, 0, -scale, float(layout.x[glyph]), float(layout.y[glyph]))
        matrix = matrices if rest else matrices[of_glyph[glyph]]
        path.addPath(_transform(matrix).map(placed.map(letter)))
    return path


def _transform(matrix: np.ndarray) -> QTransform:
    # Qt multiplies rows, we multiply columns.
    return QTransform(*(float(value) for value in matrix.T.reshape(9)))


@lru_cache(maxsize=4096)
def _glyph(face: Face, glyph: int) -> QPainterPath:
    path = QPainterPath()
    draw: dict[int, Callable[..., None]] = {
        MOVE: path.moveTo,
        LINE: path.lineTo,
        QUADRATIC: path.quadTo,
        CUBIC: path.cubicTo,
    }
    for verb, coordinates in face.outline(glyph).segments():
        draw.get(verb, path.closeSubpath)(*coordinates)
    path.setFillRule(Qt.FillRule.WindingFill)
    return path
