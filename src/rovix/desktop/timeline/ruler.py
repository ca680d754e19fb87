"""The ruler: time, the in and out range, what is cached, markers, and where the mix clips."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QPolygonF

from rovix.desktop.theme import colour, font
from rovix.desktop.timeline.scale import HEADER, RULER, Scale, ruler_step
from rovix.model import Marker
from rovix.time import Rate, Span, timecode

_FLAG = 9.0
_REACH = 7.0


def paint_ruler(painter: QPainter, scale: Scale, rate: Rate, width: float) -> None:
    """Time along the top."""
    step = ruler_step(scale, rate)
    frame = int(scale.frame(HEADER)) // step * step
    painter.setFont(font(0.84))
    while scale.x(frame) < width:
        x = scale.x(frame)
        if x >= HEADER - 1:
            painter.setPen(colour("line"))
            painter.drawLine(QPointF(x, RULER - 8), QPointF(x, RULER - 3))
            label = ruler_label(frame, rate)
            if x + 4 + painter.fontMetrics().horizontalAdvance(label) < width:
                painter.setPen(colour("muted"))
                painter.drawText(QPointF(x + 4, RULER - 13), label)
        frame += step


@lru_cache(maxsize=2048)
def ruler_label(frame: int, rate: Rate) -> str:
    """Timecode without what is 0."""
    hours, minutes, seconds, frames = timecode(frame, rate).split(":")
    short = f"{int(hours)}:{minutes}" if int(hours) else f"{int(minutes)}"
    return f"{short}:{seconds}" if frames == "00" else f"{short}:{seconds}:{frames}"


def paint_range(painter: QPainter, scale: Scale, span: Span | None) -> None:
    """The in and out range."""
    if span is None:
        return
    left, right = scale.x(span.start), scale.x(span.end)
    painter.fillRect(QRectF(left, 0, right - left, RULER - 3), colour("accent", 0.14))
    painter.setPen(QPen(colour("accent"), 1.5))
    for x in (left, right):
        painter.drawLine(QPointF(x, 2), QPointF(x, RULER - 4))


def paint_cached(painter: QPainter, scale: Scale, ready: list[int]) -> None:
    """A fine texture under the ruler where pictures are ready."""
    painter.setPen(QPen(colour("text", 0.5), 1, Qt.PenStyle.DotLine))
    for start, end in stretches(ready):
        left, right = max(HEADER, scale.x(start)), scale.x(end)
        if right > HEADER:
            for y in (RULER - 3.5, RULER - 1.5):
                painter.drawLine(QPointF(left, y), QPointF(max(left, right), y))


def paint_clipping(painter: QPainter, scale: Scale, levels: np.ndarray) -> None:
    """Marks along the ruler's foot where the mix goes beyond full scale: it would be cut off there."""
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(colour("problem"))
    for start, end in stretches(np.flatnonzero((levels > 1.0).any(axis=1)).tolist()):
        left, right = max(float(HEADER), scale.x(start)), scale.x(end)
        if right > left:
            painter.drawRect(QRectF(left, RULER - 3, max(2.0, right - left), 3))


def marker_at(scale: Scale, markers: tuple[Marker, ...], point: QPointF) -> Marker | None:
    """The marker whose flag is under a point of the ruler."""
    if point.y() > RULER or point.x() < HEADER:
        return None
    near = [m for m in markers if -_REACH <= point.x() - scale.x(m.frame) <= _FLAG + 2]
    return min(near, key=lambda marker: abs(scale.x(marker.frame) - point.x()), default=None)


def paint_markers(
    painter: QPainter, scale: Scale, markers: tuple[Marker, ...], width: float, height: float
) -> None:
    """Flags with names on the ruler, and a fine line down through the tracks."""
    painter.setFont(font(0.78))
    for number, marker in enumerate(markers):
        x = scale.x(marker.frame)
        if not HEADER - 1 <= x <= width:
            continue
        painter.fillRect(QRectF(round(x), RULER, 1, height - RULER), colour("text", 0.22))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("text"))
        foot = RULER - 4.0
        painter.drawPolygon(
            QPolygonF(
                [
                    QPointF(x, foot),
                    QPointF(x, foot - 10),
                    QPointF(x + _FLAG, foot - 6.5),
                    QPointF(x, foot - 3),
                ]
            )
        )
        following = scale.x(markers[number + 1].frame) if number + 1 < len(markers) else width
        room = int(following - x - _FLAG - 6)
        if room > 18 and marker.name:
            painter.setPen(colour("text"))
            said = painter.fontMetrics().elidedText(marker.name, Qt.TextElideMode.ElideRight, min(room, 120))
            painter.drawText(QPointF(x + _FLAG + 3, foot - 1), said)


def stretches(frames: list[int]) -> list[tuple[int, int]]:
    """Runs of neighbouring frames, ends not included."""
    runs: list[tuple[int, int]] = []
    for frame in frames:
        if runs and runs[-1][1] == frame:
            runs[-1] = (runs[-1][0], frame + 1)
        else:
            runs.append((frame, frame + 1))
    return runs
