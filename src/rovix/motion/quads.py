"""Where layers and their pieces lie in a picture: what can be pointed at and grabbed."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rovix.model import PictureClip, Project
from rovix.motion.scene import Scene, clips_at, world_of
from rovix.motion.subject import block_pivots, ink_box
from rovix.motion.transform import box_corners, mapped

Floats = NDArray[np.float64]


@dataclass(frozen=True, slots=True, eq=False)
class LayerQuads:
    """Corners in px of the frame from its top left: left top, right top, right bottom, left bottom.

    `rest` (4, 2) is the layer's ink box at rest; `pieces` (n, 4, 2) are those now to be seen, where
    they are; `pivot` (2,) is the point it turns about; `block` (4, 2) is what the pivot is a share of.
    """

    id: str
    rest: Floats
    pieces: Floats
    pivot: Floats
    block: Floats


def picture_quads(project: Project, frame: int) -> tuple[LayerQuads, ...]:
    """The quads of the first sequence's layers at a frame, the lowest first."""
    sequence = project.sequence
    scene = Scene.of(project)
    return tuple(
        layer_quads(scene, clip, frame - clip.start, world_of(scene, clip, frame))
        for clip in clips_at(sequence.tracks, frame)
    )


def layer_quads(scene: Scene, clip: PictureClip, frame: float, world: Floats) -> LayerQuads:
    """The quads of one layer at a frame of its clip; `world` (4, 4) is what its parents do."""
    state = scene.state(clip, np.array([float(frame)]))
    layer = world @ state.layer[0]
    boxes = state.subject.ink
    seen = (state.opacity()[0] > 0) & np.isfinite(boxes[:, 0])
    pieces = mapped(scene.project(layer @ state.local[0][seen]), box_corners(boxes[seen]))
    pivot = block_pivots(state.subject, clip.transform, np.array([float(frame)]))
    boxes = box_corners(np.array([ink_box(state.subject), state.subject.block])).reshape(8, 2)
    places = mapped(scene.project(layer), np.concatenate([boxes, pivot]))
    return LayerQuads(clip.id, places[:4], pieces, places[8], places[4:8])


def layer_at(quads: tuple[LayerQuads, ...], point: tuple[float, float]) -> str | None:
    """The id of the highest layer with a piece under a point, or None."""
    for layer in reversed(quads):
        if any(_holds(corners, point) for corners in layer.pieces):
            return layer.id
    return None


def _holds(corners: Floats, point: tuple[float, float]) -> bool:
    if not np.all(np.isfinite(corners)):
        return False
    edges = np.roll(corners, -1, axis=0) - corners
    toward = np.array(point) - corners
    turns = edges[:, 0] * toward[:, 1] - edges[:, 1] * toward[:, 0]
    return bool(np.all(turns >= 0) or np.all(turns <= 0))
