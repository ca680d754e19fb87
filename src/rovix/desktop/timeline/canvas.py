"""What is drawn and grabbed in the timeline: rows of clips under a ruler."""

from __future__ import annotations

import time

from PySide6.QtCore import QEvent, QPoint, QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import (
    QContextMenuEvent,
    QDragEnterEvent,
    QDropEvent,
    QHelpEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPixmap,
    QPolygonF,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QToolTip, QWidget

from rovix.desktop.document import Document
from rovix.desktop.projector import Projector
from rovix.desktop.theme import colour, font
from rovix.desktop.thumbnails import Thumbnails
from rovix.desktop.timeline.clip_painter import Setting, opener_box, paint_transition, said_of
from rovix.desktop.timeline.clip_pictures import ClipPictures
from rovix.desktop.timeline.drags import Band, ClipDrag, Drag, MarkerDrag, RowDrag, ScrubDrag, TrackDrag
from rovix.desktop.timeline.gestures import part_at
from rovix.desktop.timeline.headers import TURNS, Mark, mark_at, paint_header
from rovix.desktop.timeline.lanes import Lanes
from rovix.desktop.timeline.lanes.tips import tip
from rovix.desktop.timeline.naming import ask_name
from rovix.desktop.timeline.rows import Row, content_height, row_at, rows_of
from rovix.desktop.timeline.ruler import (
    marker_at,
    paint_cached,
    paint_clipping,
    paint_markers,
    paint_range,
    paint_ruler,
    ruler_label,
)
from rovix.desktop.timeline.scale import HEADER, RULER, Scale
from rovix.edit.importing import add_to_timeline
from rovix.edit.markers import rename_marker
from rovix.edit.tracks import change_track, clip_order
from rovix.edit.tree import clip_by_id, find_clip, replace, replace_clip
from rovix.model import Clip, Marker, Project, Track
from rovix.model.clip_kinds import has_words, is_layer, is_nesting
from rovix.motion import move_spans
from rovix.motion.transitions import Joined, transitions_of
from rovix.time import timecode

MEDIA_KIND = "application/x-rovix-media"
"""What the bin hands over when one of its files is dragged: the ids, a line each."""

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
_ROW_EDGE = 4
_HURRY = 0.12  # s between two redraws below which a hand is at work


class Canvas(QWidget):
    """Everything but the playhead is kept as one pixmap."""

    scale_changed = Signal()
    open_words = Signal()
    open_clip = Signal(str)
    wants_key_menu = Signal(QPoint)

    def __init__(self, document: Document, projector: Projector, thumbnails: Thumbnails) -> None:
        super().__init__()
        self.document, self.projector, self.thumbnails = document, projector, thumbnails
        self.scale = Scale(2.0)
        self.lifted = 0
        self.follows = True
        self.band: QRectF | None = None
        self._fitted = True
        self._kept: QPixmap | None = None
        self._clips = ClipPictures()
        self._hurried, self._redrawn = False, 0.0
        self._ruler: tuple[object, QPixmap, object] | None = None
        self.hand: Drag | None = None
        self.modifiers = Qt.KeyboardModifier.NoModifier
        self.lanes = Lanes(self)
        self._shown_playhead = 0
        self.setMouseTracking(True)
        self.setAcceptDrops(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.setAccessibleName("Timeline")
        self.setAccessibleDescription(
            "Tracks and clips. Tab goes to the next clip; Ctrl+Left and Right nudge what is selected."
        )
        self._listen()

    def _listen(self) -> None:
        document = self.document
        document.project_changed.connect(self._project_changed)
        document.selection_changed.connect(self.redraw)
        document.range_changed.connect(self.redraw)
        document.keys.changed.connect(self.redraw)
        document.level_changed.connect(self.fit)
        document.playhead_moved.connect(self._playhead_moved)
        # What comes by and by is looked at a few times a second; that is enough to see.
        self._slow_timer = QTimer(self, interval=200, singleShot=True)
        self._slow_timer.timeout.connect(self.redraw)
        # While a hand drags elsewhere, the timeline follows at its own, slower pace.
        self._draft_timer = QTimer(self, interval=80, singleShot=True)
        self._draft_timer.timeout.connect(self.redraw)
        self._catch_up = QTimer(self, interval=16, singleShot=True)
        self._catch_up.timeout.connect(self._go_on)
        for signal in (self.projector.cache_changed, self.thumbnails.changed, self.thumbnails.levels_changed):
            signal.connect(self._redraw_slowly)

    def sizeHint(self) -> QSize:
        return QSize(900, 250)

    def _redraw_slowly(self) -> None:
        if not self.document.playing and not self._slow_timer.isActive():
            self._slow_timer.start()

    def _project_changed(self) -> None:
        if self.document.history.has_draft and self.hand is None:
            if not self._draft_timer.isActive():
                self._draft_timer.start()
        else:
            self.redraw()

    def redraw(self) -> None:
        """Draw everything anew."""
        if self._fitted and self.hand is None:
            self._fit_scale()
        lowest = max(0, self.content_height() - (self.height() - RULER))
        self.lifted = min(self.lifted, lowest)
        now = time.monotonic()
        self._hurried, self._redrawn = now - self._redrawn < _HURRY, now
        self._repaint()

    def _repaint(self) -> None:
        self._kept = None
        self.update()

    def _go_on(self) -> None:
        """Paint what was left over, once hands rest."""
        self._hurried = time.monotonic() - self._redrawn < _HURRY
        self._repaint()

    def fit(self) -> None:
        """Show the whole sequence."""
        self._fitted = True
        self.redraw()
        self.scale_changed.emit()

    @property
    def is_fitted(self) -> bool:
        return self._fitted

    def _fit_scale(self) -> None:
        room = max(50, self.width() - HEADER - 24)
        self.scale = Scale(room / max(30, self.document.length))

    def set_scale(self, scale: Scale) -> None:
        self._fitted = False
        self.scale = scale
        self.redraw()
        self.scale_changed.emit()

    def _playhead_moved(self, frame: int) -> None:
        for old in (self._shown_playhead, frame):
            self.update(int(self.scale.x(old)) - 40, 0, 80, self.height())
        self._shown_playhead = frame
        x = self.scale.x(frame)
        if self.follows and not self._fitted and self.hand is None and not HEADER <= x < self.width() - 8:
            page = (self.width() - HEADER) / self.scale.px
            first = frame if x >= self.width() - 8 and self.document.playing else frame - page / 3
            self.set_scale(Scale(self.scale.px, max(0.0, first)))

    def resizeEvent(self, event: QResizeEvent) -> None:
        self.redraw()
        self.scale_changed.emit()

    # Painting

    def paintEvent(self, event: QPaintEvent) -> None:
        if self._kept is None:
            self._kept = self._drawn()
            if self._clips.is_behind:
                self._catch_up.start()
        painter = QPainter(self)
        painter.drawPixmap(0, 0, self._kept)
        self._paint_playhead(painter)
        if self.band is not None:
            painter.setPen(QPen(colour("text"), 1))
            painter.setBrush(colour("text", 0.12))
            painter.drawRect(self.band)
        painter.end()

    def _drawn(self) -> QPixmap:
        pixmap = self._blank(self.width(), self.height())
        self._clips.begin(self._hurried)
        painter = QPainter(pixmap)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        try:
            self._paint_rows(painter)
            self._paint_ruler(painter)
            if not self.document.project.sequence.length:
                self._paint_empty(painter)
        finally:
            # Qt brings the program down when a picture goes while it is still painted on.
            painter.end()
        return pixmap

    def _paint_rows(self, painter: QPainter) -> None:
        project = self.document.project
        media = {item.id: item for item in project.media}
        view = (float(HEADER), float(self.width()))
        setting = Setting(project.sequence.size, self.document.rate, media, self.thumbnails, view)
        rows = self.rows()
        for row in rows:
            if row.bottom > RULER and row.top < self.height():
                self._paint_row(painter, row, project.sequence.tracks[row.track], setting)
        self.lanes.pictures.paint(painter, rows)

    def _paint_row(self, painter: QPainter, row: Row, track: Track, setting: Setting) -> None:
        painter.fillRect(QRectF(HEADER, row.top, self.width() - HEADER, row.height), colour("ground", 0.45))
        painter.save()
        painter.setClipRect(QRectF(HEADER, RULER, self.width() - HEADER, self.height() - RULER))
        painter.setOpacity(0.4 if track.hidden or track.muted else 1.0)
        chosen = self.document.selection
        for clip in track.clips:
            box = self._clip_box(clip.start, clip.span.end, row)
            if box.right() >= HEADER and box.left() <= self.width():
                self._clips.paint(painter, clip, box, setting, clip.id in chosen)
        for joined in transitions_of(track, setting.rate):
            box = self._clip_box(joined.span.start, joined.span.end, row)
            if box.right() >= HEADER and box.left() <= self.width():
                paint_transition(painter, joined, box.adjusted(0, 3, 0, -box.height() * 0.45))
        painter.restore()
        paint_header(painter, track, row)

    def _clip_box(self, start: float, end: float, row: Row) -> QRectF:
        left, right = self.scale.x(start), self.scale.x(end)
        return QRectF(left, row.top, max(3.0, right - left - 1), row.height)

    def _paint_ruler(self, painter: QPainter) -> None:
        document, scale = self.document, self.scale
        painter.drawPixmap(0, 0, self._ruler_picture())
        paint_cached(painter, scale, self.projector.ready())
        painter.setPen(colour("line"))
        painter.drawLine(QPointF(HEADER - 4, 0), QPointF(HEADER - 4, self.height()))
        paint_markers(painter, scale, document.project.sequence.markers, self.width(), self.height())

    def _ruler_picture(self) -> QPixmap:
        """The ruler without what changes all the time, kept until something else of it does."""
        document, levels = self.document, self.thumbnails.levels
        key = (self.scale, self.width(), document.rate, document.range, id(levels), self.devicePixelRatioF())
        if self._ruler is None or self._ruler[0] != key:
            pixmap = self._blank(self.width(), RULER)
            painter = QPainter(pixmap)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            paint_range(painter, self.scale, document.range)
            paint_ruler(painter, self.scale, document.rate, self.width())
            paint_clipping(painter, self.scale, levels)
            painter.setPen(colour("line"))
            painter.drawLine(QPointF(0, RULER - 0.5), QPointF(self.width(), RULER - 0.5))
            painter.end()
            self._ruler = (key, pixmap, levels)
        return self._ruler[1]

    def _blank(self, width: int, height: int) -> QPixmap:
        ratio = self.devicePixelRatioF()
        pixmap = QPixmap(round(width * ratio), round(height * ratio))
        pixmap.setDevicePixelRatio(ratio)
        pixmap.fill(colour("panel"))
        return pixmap

    def _paint_empty(self, painter: QPainter) -> None:
        painter.setPen(colour("muted"))
        painter.setFont(font())
        room = QRectF(HEADER, RULER, self.width() - HEADER, self.height() - RULER)
        said = "No clips yet. Press T to put words at the playhead, or drag files in here."
        painter.drawText(room, Qt.AlignmentFlag.AlignCenter, said)

    def _paint_playhead(self, painter: QPainter) -> None:
        x = self.scale.x(self.document.playhead) + self.scale.px / 2
        if x < HEADER - 4:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(colour("accent"), 1.4))
        painter.drawLine(QPointF(x, 18), QPointF(x, self.height()))
        label = ruler_label(self.document.playhead, self.document.rate)
        painter.setFont(font(0.84))
        width = painter.fontMetrics().horizontalAdvance(label) + 14
        flag = QRectF(max(HEADER - 2, min(x - width / 2, self.width() - width)), 1, width, 17)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("accent"))
        painter.drawRoundedRect(flag, 8, 8)
        painter.drawPolygon(QPolygonF([QPointF(x - 4, 17), QPointF(x + 4, 17), QPointF(x, 22)]))
        painter.setPen(colour("on_accent"))
        painter.drawText(flag, Qt.AlignmentFlag.AlignCenter, label)

    # Finding

    def rows(self, project: Project | None = None) -> list[Row]:
        """The rows as they stand now, or would for another project."""
        project = project or self.document.project
        return rows_of(project, self.lifted, lambda track: self.lanes.state.room(project, track))

    def content_height(self) -> int:
        """Px that all rows and lanes need below the ruler."""
        project = self.document.project
        return content_height(project, lambda track: self.lanes.state.room(project, track))

    def lanes_changed(self) -> None:
        """Clips were opened or closed, or show other lanes."""
        self.redraw()
        self.scale_changed.emit()

    def clip_under(self, point: QPointF) -> tuple[Clip, Row] | None:
        """The clip under a point, and its row."""
        row = row_at(self.rows(), point.y())
        if row is None or point.x() < HEADER or point.y() < RULER:
            return None
        frame = self.scale.frame(point.x())
        clips = self.document.project.sequence.tracks[row.track].clips
        return next(((clip, row) for clip in clips if frame in clip.span), None)

    def part_under(self, clip: Clip, row: Row, point: QPointF) -> str:
        """Which part of a clip a hand would grab."""
        project, frame = self.document.project, self.scale.frame(point.x())
        height = (point.y() - row.top) / row.height
        chosen = clip.id in self.document.selection
        box = self._clip_box(clip.start, clip.span.end, row)
        if chosen and opener_box(clip, box, self.document.rate, HEADER).contains(point):
            return "lanes"
        joined = self._joined(row, clip)
        return part_at(clip, project, frame, height, self.scale.px, chosen, joined)

    def _joined(self, row: Row, clip: Clip) -> Joined | None:
        track = self.document.project.sequence.tracks[row.track]
        transitions = transitions_of(track, self.document.rate)
        return next((joined for joined in transitions if joined.after is clip), None)

    def _header_under(self, point: QPointF) -> tuple[Track | None, Mark | None, Row | None]:
        row = row_at(self.rows(), point.y())
        if row is None or point.y() < RULER or point.x() >= HEADER:
            return None, None, None
        track = self.document.project.sequence.tracks[row.track]
        return track, mark_at(row, track, point), row

    def _row_edge(self, point: QPointF) -> Row | None:
        """The row whose lower edge is under a point of the headers."""
        if point.x() >= HEADER or point.y() < RULER:
            return None
        return next((row for row in self.rows() if abs(point.y() - row.bottom) <= _ROW_EDGE), None)

    # Hands

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.modifiers = event.modifiers()
        if event.button() == Qt.MouseButton.LeftButton:
            self.hand = self._taken_up(event)

    def _taken_up(self, event: QMouseEvent) -> Drag | None:
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

    def _header_hand(self, point: QPointF) -> Drag | None:
        track, mark, row = self._header_under(point)
        if track is not None and mark is not None:
            self._turn(track, mark)
            return None
        edge = self._row_edge(point)
        tracks = self.document.project.sequence.tracks
        if edge is not None:
            return RowDrag(self, tracks[edge.track].id, edge, point)
        return TrackDrag(self, track.id, point) if track is not None and row is not None else None

    def _turn(self, track: Track, mark: Mark) -> None:
        changes = {mark.field: not mark.on}
        title = f"{TURNS[mark.field][mark.on]} {track.name}"
        self.document.do(title, lambda project: change_track(project, track.id, **changes))

    def _clip_hand(self, clip: Clip, row: Row, point: QPointF, keys: Qt.KeyboardModifier) -> Drag | None:
        adding = keys & (Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier)
        copying = bool(keys & Qt.KeyboardModifier.AltModifier)
        if adding and not copying:
            self.document.select_also(clip.id)
            return None
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
            self._rename_track(track, row)
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

    # Names

    def _rename_track(self, track: Track, row: Row) -> None:
        box = QRectF(6, row.top + 3, HEADER - 14, min(row.height, 35) - 6)
        change = lambda name: self.document.do(  # noqa: E731
            f"Rename {track.name}", lambda p: change_track(p, track.id, name=name)
        )
        ask_name(self, track.name, "Track name", box, change)

    def rename_clip(self) -> None:
        """Type the selected clip's name over it."""
        clip = self.document.clip
        spot = find_clip(self.document.project, clip.id) if clip is not None else None
        if clip is None or spot is None:
            return
        row = next(row for row in self.rows() if row.track == spot.track)
        left = min(max(float(HEADER), self.scale.x(clip.start)), self.width() - 170.0)
        change = lambda name: self.document.do(  # noqa: E731
            f"Rename {clip.name or 'clip'}",
            lambda p: replace_clip(p, clip.id, lambda c: replace(c, name=name)),
        )
        ask_name(
            self, clip.name, "Clip name", QRectF(left, row.top + 2, 160, min(row.height, 30) - 4), change
        )

    def rename_marker(self, marker: Marker | None = None) -> None:
        """Type a marker's name at it; the one under the playhead by default."""
        markers = self.document.project.sequence.markers
        marker = marker or next((m for m in markers if m.frame == self.document.playhead), None)
        if marker is None:
            return
        left = min(max(float(HEADER), self.scale.x(marker.frame)), self.width() - 150.0)
        change = lambda name: self.document.do(  # noqa: E731
            f"Rename {marker.name or 'marker'}", lambda p: rename_marker(p, marker.id, name)
        )
        ask_name(self, marker.name, "Marker name", QRectF(left, 3, 140, RULER - 6), change)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        point = QPointF(event.pos())
        lane = self.lanes.at(point)
        if lane is None:
            return
        menu = self.lanes.menu(lane, point)
        if menu is not None:
            menu.popup(event.globalPos())
            return
        self.lanes.choose_under(lane, point)
        self.wants_key_menu.emit(event.globalPos())

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
        if found and self.part_under(*found, point) == "lanes":
            return "Open the clip into lanes, a lane a channel, or close it (Shift+A)."
        return self.said(found[0], "move") if found else ""

    def said(self, clip: Clip, part: str) -> str:
        """What a clip or a part of it is, in words and numbers."""
        rate = self.document.rate
        if part in ("entrance", "exit") and is_layer(clip):
            spans = move_spans(clip.moves, clip.length, rate)
            frames = spans.entrance if part == "entrance" else spans.exit
        elif part in ("fade_in", "fade_out"):
            frames = getattr(clip.sound, part)
        elif part == "transition" and getattr(clip, "transition", None) is not None:
            frames = rate.length(clip.transition.length)
        else:
            media = {item.id: item for item in self.document.project.media}
            seconds = float(rate.seconds(clip.length))
            start = timecode(clip.start, rate)
            return f"{said_of(clip, media)}\nfrom {start}\n{seconds:.2f} s · {clip.length} frames"
        title = part.capitalize().replace("_", " ")
        return f"{title} {float(rate.seconds(frames)):.2f} s\n{frames} frames"

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
        if event.mimeData().hasFormat(MEDIA_KIND):
            event.acceptProposedAction()

    def dragMoveEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasFormat(MEDIA_KIND):
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        ids = bytes(event.mimeData().data(MEDIA_KIND).data()).decode().split("\n")
        start = max(0, round(self.scale.frame(event.position().x())))
        row = row_at(self.rows(), event.position().y())
        self.put_in(ids, start, row.track if row is not None else None)
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
