"""What a picture shows, in numbers."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from rovix.model import GroupClip, PictureClip, Project, Sequence, TextClip, Track
from rovix.motion.evaluate import Scene, clips_at, world_of
from rovix.motion.layer import LayerState
from rovix.motion.subject import Subject
from rovix.motion.transform import mapped, projected

Floats = NDArray[np.float64]
_OUTSIDE = {"outside": 1.0, "centre": 0.5, "inside": 0.0}


def describe(project: Project, frame: int, sequence: Sequence | None = None) -> dict[str, Any]:
    """`{frame, rate, size, layers}` of a picture; layers from the lowest up, see docs/describe.md.

    A group's layers stand under its `layers`. Bounds are px from the frame's centre.
    """
    sequence = sequence or project.sequence
    scene = Scene.of(project, sequence)
    return {
        "frame": frame,
        "rate": sequence.rate,
        "size": list(sequence.size),
        "layers": _layers(scene, sequence.tracks, frame, np.eye(4)),
    }


def _layers(scene: Scene, tracks: tuple[Track, ...], frame: int, world: Floats) -> list[dict[str, Any]]:
    return [
        _layer(scene, clip, frame - clip.start, world @ world_of(scene, tracks, clip, frame))
        for clip in clips_at(tracks, frame)
    ]


def _layer(scene: Scene, clip: PictureClip, frame: int, world: Floats) -> dict[str, Any]:
    state = scene.state(clip, np.array([float(frame)]))
    matrices = world @ state.layer[0] @ state.local[0]
    layer = {
        "id": clip.id,
        "name": clip.name,
        "kind": type(clip).__struct_config__.tag,
        "frame": frame,
        "bounds": _bounds(scene, clip, state, matrices),
        "opacity": float(state.rest["opacity"][0]),
        "blend": "normal",
        "pieces": [_piece(clip, state, number) for number in range(len(state.subject))],
    }
    if isinstance(clip, GroupClip):
        layer["layers"] = _layers(scene, clip.tracks, frame, matrices[0])
    return layer


def _piece(clip: PictureClip, state: LayerState, number: int) -> dict[str, Any]:
    rest, moved = state.rest, {name: value[0, number] for name, value in state.pieces.items()}
    added = ("x", "y", "depth", "turn", "tip", "swing", "slant")
    piece: dict[str, Any] = {"text": state.subject.texts[number]}
    piece |= {name: float(rest[name][0] + moved[name]) for name in added}
    piece |= {name: float(rest[name][0] * moved[name]) for name in ("scale_x", "scale_y")}
    piece["opacity"] = float(rest["opacity"][0] * state.opacity()[0, number])
    if isinstance(clip, TextClip):
        piece["fill_opacity"] = float(moved["fill_opacity"] * clip.look.fill_opacity)
        piece["outline_opacity"] = float(moved["outline_opacity"])
        piece["tracking"] = clip.words.tracking
    piece["shown"] = bool(state.shown[0, number])
    return piece


def _bounds(scene: Scene, clip: PictureClip, state: LayerState, matrices: Floats) -> list[float] | None:
    """The box of all ink that is to be seen, outlines and all, or None where there is none."""
    if state.rest["opacity"][0] == 0:
        return None
    points = []
    for number in np.flatnonzero(state.opacity()[0] > 0):
        ink = ink_points(state.subject, int(number), _reach(clip))
        if len(ink):
            points.append(mapped(projected(matrices[number], scene.size), ink))
    seen = np.concatenate(points) if points else np.zeros((0, 2))
    seen = seen[np.isfinite(seen).all(axis=1)]
    if not len(seen):
        return None
    centred = seen - np.array(scene.size) / 2
    return [*map(float, centred.min(axis=0)), *map(float, centred.max(axis=0))]


def _reach(clip: PictureClip) -> float:
    if not isinstance(clip, TextClip):
        return 0.0
    return max((_OUTSIDE[outline.side] * outline.width for outline in clip.look.outlines), default=0.0)


def ink_points(subject: Subject, piece: int, reach: float) -> Floats:
    """(m, 2): outline control points of a piece in the layer's px; boxes give their corners.

    With an outline each point stands for the square that the outline's width draws round it.
    """
    if subject.layout is None or subject.of_glyph is None:
        left, top, right, bottom = subject.ink[piece]
        points = np.array([[left, top], [right, top], [right, bottom], [left, bottom]])
        return points[np.isfinite(points).all(axis=1)]
    layout = subject.layout
    parts = [np.zeros((0, 2))]
    for glyph in np.flatnonzero(subject.of_glyph == piece):
        face = layout.faces[layout.face[glyph]]
        outline = face.outline(int(layout.glyph[glyph])).points * (layout.size / face.upem)
        parts.append(np.stack([layout.x[glyph] + outline[:, 0], layout.y[glyph] - outline[:, 1]], axis=1))
    points = np.concatenate(parts)
    if reach == 0:
        return points
    return np.concatenate([points + np.array([dx, dy]) * reach for dx in (-1, 1) for dy in (-1, 1)])
