"""What a drag in the viewer does: to layers by their handles, and to guides."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np
from PySide6.QtCore import QPointF, Qt

from rovix.check.safe import ACTION, TITLE, safe_rect
from rovix.desktop.document import Document, Edit
from rovix.desktop.viewer.geometry import Grab, View, scaled_by, turned_by
from rovix.edit import change_transform, clip_by_id, transform_value
from rovix.edit.alignment import Box, Caught, Targets, caught, targets
from rovix.edit.arrange import move_in_frame, move_pivot
from rovix.edit.guides import move_guide
from rovix.model import PictureClip, Project
from rovix.model.clip_kinds import is_layer
from rovix.motion.quads import LayerQuads
from rovix.motion.transform import mapped

SNAP = 7.0  # px of the viewer
_DEGREES = 0.5  # for each px that a tip or swing handle is dragged
_NAMES = {
    "move": "Move", "scale": "Scale", "rotation_z": "Rotate", "rotation_x": "Rotate", "rotation_y": "Rotate",
    "pivot": "Move the pivot of",
}  # fmt: skip
SHIFT, CONTROL = Qt.KeyboardModifier.ShiftModifier, Qt.KeyboardModifier.ControlModifier


@dataclass
class LayerDrag:
    """From a press on a layer to its release. `caught` says what the layer is caught on just now."""

    document: Document
    grab: Grab
    start: QPointF
    view: View
    quads: LayerQuads
    identities: tuple[str, ...]
    targets: Targets | None
    values: dict[str, float]
    moved: bool = False
    caught: Caught = field(default=Caught())

    @property
    def title(self) -> str:
        """What the step is called."""
        if len(self.identities) > 1:
            return f"{_NAMES[self.grab.kind]} {len(self.identities)} layers"
        clip = self.document.clip
        return f"{_NAMES[self.grab.kind]} {clip.title if clip else 'layer'}"

    def edit(self, point: QPointF, modifiers: Qt.KeyboardModifier) -> Edit:
        """The edit that a drag up to a point of the viewer makes. Shift keeps to one axis or to steps;
        Ctrl catches on nothing."""
        if self.grab.kind == "move":
            dx, dy = self._way(point, modifiers)
            frame = self.document.playhead
            return lambda project: _all_moved(project, self.identities, frame, dx, dy)
        if self.grab.kind == "pivot":
            return self._pivot(point)
        values = self._values(point, bool(modifiers & SHIFT))
        return lambda project: self._all_turned(project, values)

    def _all_turned(self, project: Project, values: dict[str, float]) -> Project:
        """The dragged layer with new values, and the others as much larger, or turned as far."""
        frame = self.document.playhead
        for identity in self.identities:
            clip = clip_by_id(project, identity)
            assert is_layer(clip)
            at = frame - clip.start
            own = {name: self._gone_on(clip, name, value, at) for name, value in values.items()}
            project = change_transform(project, identity, at, **own)
        return project

    def _gone_on(self, clip: PictureClip, name: str, value: float, at: int) -> float:
        before, own = self.values[name], transform_value(clip.transform, name, at)
        if clip.id == self.identities[-1] or own == before:
            return value
        if name in ("scale_x", "scale_y"):
            return round(own * value / before, 4) if before else own
        return round(own + value - before, 1)

    def _way(self, point: QPointF, modifiers: Qt.KeyboardModifier) -> tuple[float, float]:
        way = (point - self.start) / self.view.scale
        dx, dy = way.x(), way.y()
        if modifiers & SHIFT:
            dx, dy = (dx, 0.0) if abs(dx) >= abs(dy) else (0.0, dy)
        self.caught = Caught()
        if self.targets is not None and not modifiers & CONTROL:
            left, top, right, bottom = _box(self.quads)
            box = (left + dx, top + dy, right + dx, bottom + dy)
            self.caught = caught(box, self.targets, SNAP / self.view.scale)
            dx, dy = dx + self.caught.dx, dy + self.caught.dy
        return round(dx, 3), round(dy, 3)

    def _values(self, point: QPointF, shift: bool) -> dict[str, float]:
        values, kind = self.values, self.grab.kind
        pivot = self.view.to_view(*self.quads.pivot.tolist())
        if kind in ("rotation_x", "rotation_y"):
            way = point - self.start
            # What is pulled down or to the right tips and swings towards the viewer.
            turn = values[kind] + (way.y() if kind == "rotation_x" else -way.x()) * _DEGREES
            return {kind: round(turn / 15) * 15.0 if shift else round(turn, 1)}
        if kind == "rotation_z":
            turn = values["rotation_z"] + turned_by(pivot, self.start, point)
            return {"rotation_z": round(turn / 15) * 15.0 if shift else round(turn, 1)}
        factor = scaled_by(pivot, self.start, point)
        if shift:
            way = point - self.start
            name = "scale_x" if abs(way.x()) >= abs(way.y()) else "scale_y"
            return {name: round(values[name] * factor, 4)}
        return {name: round(values[name] * factor, 4) for name in ("scale_x", "scale_y")}

    def _pivot(self, point: QPointF) -> Edit:
        """Where in the layer's block the point lies, by the homography of its corners at rest."""
        unit = np.array([[0.0, 0.0], [1.0, 0.0], [1.0, 1.0], [0.0, 1.0]])
        to_unit = _homography(self.quads.block, unit)
        x, y = mapped(to_unit, np.array([self.view.to_frame(point)]))[0].round(4).tolist()
        identity, frame = self.identities[-1], self.document.playhead
        return lambda project: move_pivot(project, identity, frame, x, y)


def begin_drag(
    document: Document, grab: Grab, start: QPointF, view: View, quads: tuple[LayerQuads, ...], snaps: bool
) -> LayerDrag | None:
    """A drag of the selected layers; None where there is nothing to drag."""
    clip = document.clip
    own = next((layer for layer in quads if layer.id == document.selected), None)
    if not is_layer(clip) or own is None or document.is_locked:
        return None
    names = ("scale_x", "scale_y", "rotation_z", "rotation_x", "rotation_y")
    values = {name: transform_value(clip.transform, name, document.clip_frame) for name in names}
    several = grab.kind != "pivot" and len(document.selection) > 1
    chosen = tuple(filter(lambda i: _movable(document, i), document.selection)) if several else (clip.id,)
    around = snap_targets(document, quads, chosen) if snaps else None
    return LayerDrag(document, grab, start, view, own, chosen, around, values)


def snap_targets(document: Document, quads: tuple[LayerQuads, ...], without: tuple[str, ...]) -> Targets:
    """What layers are caught on in the open sequence: its frame, safe areas and guides, other layers."""
    sequence = document.project.sequence
    size = sequence.size
    guides: tuple[list[float], list[float]] = ([], [])
    for guide in sequence.guides:
        axis = 0 if guide.upright else 1
        guides[axis].append(size[axis] / 2 + guide.at)
    others = (layer for layer in quads if layer.id not in without and len(layer.pieces))
    boxes = [_box(layer) for layer in others if np.all(np.isfinite(layer.rest))]
    # What fills the frame has the frame's own edges.
    inside = [box for box in boxes if box[2] - box[0] < size[0] or box[3] - box[1] < size[1]]
    return targets(size, [safe_rect(size, ACTION), safe_rect(size, TITLE)], guides, inside)


def guide_edit(view: View, upright: bool, identity: str, point: QPointF) -> Edit:
    """The edit that puts a guide under a point of the viewer; beyond the frame it goes."""
    spot = view.to_frame(point)[0 if upright else 1]
    side = view.size[0 if upright else 1]
    at = round(spot) - side / 2 if 0 <= spot <= side else None
    return lambda project: move_guide(project, identity, at)


def _all_moved(project: Project, identities: tuple[str, ...], frame: int, dx: float, dy: float) -> Project:
    for identity in identities:
        project = move_in_frame(project, identity, frame, dx, dy)
    return project


def _movable(document: Document, identity: str) -> bool:
    clip = clip_by_id(document.project, identity)
    return is_layer(clip) and document.playhead in clip.span


def _box(quads: LayerQuads) -> Box:
    (left, top), (right, bottom) = quads.rest.min(axis=0).tolist(), quads.rest.max(axis=0).tolist()
    return left, top, right, bottom


def _homography(source: np.ndarray, target: np.ndarray) -> np.ndarray:
    """(3, 3): the one that takes four points to four others."""
    rows = []
    for (x, y), (u, v) in zip(source.tolist(), target.tolist(), strict=True):
        rows.append([x, y, 1, 0, 0, 0, -u * x, -u * y, -u])
        rows.append([0, 0, 0, x, y, 1, -v * x, -v * y, -v])
    return np.linalg.svd(np.array(rows))[2][-1].reshape(3, 3)
