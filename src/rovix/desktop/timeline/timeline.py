"""The timeline widget."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import (
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
from PySide6.QtWidgets import QLineEdit, QScrollBar, QToolTip, QVBoxLayout, QWidget

from rovix.desktop.document import Document
from rovix.desktop.projector import Projector
from rovix.desktop.theme import colour, font
from rovix.desktop.timeline.clip_painter import paint_clip
from rovix.desktop.timeline.gestures import SNAP_PX, TITLES, Gesture, part_at
from rovix.desktop.timeline.headers import Mark, mark_at, paint_header
from rovix.desktop.timeline.rows import Row, content_height, row_at, rows_of
from rovix.desktop.timeline.scale import HEADER, RULER, Scale, ruler_step
from rovix.edit.tracks import change_track
from rovix.model import Clip, SoundClip, Track
from rovix.motion import move_spans
from rovix.time import timecode

_CURSORS = {
    "move": Qt.CursorShape.ArrowCursor,
    "start": Qt.CursorShape.SizeHorCursor,
    "end": Qt.CursorShape.SizeHorCursor,
    "entrance": Qt.CursorShape.SplitHCursor,
    "exit": Qt.CursorShape.SplitHCursor,
}


class _Canvas(QWidget):
    """What is drawn and grabbed. Everything but the playhead is kept as one pixmap."""

    scale_changed = Signal()
    open_words = Signal()

    def __init__(self, document: Document, projector: Projector) -> None:
        super().__init__()
        self._document, self._projector = document, projector
        self.scale = Scale(2.0)
        self.lifted = 0
        self._fitted = True
        self._kept: QPixmap | None = None
        self._gesture: Gesture | None = None
        self._press = QPointF()
        self._moved = False
        self._scrubbing = False
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.setAccessibleName("Timeline")
        self.setAccessibleDescription(
            "Tracks and clips. Tab goes to the next clip; Ctrl+Left and Right nudge it."
        )
        document.project_changed.connect(self._project_changed)
        document.selection_changed.connect(self.redraw)
        document.range_changed.connect(self.redraw)
        document.playhead_moved.connect(self._playhead_moved)
        self._shown_playhead = 0
        # The cached share changes with every picture; a few times a second is enough to see.
        self._cache_timer = QTimer(self, interval=200, singleShot=True)
        self._cache_timer.timeout.connect(self.redraw)
        # While a hand drags elsewhere, the timeline follows at its own, slower pace.
        self._draft_timer = QTimer(self, interval=80, singleShot=True)
        self._draft_timer.timeout.connect(self.redraw)
        projector.cache_changed.connect(self._cache_changed)

    def sizeHint(self) -> QSize:
        return QSize(900, 250)

    def _cache_changed(self) -> None:
        if not self._document.playing and not self._cache_timer.isActive():
            self._cache_timer.start()

    def _project_changed(self) -> None:
        if self._document.history.has_draft and self._gesture is None:
            if not self._draft_timer.isActive():
                self._draft_timer.start()
        else:
            self.redraw()

    def redraw(self) -> None:
        """Draw everything anew."""
        if self._fitted and self._gesture is None:
            self._fit_scale()
        self._kept = None
        self.update()

    def fit(self) -> None:
        """Show the whole sequence."""
        self._fitted = True
        self.redraw()
        self.scale_changed.emit()

    def _fit_scale(self) -> None:
        room = max(50, self.width() - HEADER - 24)
        self.scale = Scale(room / max(30, self._document.length))

    def set_scale(self, scale: Scale) -> None:
        self._fitted = False
        self.scale = scale
        self.redraw()
        self.scale_changed.emit()

    def _playhead_moved(self, frame: int) -> None:
        for old in (self._shown_playhead, frame):
            self.update(int(self.scale.x(old)) - 40, 0, 80, self.height())
        self._shown_playhead = frame

    def resizeEvent(self, event: QResizeEvent) -> None:
        self.redraw()
        self.scale_changed.emit()

    # Painting

    def paintEvent(self, event: QPaintEvent) -> None:
        if self._kept is None:
            self._kept = self._drawn()
        painter = QPainter(self)
        painter.drawPixmap(0, 0, self._kept)
        self._paint_playhead(painter)
        painter.end()

    def _drawn(self) -> QPixmap:
        ratio = self.devicePixelRatioF()
        pixmap = QPixmap(round(self.width() * ratio), round(self.height() * ratio))
        pixmap.setDevicePixelRatio(ratio)
        pixmap.fill(colour("panel"))
        painter = QPainter(pixmap)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._paint_rows(painter)
        self._paint_ruler(painter)
        if not self._document.project.sequence.length:
            self._paint_empty(painter)
        painter.end()
        return pixmap

    def _paint_rows(self, painter: QPainter) -> None:
        project = self._document.project
        size, rate = project.sequence.size, self._document.rate
        for row in rows_of(project, self.lifted):
            track = project.sequence.tracks[row.track]
            painter.fillRect(
                QRectF(HEADER, row.top, self.width() - HEADER, row.height), colour("ground", 0.45)
            )
            painter.save()
            painter.setClipRect(QRectF(HEADER, RULER, self.width() - HEADER, self.height() - RULER))
            painter.setOpacity(0.4 if track.hidden or track.muted else 1.0)
            for clip in track.clips:
                box = self._clip_box(clip, row.top, row.height)
                if box.right() < HEADER or box.left() > self.width():
                    continue
                paint_clip(painter, clip, box, size, rate)
                if clip.id == self._document.selected:
                    painter.setPen(QPen(colour("text"), 1.6))
                    painter.setBrush(Qt.BrushStyle.NoBrush)
                    painter.drawRoundedRect(box.adjusted(0.5, 0.5, -0.5, -0.5), 5, 5)
            painter.restore()
            paint_header(painter, track, row)

    def _clip_box(self, clip: Clip, top: float, height: float) -> QRectF:
        left, right = self.scale.x(clip.start), self.scale.x(clip.span.end)
        return QRectF(left, top, max(3.0, right - left - 1), height)

    def _paint_ruler(self, painter: QPainter) -> None:
        painter.fillRect(QRectF(0, 0, self.width(), RULER), colour("panel"))
        self._paint_range(painter)
        self._paint_cached(painter)
        step = ruler_step(self.scale, self._document.rate)
        frame = int(self.scale.frame(HEADER)) // step * step
        painter.setFont(font(0.84))
        while self.scale.x(frame) < self.width():
            x = self.scale.x(frame)
            if x >= HEADER - 1:
                painter.setPen(colour("line"))
                painter.drawLine(QPointF(x, RULER - 8), QPointF(x, RULER - 3))
                label = self._label(frame)
                if x + 4 + painter.fontMetrics().horizontalAdvance(label) < self.width():
                    painter.setPen(colour("muted"))
                    painter.drawText(QPointF(x + 4, RULER - 13), label)
            frame += step
        painter.setPen(colour("line"))
        painter.drawLine(QPointF(0, RULER - 0.5), QPointF(self.width(), RULER - 0.5))
        painter.drawLine(QPointF(HEADER - 4, 0), QPointF(HEADER - 4, self.height()))

    def _label(self, frame: int) -> str:
        hours, minutes, seconds, frames = timecode(frame, self._document.rate).split(":")
        short = f"{int(hours)}:{minutes}" if int(hours) else f"{int(minutes)}"
        return f"{short}:{seconds}" if frames == "00" else f"{short}:{seconds}:{frames}"

    def _paint_range(self, painter: QPainter) -> None:
        span = self._document.range
        if span is None:
            return
        left, right = self.scale.x(span.start), self.scale.x(span.end)
        painter.fillRect(QRectF(left, 0, right - left, RULER - 3), colour("accent", 0.14))
        painter.setPen(QPen(colour("accent"), 1.5))
        for x in (left, right):
            painter.drawLine(QPointF(x, 2), QPointF(x, RULER - 4))

    def _paint_cached(self, painter: QPainter) -> None:
        """A fine texture under the ruler where pictures are ready."""
        painter.setPen(QPen(colour("text", 0.5), 1, Qt.PenStyle.DotLine))
        for start, end in _stretches(self._projector.ready()):
            left, right = max(HEADER, self.scale.x(start)), self.scale.x(end)
            if right > HEADER:
                for y in (RULER - 3.5, RULER - 1.5):
                    painter.drawLine(QPointF(left, y), QPointF(max(left, right), y))

    def _paint_empty(self, painter: QPainter) -> None:
        painter.setPen(colour("muted"))
        painter.setFont(font())
        room = QRectF(HEADER, RULER, self.width() - HEADER, self.height() - RULER)
        painter.drawText(
            room, Qt.AlignmentFlag.AlignCenter, "No clips yet. Press T to put words at the playhead."
        )

    def _paint_playhead(self, painter: QPainter) -> None:
        x = self.scale.x(self._document.playhead) + self.scale.px / 2
        if x < HEADER - 4:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(colour("accent"), 1.4))
        painter.drawLine(QPointF(x, 18), QPointF(x, self.height()))
        label = self._label(self._document.playhead)
        painter.setFont(font(0.84))
        width = painter.fontMetrics().horizontalAdvance(label) + 14
        flag = QRectF(max(HEADER - 2, min(x - width / 2, self.width() - width)), 1, width, 17)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("accent"))
        painter.drawRoundedRect(flag, 8, 8)
        painter.drawPolygon(QPolygonF([QPointF(x - 4, 17), QPointF(x + 4, 17), QPointF(x, 22)]))
        painter.setPen(colour("on_accent"))
        painter.drawText(flag, Qt.AlignmentFlag.AlignCenter, label)

    # Hands

    def _clip_at(self, point: QPointF) -> tuple[Clip, int, bool] | None:
        """The clip under a point, its track, and whether the point lies low in it."""
        project = self._document.project
        row = row_at(rows_of(project, self.lifted), point.y())
        if row is None or point.x() < HEADER or point.y() < RULER:
            return None
        frame = self.scale.frame(point.x())
        for clip in project.sequence.tracks[row.track].clips:
            if frame in clip.span:
                return clip, row.track, point.y() > row.top + row.height * 0.5
        return None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() != Qt.MouseButton.LeftButton:
            return
        point = event.position()
        if point.y() < RULER:
            self._scrubbing = True
            self._scrub(point)
            return
        if point.x() < HEADER:
            self._press_header(point)
            return
        found = self._clip_at(point)
        if found is None:
            self._document.select(None)
            return
        clip, track, low = found
        self._document.select(clip.id)
        if self._document.project.sequence.tracks[track].locked:
            return
        frame = self.scale.frame(point.x())
        self._gesture = Gesture(
            part_at(clip, self._document.project, frame, low, self.scale.px), clip.id, frame, track
        )
        self._press, self._moved = point, False

    def _press_header(self, point: QPointF) -> None:
        track, mark = self._mark_at(point)
        if track is not None and mark is not None:
            titles = {"hidden": ("Hide", "Show"), "muted": ("Mute", "Unmute"), "locked": ("Lock", "Unlock")}
            title = f"{titles[mark.field][mark.on]} {track.name}"
            changes = {mark.field: not mark.on}
            self._document.do(title, lambda project: change_track(project, track.id, **changes))

    def _mark_at(self, point: QPointF) -> tuple[Track | None, Mark | None]:
        project = self._document.project
        row = row_at(rows_of(project, self.lifted), point.y())
        if row is None or point.y() < RULER or point.x() >= HEADER:
            return None, None
        track = project.sequence.tracks[row.track]
        return track, mark_at(row, track, point)

    def _rename_track(self, track: Track, row: Row) -> None:
        """Type a track's name over its header."""
        edit = QLineEdit(track.name, self)
        edit.setAccessibleName("Track name")
        edit.setGeometry(6, row.top + 3, HEADER - 14, row.height - 6)
        edit.selectAll()
        edit.show()
        edit.setFocus()

        def done() -> None:
            name = edit.text().strip()
            edit.editingFinished.disconnect()
            edit.hide()
            edit.deleteLater()
            if name:
                self._document.do(f"Rename {track.name}", lambda p: change_track(p, track.id, name=name))

        edit.editingFinished.connect(done)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        point = event.position()
        if self._scrubbing:
            self._scrub(point)
        elif self._gesture is not None:
            self._drag(point)
        else:
            found = self._clip_at(point)
            part = "move"
            if found is not None:
                clip, _, low = found
                part = part_at(clip, self._document.project, self.scale.frame(point.x()), low, self.scale.px)
            self.setCursor(_CURSORS[part])

    def _drag(self, point: QPointF) -> None:
        gesture = self._gesture
        assert gesture is not None
        if not self._moved and (point - self._press).manhattanLength() < 4:
            return
        self._moved = True
        row = row_at(rows_of(self._document.history.committed, self.lifted), point.y())
        track = row.track if row is not None else gesture.track
        frame, within = self.scale.frame(point.x()), SNAP_PX / self.scale.px
        playhead = self._document.playhead
        self._document.try_on(lambda project: gesture.edited(project, frame, track, playhead, within))
        self._tell(gesture, point)

    def _tell(self, gesture: Gesture, point: QPointF) -> None:
        clip = self._document.clip
        if clip is not None:
            QToolTip.showText(self.mapToGlobal(point.toPoint()), self._said(clip, gesture.part), self)

    def _said(self, clip: Clip, part: str) -> str:
        rate = self._document.rate
        if part in ("entrance", "exit") and not isinstance(clip, SoundClip):
            spans = move_spans(clip.moves, clip.length, rate)
            frames = spans.entrance if part == "entrance" else spans.exit
            return f"{part.capitalize()} {float(rate.seconds(frames)):.2f} s\n{frames} frames"
        seconds = float(rate.seconds(clip.length))
        return f"{clip.name}\nfrom {timecode(clip.start, rate)}\n{seconds:.2f} s · {clip.length} frames"

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._scrubbing = False
        gesture, self._gesture = self._gesture, None
        if gesture is not None and self._moved:
            clip = self._document.clip
            self._document.keep(f"{TITLES[gesture.part]} {clip.name if clip else 'clip'}")
        self.redraw()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        track, mark = self._mark_at(event.position())
        row = row_at(rows_of(self._document.project, self.lifted), event.position().y())
        if track is not None and mark is None and row is not None:
            self._rename_track(track, row)
            return
        found = self._clip_at(event.position())
        if found is not None:
            self._document.select(found[0].id)
            self.open_words.emit()

    def _scrub(self, point: QPointF) -> None:
        self._projector.stop()
        self._document.seek(int(self.scale.frame(point.x())))

    def wheelEvent(self, event: QWheelEvent) -> None:
        turns = event.angleDelta().y() / 120 or event.angleDelta().x() / 120
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.set_scale(self.scale.zoomed(1.25**turns, event.position().x()))
        elif event.modifiers() & Qt.KeyboardModifier.ShiftModifier or event.angleDelta().x():
            first = max(0.0, self.scale.first - turns * 60 / self.scale.px)
            self.set_scale(Scale(self.scale.px, first))
        else:
            lowest = max(0, content_height(self._document.project) - (self.height() - RULER))
            self.lifted = int(min(max(0, self.lifted - turns * 40), lowest))
            self.redraw()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape and self._gesture is not None:
            self._gesture = None
            self._document.drop()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.open_words.emit()
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
        track, mark = self._mark_at(point)
        if mark is not None:
            return mark.tip
        if track is not None:
            return f"{track.name}: double-click to rename."
        found = self._clip_at(point)
        return self._said(found[0], "move") if found else ""

    def _select_next(self, way: int) -> bool:
        """Select the next clip in time; False past the last, so that Tab leaves the timeline."""
        tracks = self._document.project.sequence.tracks
        clips = sorted((c.start, n, c.id) for n, track in enumerate(tracks) for c in track.clips)
        ids = [identity for _, _, identity in clips]
        at = (
            ids.index(self._document.selected)
            if self._document.selected in ids
            else (-1 if way > 0 else len(ids))
        )
        if not 0 <= at + way < len(ids):
            return False
        self._document.select(ids[at + way])
        return True


def _stretches(frames: list[int]) -> list[tuple[int, int]]:
    """Runs of neighbouring frames, ends not included."""
    runs: list[tuple[int, int]] = []
    for frame in frames:
        if runs and runs[-1][1] == frame:
            runs[-1] = (runs[-1][0], frame + 1)
        else:
            runs.append((frame, frame + 1))
    return runs


class Timeline(QWidget):
    """The canvas with its scroll bar."""

    def __init__(self, document: Document, projector: Projector) -> None:
        super().__init__()
        self.canvas = _Canvas(document, projector)
        self._document = document
        self._bar = QScrollBar(Qt.Orientation.Horizontal)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.canvas, 1)
        column.addWidget(self._bar)
        self._bar.valueChanged.connect(self._scrolled)
        self.canvas.scale_changed.connect(self._show_bar)
        document.project_changed.connect(self._show_bar)
        self._busy = False

    def zoom(self, factor: float) -> None:
        """Zoom about the playhead."""
        canvas = self.canvas
        canvas.set_scale(canvas.scale.zoomed(factor, canvas.scale.x(self._document.playhead)))

    def _show_bar(self) -> None:
        scale = self.canvas.scale
        page = (self.canvas.width() - HEADER) / scale.px
        highest = max(0, round(self._document.length + 30 - page))
        self._busy = True
        self._bar.setPageStep(max(1, round(page)))
        self._bar.setRange(0, max(highest, round(scale.first)))
        self._bar.setValue(round(scale.first))
        self._bar.setVisible(self._bar.maximum() > 0 and not self.canvas._fitted)
        self._busy = False

    def _scrolled(self, value: int) -> None:
        if not self._busy:
            self.canvas.set_scale(Scale(self.canvas.scale.px, float(value)))
