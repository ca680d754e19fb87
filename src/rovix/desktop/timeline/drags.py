"""Hands in the timeline: what a press began, until it is let go."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtWidgets import QToolTip

from rovix.desktop.timeline.gestures import SNAP_PX, TITLES, Aim, Gesture
from rovix.desktop.timeline.rows import Row, row_at, rows_between
from rovix.desktop.timeline.scale import HEADER
from rovix.edit.markers import move_marker
from rovix.edit.selected_clips import ids_within
from rovix.edit.snapping import snap_frames, snapped
from rovix.edit.tracks import LOWEST, TALLEST, change_track, place_track
from rovix.model import Clip, Marker, Project
from rovix.time import Span

if TYPE_CHECKING:
    from rovix.desktop.timeline.surface import Surface

_STILL = 4  # px that a hand may tremble before it drags


class ScrubDrag:
    """Moves the playhead along the ruler."""

    def __init__(self, canvas: Surface, point: QPointF) -> None:
        self._canvas = canvas
        self.drag(point)

    def drag(self, point: QPointF) -> None:
        self._canvas.projector.stop()
        self._canvas.document.seek(int(self._canvas.scale.frame(point.x())))

    def let_go(self) -> None:
        """The playhead stays."""

    def give_up(self) -> None:
        """The playhead stays."""


class Drafting:
    """A drag whose edit is shown as a draft, and is one step when let go."""

    title = ""

    def __init__(self, canvas: Surface, press: QPointF) -> None:
        self._canvas, self._press, self._moved = canvas, press, False

    def drag(self, point: QPointF) -> None:
        if not self._moved and (point - self._press).manhattanLength() < _STILL:
            return
        self._moved = True
        self._canvas.document.try_on(lambda project: self.edited(project, point))
        self.tell(point)

    def edited(self, project: Project, point: QPointF) -> Project:
        raise NotImplementedError

    def tell(self, point: QPointF) -> None:
        """Say beside the hand what it has reached."""

    def let_go(self) -> None:
        if self._moved:
            self._canvas.document.keep(self.title)

    def give_up(self) -> None:
        self._canvas.document.drop()

    def is_held(self, modifier: Qt.KeyboardModifier) -> bool:
        """Whether a modifier key is down while the hand drags."""
        return bool(self._canvas.modifiers & modifier)

    @property
    def within(self) -> float:
        """Frames within which an edge catches."""
        return SNAP_PX / self._canvas.scale.px


class ClipDrag(Drafting):
    """Drags a clip, or one of its edges and grips; the selected clips go along when it is moved."""

    def __init__(self, canvas: Surface, part: str, clip: Clip, row: Row, point: QPointF) -> None:
        super().__init__(canvas, point)
        chosen = canvas.document.selection
        self._gesture = Gesture(part, clip.id, chosen, canvas.scale.frame(point.x()), row.track)
        self._row, self._made = row, list[str]()
        # The marks stay while the hand drags: the edit starts from the same project each time.
        document = canvas.document
        without = () if part == "copy" else chosen
        self._marks = snap_frames(document.committed, document.playhead, without, canvas.snaps_to_keys)
        many = part != "transition" and clip.id in chosen and len(chosen) > 1
        self.title = f"{TITLES[part]} {f'{len(chosen)} clips' if many else clip.title}"

    def edited(self, project: Project, point: QPointF) -> Project:
        canvas = self._canvas
        row = row_at(canvas.rows(project), point.y())
        aim = Aim(
            canvas.scale.frame(point.x()),
            row.track if row is not None else self._row.track,
            self._marks,
            self.within,
        )
        project, self._made = self._gesture.made(project, aim)
        return project

    def tell(self, point: QPointF) -> None:
        clip = self._canvas.document.clip
        if clip is not None:
            said = self._canvas.said(clip, self._gesture.part)
            QToolTip.showText(self._canvas.mapToGlobal(point.toPoint()), said, self._canvas)

    def let_go(self) -> None:
        super().let_go()
        document = self._canvas.document
        if self._moved and self._gesture.left.names:
            document.told.emit(self._gesture.left.said())
        if self._made:
            document.select(*self._made)
        elif not self._moved:
            document.select(self._gesture.clip)


class Band:
    """A rubber band: selects what it touches; with Ctrl in addition to what is selected."""

    def __init__(self, canvas: Surface, press: QPointF, adding: bool) -> None:
        self._canvas, self._press = canvas, press
        self._before = canvas.document.selection if adding else ()
        canvas.document.select(*self._before)

    def drag(self, point: QPointF) -> None:
        canvas = self._canvas
        box = QRectF(self._press, point).normalized()
        canvas.band = box
        first, last = canvas.scale.frame(max(HEADER, box.left())), canvas.scale.frame(box.right())
        span = Span(max(0, int(first)), max(0, int(first), int(last) + 1))
        tracks = rows_between(canvas.rows(), box.top(), box.bottom())
        canvas.document.select(*self._before, *ids_within(canvas.document.project, span, tracks))
        canvas.update()

    def let_go(self) -> None:
        self._canvas.band = None

    def give_up(self) -> None:
        self._canvas.band = None
        self._canvas.document.select(*self._before)


class MarkerDrag(Drafting):
    """Drags a marker along the ruler; a click puts the playhead on it."""

    def __init__(self, canvas: Surface, marker: Marker, point: QPointF) -> None:
        super().__init__(canvas, QPointF(point.x(), 0))
        self._marker, self._grip = marker, canvas.scale.frame(point.x()) - marker.frame
        self.title = f"Move {marker.name or 'a marker'}"
        canvas.projector.stop()
        canvas.document.seek(marker.frame)

    def drag(self, point: QPointF) -> None:
        super().drag(QPointF(point.x(), 0))

    def edited(self, project: Project, point: QPointF) -> Project:
        marks = [
            f for f in snap_frames(project, 0, keys=self._canvas.snaps_to_keys) if f != self._marker.frame
        ]
        frame = round(self._canvas.scale.frame(point.x()) - self._grip)
        frame = snapped(max(0, frame), marks, self.within)
        return move_marker(project, self._marker.id, frame)


class TrackDrag(Drafting):
    """Drags a track by its header to another place among those of its kind."""

    def __init__(self, canvas: Surface, track: str, point: QPointF) -> None:
        super().__init__(canvas, point)
        self._track = track
        self.title = "Move a track"

    def edited(self, project: Project, point: QPointF) -> Project:
        row = row_at(self._canvas.rows(project), point.y())
        return project if row is None else place_track(project, self._track, row.track)


class RowDrag(Drafting):
    """Drags a row's lower edge."""

    def __init__(self, canvas: Surface, track: str, row: Row, point: QPointF) -> None:
        super().__init__(canvas, point)
        self._track, self._row = track, row
        self.title = "Change a track's height"

    def edited(self, project: Project, point: QPointF) -> Project:
        height = round(min(max(point.y() - self._row.top, LOWEST), TALLEST))
        return change_track(project, self._track, height=height)
