"""Hands in lanes: dragging keys, tangents and the bracket, rubber bands, a lane's height."""

from __future__ import annotations

from math import floor
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt

from rovix.desktop.key_selection import Spot, spots_of
from rovix.desktop.timeline.drags import Drafting
from rovix.desktop.timeline.lanes.geometry import Handle, LaneCurve
from rovix.edit.keys import move_keys, stretch_keys
from rovix.edit.snapping import snap_frames, snapped
from rovix.edit.tangents import drag_handle, kept_angle, kept_length
from rovix.edit.tree import clip_of
from rovix.errors import RovixError
from rovix.model import Project

if TYPE_CHECKING:
    from rovix.desktop.timeline.surface import Surface


class _KeyDrag(Drafting):
    """A drag of selected keys; where they would meet others, they stay as they were last."""

    def __init__(self, canvas: Surface, point: QPointF) -> None:
        super().__init__(canvas, point)
        document = canvas.document
        self._spots = list(document.keys)
        self._marks = _marks(canvas, self._spots)
        self._last: tuple[Project, list[Spot]] | None = None

    def edited(self, project: Project, point: QPointF) -> Project:
        try:
            self._last = self.changed(project, point)
        except RovixError:
            # Keys that would meet stop there; the hand goes on.
            self._last = self._last or (project, self._spots)
        return self._last[0]

    def changed(self, project: Project, point: QPointF) -> tuple[Project, list[Spot]]:
        raise NotImplementedError

    def drag(self, point: QPointF) -> None:
        super().drag(point)
        if self._last is not None:
            self._canvas.document.keys.set(self._last[1])

    def give_up(self) -> None:
        super().give_up()
        self._canvas.document.keys.set(self._spots)


def _marks(canvas: Surface, spots: list[Spot]) -> list[int]:
    """Frames of the sequence that keys catch on: everything but the dragged keys themselves."""
    document = canvas.document
    moving = {clip_of(document.committed, clip).start + frame for clip, _, frame in spots}
    return [
        f
        for f in snap_frames(document.committed, document.playhead, keys=canvas.snaps_to_keys)
        if f not in moving
    ]


class KeyDrag(_KeyDrag):
    """Drags the selected keys in time, and in value those of the lane it took hold in."""

    def __init__(self, canvas: Surface, curve: LaneCurve, frame: int, point: QPointF) -> None:
        super().__init__(canvas, point)
        self._curve, self._frame = curve, frame
        self._address = curve.lane.address or ""
        count = len(self._spots)
        self.title = "Move a key" if count == 1 else f"Move {count} keys"

    def changed(self, project: Project, point: QPointF) -> tuple[Project, list[Spot]]:
        frames, value = self._ways(point)
        moved = []
        for clip in {clip for clip, _, _ in self._spots}:
            chosen = self._canvas_chosen(clip)
            values = {self._address: value} if clip == self._curve.clip.id else {}
            project = move_keys(project, clip, chosen, frames, values)
            moved += [(clip, address, frame + frames) for address, own in chosen.items() for frame in own]
        return project, moved

    def _canvas_chosen(self, clip: str) -> dict[str, tuple[int, ...]]:
        found: dict[str, tuple[int, ...]] = {}
        for own, address, frame in self._spots:
            if own == clip:
                found[address] = (*found.get(address, ()), frame)
        return found

    def _ways(self, point: QPointF) -> tuple[int, float]:
        curve, start = self._curve, self._curve.clip.start
        at = curve.frame(point.x()) - curve.frame(self._press.x()) + self._frame
        frame = snapped(floor(start + at + 0.5), self._marks, self.within) - start
        value = curve.value(point.y()) - curve.value(self._press.y())
        if self.is_held(Qt.KeyboardModifier.ShiftModifier):
            way = point - self._press
            if abs(way.x()) >= abs(way.y()):
                value = 0.0
            else:
                frame = self._frame
        # A hand that goes along in time trembles in value; the last few px count for nothing.
        if abs(point.y() - self._press.y()) < 3:
            value = 0.0
        return frame - self._frame, value

    def tell(self, point: QPointF) -> None:
        self._canvas.lanes.say_key(self._curve, self._frame + self._ways(point)[0], point)


class HandleDrag(Drafting):
    """Drags a tangent: Shift keeps its angle, Ctrl its length, Alt breaks it from the other."""

    title = "Shape a curve"

    def __init__(self, canvas: Surface, curve: LaneCurve, handle: Handle, point: QPointF) -> None:
        super().__init__(canvas, point)
        self._curve, self._handle = curve, handle
        number = [key.frame for key in curve.keys].index(handle.frame)
        self._key, self._start = curve.keys[number], curve.handle_of(number, handle.side)

    def edited(self, project: Project, point: QPointF) -> Project:
        curve, handle = self._curve, self._handle
        way = -1 if handle.side == "before" else 1
        end = ((curve.frame(point.x()) - handle.frame) * way, curve.value(point.y()) - self._key.value)
        if self.is_held(Qt.KeyboardModifier.ShiftModifier):
            end = kept_angle(self._start, end, curve.unit)
        elif self.is_held(Qt.KeyboardModifier.ControlModifier):
            end = kept_length(self._start, end, curve.unit)
        apart = self.is_held(Qt.KeyboardModifier.AltModifier)
        address = curve.lane.address or ""
        return drag_handle(project, curve.clip.id, address, handle.frame, handle.side, end, apart)


class StretchDrag(_KeyDrag):
    """Drags an end of the bracket: the keys keep their proportions, the other end stays."""

    title = "Stretch the keys"

    def __init__(self, canvas: Surface, clip: str, end: int, point: QPointF) -> None:
        super().__init__(canvas, point)
        self._clip = clip
        frames = [frame for own, _, frame in self._spots if own == clip]
        self._moving, self._anchor = (min(frames), max(frames)) if end < 0 else (max(frames), min(frames))
        self.said = ""

    def changed(self, project: Project, point: QPointF) -> tuple[Project, list[Spot]]:
        canvas, start = self._canvas, clip_of(project, self._clip).start
        by = (point.x() - self._press.x()) / canvas.scale.px
        frame = snapped(round(start + self._moving + by), self._marks, self.within) - start
        factor = (frame - self._anchor) / (self._moving - self._anchor)
        chosen = canvas.document.keys.of(self._clip) if self._last is None else self._of_clip()
        project = stretch_keys(project, self._clip, chosen, self._anchor, factor)
        moved = {
            address: [self._anchor + floor((f - self._anchor) * factor + 0.5) for f in own]
            for address, own in chosen.items()
        }
        self.said = f"{abs(frame - self._anchor)} f, {factor * 100:.0f} %"
        others = [spot for spot in self._spots if spot[0] != self._clip]
        return project, [*others, *spots_of(self._clip, moved)]

    def _of_clip(self) -> dict[str, tuple[int, ...]]:
        found: dict[str, tuple[int, ...]] = {}
        for own, address, frame in self._spots:
            if own == self._clip:
                found[address] = (*found.get(address, ()), frame)
        return found


class KeyBand:
    """A rubber band over lanes: selects the keys in it; with Ctrl in addition to what is selected."""

    def __init__(self, canvas: Surface, press: QPointF, adding: bool) -> None:
        self._canvas, self._press = canvas, press
        self._before = list(canvas.document.keys) if adding else []
        canvas.document.keys.set(self._before)

    def drag(self, point: QPointF) -> None:
        canvas = self._canvas
        canvas.band = QRectF(self._press, point).normalized()
        found = canvas.lanes.keys_in(canvas.band)
        canvas.document.keys.set([*self._before, *found])
        if not found:
            canvas.document.inner.set(canvas.lanes.inner_keys_in(canvas.band))
        canvas.update()

    def let_go(self) -> None:
        self._canvas.band = None

    def give_up(self) -> None:
        self._canvas.band = None
        self._canvas.document.keys.set(self._before)


class HeightDrag:
    """Drags a lane's lower edge."""

    def __init__(self, canvas: Surface, clip: str, address: str, top: int) -> None:
        self._canvas, self._clip, self._address, self._top = canvas, clip, address, top
        self._before = canvas.lanes.state.heights.get((clip, address))

    def drag(self, point: QPointF) -> None:
        self._canvas.lanes.state.set_height(self._clip, self._address, point.y() - self._top)
        self._canvas.redraw()

    def let_go(self) -> None:
        """The height stays; it is no step, as it is about the view."""

    def give_up(self) -> None:
        heights = self._canvas.lanes.state.heights
        heights.pop((self._clip, self._address), None)
        if self._before is not None:
            heights[(self._clip, self._address)] = self._before
