"""What is drawn in the timeline: rows of clips under a ruler."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import (
    QPainter,
    QPaintEvent,
    QPen,
    QPixmap,
    QPolygonF,
)

from rovix.desktop.document import Document
from rovix.desktop.projector import Projector
from rovix.desktop.theme import colour, font
from rovix.desktop.thumbnails import Thumbnails
from rovix.desktop.timeline.clip_painter import Setting, paint_mark, paint_transition
from rovix.desktop.timeline.clip_pictures import ClipPictures
from rovix.desktop.timeline.crowds import NARROW, Crowd, shown_of
from rovix.desktop.timeline.headers import paint_header
from rovix.desktop.timeline.rows import Row
from rovix.desktop.timeline.ruler import (
    paint_cached,
    paint_clipping,
    paint_markers,
    paint_range,
    paint_ruler,
    ruler_label,
)
from rovix.desktop.timeline.scale import HEADER, RULER
from rovix.desktop.timeline.surface import Surface
from rovix.model import Track
from rovix.model.on_track import place_on
from rovix.motion.transitions import transitions_of


class Painted(Surface):
    """Everything but the playhead is kept as one pixmap."""

    def __init__(self, document: Document, projector: Projector, thumbnails: Thumbnails) -> None:
        self._clips = ClipPictures()
        self._ruler: tuple[object, QPixmap, object] | None = None
        super().__init__(document, projector, thumbnails)

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
        self.paint_lanes(painter, rows)

    def _paint_row(self, painter: QPainter, row: Row, track: Track, setting: Setting) -> None:
        painter.fillRect(QRectF(HEADER, row.top, self.width() - HEADER, row.height), colour("ground", 0.45))
        painter.save()
        painter.setClipRect(QRectF(HEADER, RULER, self.width() - HEADER, self.height() - RULER))
        painter.setOpacity(0.4 if track.hidden or track.muted else 1.0)
        first, last = self.scale.frame(HEADER), self.scale.frame(self.width())
        for shown in shown_of(track.clips, self.scale.px, first, last):
            box = self._clip_box(shown.start, shown.end, row)
            if isinstance(shown, Crowd):
                painter.fillRect(box, colour(shown.role))
            elif box.right() >= HEADER:
                self._clips.paint(painter, shown, box, setting, shown.id in self.document.selection)
        self._paint_chosen(painter, row, track)
        self._paint_marks(painter, row, track)
        for joined in transitions_of(track, setting.rate):
            box = self._clip_box(joined.span.start, joined.span.end, row)
            if box.right() >= HEADER and box.left() <= self.width():
                paint_transition(painter, joined, box.adjusted(0, 3, 0, -box.height() * 0.45))
        painter.restore()
        paint_header(painter, track, row)
        if track.id == self._pointed:
            painter.fillRect(QRectF(2, row.top + 4, 3, row.height - 8), colour("text"))

    def _paint_chosen(self, painter: QPainter, row: Row, track: Track) -> None:
        """Selected clips that are too narrow for an edge to be seen."""
        for identity in self.document.selection:
            place = place_on(track, identity)
            clip = None if place is None else track.clips[place]
            if clip is not None and clip.length * self.scale.px < NARROW:
                painter.fillRect(self._clip_box(clip.start, clip.end, row), colour("text"))

    def _paint_marks(self, painter: QPainter, row: Row, track: Track) -> None:
        for identity, mark in self.marked.items():
            place = place_on(track, identity)
            if place is not None:
                box = self._clip_box(track.clips[place].start, track.clips[place].end, row)
                if box.right() >= HEADER and box.left() <= self.width():
                    paint_mark(painter, box, mark.is_wrong)

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
