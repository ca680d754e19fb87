"""Layers moved in the picture: by px of the frame, aligned, spaced evenly, about another pivot."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from rovix.edit.alignment import Box, alignments, around, distributions
from rovix.edit.paths import move_on_path
from rovix.edit.transform import change_transform, transform_value
from rovix.edit.tree import clip_by_id
from rovix.errors import RovixError
from rovix.model import PictureClip, Project
from rovix.model.clip_kinds import is_layer
from rovix.motion import Scene, clip_spans
from rovix.motion.quads import layer_quads
from rovix.motion.rest import rest_at
from rovix.motion.scene import world_of
from rovix.motion.transform import mapped, shifted

Floats = NDArray[np.float64]


def layer_box(project: Project, identity: str, frame: int) -> Box:
    """The box round a layer's ink at rest, px of the frame from its top left, at a frame of the sequence."""
    clip, scene = picture_layer(project, identity), Scene.of(project)
    corners = layer_quads(scene, clip, frame - clip.start, world_of(scene, clip, frame)).rest
    if not np.all(np.isfinite(corners)):
        raise RovixError(f"'{clip.title}' lies behind the viewer here; it has no box to align.")
    (left, top), (right, bottom) = corners.min(axis=0).tolist(), corners.max(axis=0).tolist()
    return left, top, right, bottom


def move_in_frame(project: Project, identity: str, frame: int, dx: float, dy: float) -> Project:
    """Move a layer by px of the frame, whatever it follows; animated channels get a key at the frame."""
    if dx == 0 and dy == 0:
        return project
    clip = picture_layer(project, identity)
    x, y = frame_to_place(project, clip, frame, dx, dy)
    at = min(max(0, frame - clip.start), clip.length - 1)
    if clip.transform.path is not None:
        return move_on_path(project, identity, at, x, y)
    old = (transform_value(clip.transform, name, at) for name in ("x", "y"))
    moved = [round(value + way, 4) for value, way in zip(old, (x, y), strict=True)]
    return change_transform(project, identity, at, x=moved[0], y=moved[1])


def last_line_to_mid_height(project: Project, identity: str) -> Project:
    """Move a text layer so that its last line, where it rests after its entrance, is at the middle of the
    frame's height. RovixError for what is no text layer, or has no words."""
    clip = picture_layer(project, identity)
    scene = Scene.of(project)
    entrance = clip_spans(clip, scene.rate).entrance
    state = scene.state(clip, np.array([float(entrance)]))
    layout = state.subject.layout
    if layout is None or not layout.text.strip():
        raise RovixError("Only words have a last line to place; select a layer with some.")
    last = next(line for line in reversed(layout.lines) if layout.text[line.start : line.end].strip())
    frame = clip.start + entrance
    flat = scene.project(world_of(scene, clip, frame) @ state.layer[0])
    middle = mapped(flat, np.array([[last.left + last.width / 2, last.baseline - last.cap / 2]]))[0]
    return move_in_frame(project, identity, frame, 0.0, scene.size[1] / 2 - float(middle[1]))


def frame_to_place(
    project: Project, clip: PictureClip, frame: int, dx: float, dy: float
) -> tuple[float, float]:
    """What a way in px of the frame is in a layer's own x and y, with what it follows and its depth."""
    scene = Scene.of(project)
    world = world_of(scene, clip, frame)
    # Only where it rests counts; its moves, which take longer to work out, do not.
    rest = rest_at(clip.transform, np.array([float(frame - clip.start)]))
    place = shifted(float(rest["x"][0]), float(rest["y"][0]))
    place[2, 3] = float(rest["z"][0])
    steps = np.stack([world @ shifted(*way) @ place for way in ((0.0, 0.0), (1.0, 0.0), (0.0, 1.0))])
    origin, across, down = mapped(scene.project(steps), np.zeros((3, 1, 2)))[:, 0]
    way = np.stack([across - origin, down - origin], axis=1)
    if not np.all(np.isfinite(way)) or abs(np.linalg.det(way)) < 1e-9:
        return dx, dy
    found = np.linalg.solve(way, np.array([dx, dy]))
    return float(found[0]), float(found[1])


def align_layers(project: Project, identities: tuple[str, ...], frame: int, side: str) -> Project:
    """Align layers to a side (left, centre, right, top, middle, bottom): one to the frame, several to
    the box round them all."""
    boxes = [layer_box(project, identity, frame) for identity in identities]
    width, height = project.sequence.size
    to = around(boxes) if len(boxes) > 1 else (0.0, 0.0, float(width), float(height))
    return _moved(project, identities, frame, alignments(boxes, side, to))


def distribute_layers(
    project: Project, identities: tuple[str, ...], frame: int, axis: int, by: str
) -> Project:
    """Space layers evenly between the outermost two along an axis (0 across, 1 down), by `middles` or
    `gaps`."""
    if len(identities) < 3:
        raise RovixError("Select three layers or more to space them evenly.")
    boxes = [layer_box(project, identity, frame) for identity in identities]
    return _moved(project, identities, frame, distributions(boxes, axis, by))


def _moved(
    project: Project, identities: tuple[str, ...], frame: int, moves: list[tuple[float, float]]
) -> Project:
    for identity, (dx, dy) in zip(identities, moves, strict=True):
        project = move_in_frame(project, identity, frame, dx, dy)
    return project


def move_pivot(project: Project, identity: str, frame: int, x: float, y: float) -> Project:
    """Set the point that a layer turns about, as shares of its block, without moving the picture.

    Where place, turn or scale are animated the layer stands still at the frame given.
    """
    clip = picture_layer(project, identity)
    at = min(max(0, frame - clip.start), clip.length - 1)
    before = _anchor_matrix(project, clip, frame)
    turned = change_transform(project, identity, at, pivot_x=x, pivot_y=y)
    after = _anchor_matrix(turned, picture_layer(turned, identity), frame)
    ways = zip(("x", "y", "z"), (before - after)[:3, 3].tolist(), strict=True)
    values = {name: round(transform_value(clip.transform, name, at) + way, 4) for name, way in ways if way}
    return change_transform(turned, identity, at, **values) if values else turned


def _anchor_matrix(project: Project, clip: PictureClip, frame: int) -> Floats:
    """(4, 4): the layer's own matrix, without what it follows."""
    state = Scene.of(project).state(clip, np.array([float(frame - clip.start)]))
    return state.layer[0]


def picture_layer(project: Project, identity: str) -> PictureClip:
    """The layer with that id; RovixError when it is none."""
    clip = clip_by_id(project, identity)
    if not is_layer(clip):
        raise RovixError("Only layers have a place in the picture; select some.")
    return clip
