"""The tracks' headers: their names, and marks to hide, mute and lock."""

from __future__ import annotations

from dataclasses import dataclass

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter

from rovix.desktop.theme import colour, font, icon
from rovix.desktop.timeline.rows import Row
from rovix.desktop.timeline.scale import HEADER
from rovix.model import Track

_MARK = 16


@dataclass(frozen=True, slots=True)
class Mark:
    """A mark of a header: the track's field that it turns, and how it looks now."""

    field: str
    picture: str
    on: bool
    tip: str


def marks_of(track: Track) -> tuple[Mark, ...]:
    """The marks of a track, from left to right."""
    if track.kind == "picture":
        first = Mark(
            "hidden", "hidden" if track.hidden else "shown", track.hidden, "Hide this track's pictures."
        )
    else:
        first = Mark("muted", "muted" if track.muted else "heard", track.muted, "Mute this track.")
    locked = Mark(
        "locked", "locked" if track.locked else "unlocked", track.locked, "Lock this track's clips."
    )
    return first, locked


def mark_box(row: Row, number: int) -> QRectF:
    """Where a mark of a row is."""
    left = HEADER - 8 - (2 - number) * (_MARK + 4)
    return QRectF(left, row.top + (row.height - _MARK) / 2, _MARK, _MARK)


def mark_at(row: Row, track: Track, point: QPointF) -> Mark | None:
    """The mark under a point, or None."""
    for number, mark in enumerate(marks_of(track)):
        if mark_box(row, number).adjusted(-2, -4, 2, 4).contains(point):
            return mark
    return None


def paint_header(painter: QPainter, track: Track, row: Row) -> None:
    """Paint a track's name and marks."""
    painter.fillRect(QRectF(0, row.top, HEADER - 4, row.height), colour("panel"))
    painter.setPen(colour("muted" if track.hidden or track.muted else "text"))
    painter.setFont(font(0.96))
    room = int(mark_box(row, 0).left()) - 18
    name = painter.fontMetrics().elidedText(track.name, Qt.TextElideMode.ElideRight, room)
    painter.drawText(QRectF(14, row.top, room, row.height), Qt.AlignmentFlag.AlignVCenter, name)
    for number, mark in enumerate(marks_of(track)):
        role = "accent" if mark.on else "muted"
        icon(mark.picture, role, _MARK).paint(painter, mark_box(row, number).toRect())
