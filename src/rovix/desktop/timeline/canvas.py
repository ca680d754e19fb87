"""What is grabbed in the timeline: presses, keys, tips, and files dropped on it."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QPointF, Qt, Signal
from PySide6.QtGui import (
    QContextMenuEvent,
    QDragEnterEvent,
    QDragMoveEvent,
    QDropEvent,
    QHelpEvent,
    QKeyEvent,
    QMouseEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QToolTip

from rovix.desktop.document import Document
from rovix.desktop.projector import Projector
from rovix.desktop.thumbnails import Thumbnails
from rovix.desktop.timeline.drags import Band, ClipDrag, MarkerDrag, RowDrag, ScrubDrag, TrackDrag
from rovix.desktop.timeline.headers import TURNS, Mark
from rovix.desktop.timeline.lanes import Lanes
from rovix.desktop.timeline.lanes.pictures import LanePictures
from rovix.desktop.timeline.lanes.tips import tip
from rovix.desktop.timeline.motion_drags import Grip, GripDrag, grip_at, tip_of
from rovix.desktop.timeline.named import Named
from rovix.desktop.timeline.rows import Row, row_at
from rovix.desktop.timeline.ruler import (
    marker_at,
)
from rovix.desktop.timeline.scale import HEADER, RULER, Scale
from rovix.desktop.timeline.surface import Hand
from rovix.edit.importing import add_to_timeline
from rovix.edit.tracks import change_track, clip_order
from rovix.edit.tree import clip_by_id
from rovix.model import Clip, Track
from rovix.model.clip_kinds import has_words, is_layer, is_nesting
from rovix.time import timecode

MEDIA_KIND = "application/x-rovix-media"
"""What the bin hands over when one of its files is dragged: the ids, a line each."""
TITLE_KIND = "application/x-rovix-title"
"""What the card of a title hands over when it is dragged: its file."""

_CURSORS = {
    "move": Qt.CursorShape.ArrowCursor,
    "lanes": Qt.CursorShape.PointingHandCursor,
    "start": Qt.CursorShape.SizeHorCursor,
    "end": Qt.CursorShape.SizeHorCursor,
    "transition": Qt.CursorShape.SizeHorCursor,
    "entrance": Qt.CursorShape.SplitHCursor,
    "exit": Qt.CursorShape.SplitHCursor,
    "fade_in": Qt.CursorShape.PointingHandCursor,
    "fade_out": Qt.CursorShape.PointingHandCursor,
}


class Canvas(Named):
    """The timeline below its scroll bar."""

    lanes: Lanes
    title_dropped = Signal(str, int, object)
    """A title's file, the frame where it was dropped, and the track's number, None beside all of them."""

    def __init__(self, document: Document, projector: Projector, thumbnails: Thumbnails) -> None:
        super().__init__(document, projector, thumbnails)
        self.lanes = Lanes(self)
        self.paint_lanes = LanePictures(self, self.lanes).paint
        self.setMouseTracking(True)
        self.setAcceptDrops(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.setAccessibleName("Timeline")
        self.setAccessibleDescription(
            "Tracks and clips. Tab goes to the next clip; Ctrl+Left and Right nudge what is selected."
        )

    # Hands

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.modifiers = event.modifiers()
        if event.button() == Qt.MouseButton.LeftButton:
            self.hand = self._taken_up(event)

    def _taken_up(self, event: QMouseEvent) -> Hand | None:
        point, keys = event.position(), event.modifiers()
        if point.y() < RULER:
            marker = marker_at(self.scale, self.document.project.sequence.markers, point)
            return MarkerDrag(self, marker, point) if marker is not None else ScrubDrag(self, point)
        lane = self.lanes.at(point)
        if lane is not None:
            return self.lanes.hand(lane, point, keys)
        if point.x() < HEADER:
            return self._header_hand(point)
        found = self.clip_under(point)
        if found is None:
            return Band(self, point, bool(keys & Qt.KeyboardModifier.ControlModifier))
        return self._clip_hand(*found, point, keys)

    def _header_hand(self, point: QPointF) -> Hand | None:
        track, mark, row = self._header_under(point)
        if track is not None and mark is not None:
            self._turn(track, mark)
            return None
        edge = self._row_edge(point)
        tracks = self.document.project.sequence.tracks
        if edge is not None:
            return RowDrag(self, tracks[edge.track].id, edge, point)
        if track is None or row is None:
            return None
        self.point_at(track.id)
        return TrackDrag(self, track.id, point)

    def _turn(self, track: Track, mark: Mark) -> None:
        changes = {mark.field: not mark.on}
        title = f"{TURNS[mark.field][mark.on]} {track.name}"
        self.document.do(title, lambda project: change_track(project, track.id, **changes))

    def _clip_hand(self, clip: Clip, row: Row, point: QPointF, keys: Qt.KeyboardModifier) -> Hand | None:
        adding = keys & (Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier)
        copying = bool(keys & Qt.KeyboardModifier.AltModifier)
        if adding and not copying:
            self.document.select_also(clip.id)
            return None
        grip = self._grip_under(clip, row, point)
        if grip is not None and is_layer(clip) and not copying:
            locked = self.document.project.sequence.tracks[row.track].locked
            return None if locked else GripDrag(self, clip, grip, point)
        part = self.part_under(clip, row, point)
        if part == "lanes":
            self.lanes.toggle(clip.id)
            return None
        if part == "move" and copying:
            part = "slip" if keys & Qt.KeyboardModifier.ControlModifier else "copy"
        was_chosen = clip.id in self.document.selection
        others = self.document.selection if was_chosen else ()
        self.document.select(*(identity for identity in others if identity != clip.id), clip.id)
        if self.document.project.sequence.tracks[row.track].locked:
            return None
        return ClipDrag(self, part, clip, row, point)

    def _grip_under(self, clip: Clip, row: Row, point: QPointF) -> Grip | None:
        """The tick or stage of the clip selected last under a point."""
        if clip.id != self.document.selected or not is_layer(clip) or not clip.moves:
            return None
        return grip_at(self, clip, self._clip_box(clip.start, clip.span.end, row), point)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        point, self.modifiers = event.position(), event.modifiers()
        if self.hand is not None:
            self.hand.drag(point)
        else:
            self._show_cursor(point)

    def _show_cursor(self, point: QPointF) -> None:
        found = self.clip_under(point)
        lane = self.lanes.at(point)
        if lane is not None:
            self.setCursor(self.lanes.cursor(lane, point))
            return
        shape = _CURSORS["move"]
        if self._row_edge(point) is not None:
            shape = Qt.CursorShape.SizeVerCursor
        elif found is not None and self._grip_under(*found, point) is not None:
            shape = Qt.CursorShape.SizeHorCursor
        elif found is not None:
            shape = _CURSORS[self.part_under(*found, point)]
        self.setCursor(shape)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        hand, self.hand = self.hand, None
        if hand is not None:
            hand.let_go()
        self.redraw()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        point = event.position()
        lane = self.lanes.at(point)
        if lane is not None:
            self.lanes.double_click(lane, point)
            return
        marker = marker_at(self.scale, self.document.project.sequence.markers, point)
        track, mark, row = self._header_under(point)
        found = self.clip_under(point)
        if marker is not None:
            self.rename_marker(marker)
        elif track is not None and mark is None and row is not None:
            self.rename_track(track)
        elif found is not None:
            self.document.select(found[0].id)
            self._open(found[0])

    def _open(self, clip: Clip) -> None:
        if has_words(clip):
            self.open_words.emit()
        elif is_nesting(clip):
            self.open_clip.emit(clip.id)
        else:
            self.rename_clip()

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        by_key = event.reason() == QContextMenuEvent.Reason.Keyboard
        point = self._chosen_point() if by_key else QPointF(event.pos())
        at = self.mapToGlobal(point.toPoint())
        lane = self.lanes.at(point)
        menu = None if lane is None else self.lanes.menu(lane, point)
        if menu is not None:
            menu.popup(at)
        elif lane is not None:
            self.lanes.choose_under(lane, point)
            self.wants_menu.emit("inner key" if self.document.inner else "key", at)
        else:
            self.wants_menu.emit(self._place_at(point), at)

    def _place_at(self, point: QPointF) -> str:
        """What a menu is wanted for; it is chosen, or the playhead put there."""
        if point.y() < RULER:
            marker = marker_at(self.scale, self.document.project.sequence.markers, point)
            self.document.seek(marker.frame if marker is not None else round(self.scale.frame(point.x())))
            return "ruler"
        track = self._header_under(point)[0]
        if track is not None:
            self.point_at(track.id)
            return "track"
        found = self.clip_under(point)
        if found is None:
            return "empty"
        if found[0].id not in self.document.selection:
            self.document.select(found[0].id)
        return "clip"

    def _chosen_point(self) -> QPointF:
        """A point in the clip selected last, for a menu that is asked for by key."""
        clip = self.document.clip
        for row in self.rows():
            if clip is not None and clip in self.document.project.sequence.tracks[row.track].clips:
                return QPointF(max(HEADER + 4.0, self.scale.x(clip.start) + 4), row.top + 8)
        return QPointF(HEADER + 20.0, self.height() - 8)

    # Wheel, keys, tips

    def wheelEvent(self, event: QWheelEvent) -> None:
        turns = event.angleDelta().y() / 120 or event.angleDelta().x() / 120
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.set_scale(self.scale.zoomed(1.25**turns, event.position().x()))
        elif event.modifiers() & Qt.KeyboardModifier.ShiftModifier or event.angleDelta().x():
            self.set_scale(Scale(self.scale.px, max(0.0, self.scale.first - turns * 60 / self.scale.px)))
        else:
            self.lift(int(-turns * 40))

    def lift(self, by: int) -> None:
        """Scroll the tracks by px."""
        lowest = max(0, self.content_height() - (self.height() - RULER))
        self.lifted = min(max(0, self.lifted + by), lowest)
        self.redraw()
        self.scale_changed.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape and self.hand is not None:
            hand, self.hand = self.hand, None
            hand.give_up()
            self.redraw()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.document.clip is not None:
            self._open(self.document.clip)
        else:
            super().keyPressEvent(event)

    def event(self, event: QEvent) -> bool:
        if event.type() == QEvent.Type.KeyPress and isinstance(event, QKeyEvent):
            backwards = event.key() == Qt.Key.Key_Backtab
            if event.key() in (Qt.Key.Key_Tab, Qt.Key.Key_Backtab) and self._select_next(
                -1 if backwards else 1
            ):
                return True
        if event.type() == QEvent.Type.ToolTip and isinstance(event, QHelpEvent):
            QToolTip.showText(event.globalPos(), self._tip(QPointF(event.pos())), self)
            return True
        return super().event(event)

    def _tip(self, point: QPointF) -> str:
        lane = self.lanes.at(point)
        if lane is not None:
            return tip(self.lanes, lane, point)
        track, mark, _ = self._header_under(point)
        if mark is not None:
            return mark.tip
        if track is not None:
            return f"{track.name}: double-click to rename, drag to reorder, drag its lower edge for height."
        marker = marker_at(self.scale, self.document.project.sequence.markers, point)
        if marker is not None:
            at = timecode(marker.frame, self.document.rate)
            return f"{marker.name} at {at}: drag to move, double-click to rename."
        found = self.clip_under(point)
        grip = self._grip_under(*found, point) if found else None
        if found and grip is not None and is_layer(found[0]):
            return tip_of(found[0], grip, grip.frame)
        if found and self.part_under(*found, point) == "lanes":
            return "Open the clip into lanes, a lane a channel, or close it (Shift+A)."
        return self.said(found[0], "move") if found else ""

    def _select_next(self, way: int) -> bool:
        """Select the next clip in time; False past the last, so that Tab leaves the timeline."""
        ids = clip_order(self.document.project)
        here = self.document.selected
        at = ids.index(here) if here in ids else (-1 if way > 0 else len(ids))
        if not 0 <= at + way < len(ids):
            return False
        self.document.select(ids[at + way])
        return True

    # Files from the bin

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if any(event.mimeData().hasFormat(kind) for kind in (MEDIA_KIND, TITLE_KIND)):
            event.acceptProposedAction()

    def dragMoveEvent(self, event: QDragMoveEvent) -> None:
        if any(event.mimeData().hasFormat(kind) for kind in (MEDIA_KIND, TITLE_KIND)):
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        start = max(0, round(self.scale.frame(event.position().x())))
        row = row_at(self.rows(), event.position().y())
        track = row.track if row is not None else None
        if event.mimeData().hasFormat(TITLE_KIND):
            path = bytes(event.mimeData().data(TITLE_KIND).data()).decode()
            self.title_dropped.emit(path, start, track)
        else:
            ids = bytes(event.mimeData().data(MEDIA_KIND).data()).decode().split("\n")
            self.put_in(ids, start, track)
        event.acceptProposedAction()

    def put_in(self, media: list[str], start: int, track: int | None = None) -> None:
        """Put files of the list into the sequence, one after the other from a frame on."""
        made: list[str] = []

        def edit(project):  # type: ignore[no-untyped-def]
            at = start
            for identity in media:
                project, clip = add_to_timeline(project, identity, at, track)
                placed = clip_by_id(project, clip)
                assert placed is not None
                at = placed.span.end
                made.append(clip)
            return project

        count = "a clip" if len(media) == 1 else f"{len(media)} clips"
        if self.document.do(f"Add {count}", edit):
            self.document.select(*made)
