"""The tracks' headers: their names, and marks to hide, mute and lock."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPixmap

from rovix.desktop.theme import colour, font, icon
from rovix.desktop.timeline.rows import Row
from rovix.desktop.timeline.scale import HEADER
from rovix.model import Track

_MARK = 16
TURNS = {
    "hidden": ("Hide", "Show"), "muted": ("Mute", "Unmute"), "locked": ("Lock", "Unlock"),
    "solo": ("Hear only", "Hear all beside"),
}  # fmt: skip
"""What a mark does to a track that has its field off, and on."""


@dataclass(frozen=True, slots=True)
class Mark:
    """A mark of a header: the track's field that it turns, and how it looks now."""

    field: str
    picture: str
    on: bool
    tip: str


def marks_of(track: Track) -> tuple[Mark, ...]:
    """The marks of a track, from left to right."""
    locked = Mark(
        "locked", "locked" if track.locked else "unlocked", track.locked, "Lock this track's clips."
    )
    if track.kind == "picture":
        seen = "hidden" if track.hidden else "shown"
        return Mark("hidden", seen, track.hidden, "Hide this track's pictures."), locked
    heard = "muted" if track.muted else "heard"
    return (
        Mark("solo", "solo", track.solo, "Hear only this track, and others that are marked so."),
        Mark("muted", heard, track.muted, "Mute this track."),
        locked,
    )


def mark_box(row: Row, number: int, count: int = 2) -> QRectF:
    """Where a mark of a row is, of `count` marks."""
    left = HEADER - 8 - (count - number) * (_MARK + 4)
    return QRectF(left, row.top + min(9.5, (row.height - _MARK) / 2), _MARK, _MARK)


def mark_at(row: Row, track: Track, point: QPointF) -> Mark | None:
    """The mark under a point, or None."""
    marks = marks_of(track)
    for number, mark in enumerate(marks):
        if mark_box(row, number, len(marks)).adjusted(-2, -4, 2, 4).contains(point):
            return mark
    return None


_Fields = tuple[str, Literal["picture", "sound"], bool, bool, bool, bool]
"""What a header shows of a track: name, kind, hidden, muted, solo, locked."""


def paint_header(painter: QPainter, track: Track, row: Row) -> None:
    """Paint a track's name and marks; each is drawn once and laid down from then on."""
    fields = (track.name, track.kind, track.hidden, track.muted, track.solo, track.locked)
    painter.drawPixmap(0, row.top, _header(fields, row.height, _ratio(painter), font(0.96).pixelSize()))


@lru_cache(maxsize=256)
def _header(fields: _Fields, height: int, ratio: float, _px: int) -> QPixmap:
    name, kind, hidden, muted, solo, locked = fields
    track = Track(id="-", name=name, kind=kind, hidden=hidden, muted=muted, solo=solo, locked=locked)
    pixmap = QPixmap(round((HEADER - 4) * ratio), round(height * ratio))
    pixmap.setDevicePixelRatio(ratio)
    pixmap.fill(colour("panel"))
    painter = QPainter(pixmap)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    _draw_header(painter, track, Row(0, 0, height), ratio)
    painter.end()
    return pixmap


def _draw_header(painter: QPainter, track: Track, row: Row, ratio: float) -> None:
    painter.setPen(colour("muted" if track.hidden or track.muted else "text"))
    painter.setFont(font(0.96))
    marks = marks_of(track)
    room = int(mark_box(row, 0, len(marks)).left()) - 18
    name = painter.fontMetrics().elidedText(track.name, Qt.TextElideMode.ElideRight, room)
    painter.drawText(QRectF(14, row.top, room, min(35, row.height)), Qt.AlignmentFlag.AlignVCenter, name)
    for number, mark in enumerate(marks):
        role = "accent" if mark.on else "muted"
        box = mark_box(row, number, len(marks))
        picture = icon(mark.picture, role, _MARK).pixmap(QSize(_MARK, _MARK), ratio)
        painter.drawPixmap(box.topLeft().toPoint(), picture)


def _ratio(painter: QPainter) -> float:
    device = painter.device()
    return device.devicePixelRatioF() if device is not None else 1.0
