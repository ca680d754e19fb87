"""How lanes look: curves, keys, tangents, the speed line, and their headers."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QLinearGradient, QPainter, QPen, QPolygonF

from rovix.desktop.channel_facts import Fact
from rovix.desktop.theme import colour, font
from rovix.desktop.timeline.lanes.geometry import LaneCurve
from rovix.desktop.timeline.lanes.state import Lane
from rovix.desktop.timeline.scale import HEADER
from rovix.model import ColourKeys
from rovix.model.fields import Animated
from rovix.motion.colours import colours_at
from rovix.motion.reading import Reading, reading, values_of

_LEFT = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
_RIGHT = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
ROOMY = 54
"""Px from which on a lane has room for what is read from its curve."""
_DISC = 4.5


def paint_ground(painter: QPainter, lane: Lane, left: float, right: float, width: float) -> None:
    """A lane's bed, lighter where its clip is."""
    bed = QRectF(HEADER, lane.top, width - HEADER, lane.height)
    painter.fillRect(bed, colour("ground", 0.75))
    own = QRectF(max(float(HEADER), left), lane.top, 0, lane.height)
    own.setRight(min(right, width))
    if own.width() > 0:
        painter.fillRect(own, colour("raised", 0.55))
    painter.setPen(QPen(colour("line"), 1))
    painter.drawLine(QPointF(0, lane.bottom - 0.5), QPointF(width, lane.bottom - 0.5))


def paint_curve(painter: QPainter, curve: LaneCurve, fact: Fact, speed: bool) -> None:
    """The curve with its keys."""
    if isinstance(curve.held, ColourKeys):
        _paint_colours(painter, curve, curve.held)
    else:
        _paint_levels(painter, curve)
        if speed and not isinstance(curve.held, float):
            _paint_speed(painter, curve, curve.held)
        xs = [curve.x(frame) for frame in curve.frames.tolist()]
        ys = [curve.y(value) for value in curve.values.tolist()]
        painter.setPen(QPen(colour("text"), 1.6))
        painter.drawPolyline(QPolygonF([QPointF(x, y) for x, y in zip(xs, ys, strict=True)]))
    if isinstance(curve.held, float):
        return
    found = reading(curve.held) if len(curve.keys) > 1 else None
    if not isinstance(curve.held, ColourKeys):
        _paint_said(painter, curve, fact, found, speed)
    for frame in found.breaks if found is not None else ():
        _paint_break(painter, curve, frame)
    _paint_handles(painter, curve)
    for key in curve.keys:
        _paint_key(painter, curve.point(key), key.frame in curve.chosen)


def _paint_key(painter: QPainter, point: QPointF, chosen: bool) -> None:
    painter.setPen(QPen(colour("accent"), 1.8))
    painter.setBrush(colour("accent" if chosen else "panel"))
    painter.drawEllipse(point, _DISC, _DISC)


def _paint_levels(painter: QPainter, curve: LaneCurve) -> None:
    """Lines at the highest and lowest value, and nothing else, so that the curve stays clear."""
    painter.setPen(QPen(colour("line"), 1, Qt.PenStyle.DotLine))
    for value in {curve.low, curve.high}:
        y = curve.y(value)
        left = QPointF(max(float(HEADER), curve.x(0)), y)
        painter.drawLine(left, QPointF(curve.x(curve.clip.length - 1), y))


def _paint_said(painter: QPainter, curve: LaneCurve, fact: Fact, found: Reading | None, speed: bool) -> None:
    """The highest and lowest value and what is read from the curve, right of the clip or over its end."""
    lane, end = curve.lane, curve.scale.x(curve.clip.span.end) + 6
    painter.setFont(font(0.82))
    lines = [(0.0, "muted", fact.shown(curve.high)), (1.0, "muted", fact.shown(curve.low))]
    if found is not None and lane.height >= ROOMY:
        lines += [(0.36, "muted", said_of_reading(found, curve.clip.length))]
        lines += [(0.64, "loop", f"fastest {fact.shown(found.fastest)} per frame")] if speed else []
    widest = max(painter.fontMetrics().horizontalAdvance(said) for _, _, said in lines)
    view = painter.clipBoundingRect()
    left = min(max(end, view.left() + 4), view.right() - widest - 8)
    for share, role, said in lines if lane.height >= 40 else ():
        place = QRectF(left, lane.top + 2 + share * (lane.height - 16), widest + 4, 12)
        if left < end:
            painter.fillRect(place.adjusted(-2, 0, 0, 0), colour("ground", 0.8))
        painter.setPen(colour(role))
        painter.drawText(place, _LEFT, said)


def _paint_speed(painter: QPainter, curve: LaneCurve, held: Animated) -> None:
    """How fast it goes, per frame, as a thin second line over the lane's whole height."""
    frames = np.arange(0.0, curve.clip.length)
    speeds = np.abs(np.diff(values_of(held, frames)))
    most = float(speeds.max()) if len(speeds) else 0.0
    if most <= 0:
        return
    base, room = curve.lane.bottom - 6.0, curve.lane.height - 12.0
    points = [
        QPointF(curve.x(n + 0.5), base - share * room) for n, share in enumerate((speeds / most).tolist())
    ]
    painter.setPen(QPen(colour("loop"), 1, Qt.PenStyle.DashLine))
    painter.drawPolyline(QPolygonF(points))


def said_of_reading(found: Reading, length: int) -> str:
    """Overshoot and settling in words; nothing where there is nothing to say."""
    over = f"overshoot {found.overshoot * 100:.0f} %, " if found.overshoot > 0.004 else ""
    return f"{over}settles at frame {found.settles:.4g}" if 0 < found.settles < length else over.rstrip(", ")


def _paint_break(painter: QPainter, curve: LaneCurve, frame: int) -> None:
    """A notch under a key whose speed jumps."""
    key = next(key for key in curve.keys if key.frame == frame)
    point = curve.point(key)
    way = 1 if point.y() < curve.lane.top + curve.lane.height / 2 else -1
    foot = QPointF(point.x(), point.y() + way * 8)
    painter.setPen(QPen(colour("problem"), 1.6))
    painter.drawPolyline(QPolygonF([foot + QPointF(-4, way * 5), foot, foot + QPointF(4, way * 5)]))


def _paint_handles(painter: QPainter, curve: LaneCurve) -> None:
    for _, start, end in curve.handles():
        painter.setPen(QPen(colour("accent"), 1.1))
        painter.drawLine(start, end)
        painter.setBrush(colour("panel"))
        painter.drawRect(QRectF(end.x() - 3.5, end.y() - 3.5, 7, 7))


def _paint_colours(painter: QPainter, curve: LaneCurve, held: ColourKeys) -> None:
    left, right = curve.x(0) - curve.scale.px / 2, curve.x(curve.clip.length - 1) + curve.scale.px / 2
    middle = curve.lane.top + curve.lane.height / 2
    strip = QRectF(left, middle - 7, right - left, 14)
    gradient = QLinearGradient(strip.topLeft(), strip.topRight())
    frames = np.linspace(0.0, curve.clip.length - 1, 48)
    for share, text in zip(np.linspace(0, 1, 48).tolist(), colours_at(held, frames), strict=True):
        gradient.setColorAt(share, QColor(text[:7]))
    painter.setPen(QPen(colour("line"), 1))
    painter.setBrush(gradient)
    painter.drawRoundedRect(strip, 4, 4)


def header_boxes(lane: Lane) -> dict[str, QRectF]:
    """Where a lane's marks are in its header: previous key, the pip, next key."""
    top = lane.top + (lane.height - 16 if lane.height < 44 else lane.height / 2 + 2)
    if lane.height < 44:
        top = lane.top + lane.height / 2 - 7
    right = HEADER - 10
    return {
        "previous": QRectF(right - 46, top, 14, 14),
        "ring": QRectF(right - 30, top, 14, 14),
        "next": QRectF(right - 14, top, 14, 14),
    }


def paint_header(
    painter: QPainter, lane: Lane, fact: Fact, value: object, state: str, pinned: bool, locked: bool
) -> None:
    """A lane's name, its value at the playhead, and the marks to set keys and go to them."""
    painter.fillRect(QRectF(0, lane.top, HEADER - 4, lane.height - 1), colour("panel"))
    boxes = header_boxes(lane)
    low = lane.height < 44
    painter.setFont(font(0.88))
    painter.setPen(colour("muted" if locked else "text"))
    room = (boxes["previous"].left() - 26) if low else HEADER - 34
    name = painter.fontMetrics().elidedText(fact.said, Qt.TextElideMode.ElideRight, int(room))
    top = lane.top + lane.height / 2 - (8 if low else 18)
    painter.drawText(QRectF(24, top, room, 16), _LEFT, name)
    if pinned:
        painter.setPen(QPen(colour("muted"), 1.4))
        painter.drawLine(QPointF(14, top + 3), QPointF(14, top + 13))
        painter.drawLine(QPointF(11, top + 3), QPointF(17, top + 3))
    if not low:
        painter.setPen(colour("accent" if state != "none" else "muted"))
        shown = painter.fontMetrics().elidedText(fact.shown(value), Qt.TextElideMode.ElideRight, 66)
        painter.drawText(QRectF(24, lane.top + lane.height / 2 + 1, 68, 16), _LEFT, shown)
    _paint_marks(painter, boxes, state)


def _paint_marks(painter: QPainter, boxes: dict[str, QRectF], state: str) -> None:
    keyed = state != "none"
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(colour("text" if keyed else "line"))
    for name, way in (("previous", -1), ("next", 1)):
        middle = boxes[name].center()
        tip = middle + QPointF(3.5 * way, 0)
        back = middle - QPointF(2.5 * way, 0)
        painter.drawPolygon(QPolygonF([tip, back + QPointF(0, -4), back + QPointF(0, 4)]))
    disc = boxes["ring"].adjusted(2.5, 2.5, -2.5, -2.5)
    painter.setPen(QPen(colour("accent" if keyed else "muted"), 1.4))
    painter.setBrush(colour("accent") if state == "key" else Qt.BrushStyle.NoBrush)
    painter.drawEllipse(disc)
    if state == "animated":
        painter.setBrush(colour("accent"))
        painter.drawPie(disc, 90 * 16, 180 * 16)


def paint_head(painter: QPainter, lane: Lane, said: str, width: float) -> None:
    """The row over a clip's lanes: what it shows, and room for the bracket."""
    painter.fillRect(QRectF(0, lane.top, HEADER - 4, lane.height - 1), colour("panel"))
    painter.fillRect(QRectF(HEADER, lane.top, width - HEADER, lane.height), colour("ground", 0.6))
    painter.setFont(font(0.84))
    painter.setPen(colour("muted"))
    name = painter.fontMetrics().elidedText(said, Qt.TextElideMode.ElideRight, HEADER - 46)
    painter.drawText(QRectF(14, lane.top, HEADER - 42, lane.height - 2), _LEFT, name)
    middle = QPointF(HEADER - 22, lane.top + lane.height / 2 - 1)
    painter.setPen(QPen(colour("muted"), 1.4))
    painter.drawPolyline(
        QPolygonF([middle + QPointF(-4, -2), middle + QPointF(0, 2), middle + QPointF(4, -2)])
    )


def paint_rest_marks(
    painter: QPainter, lane: Lane, landing: float | None, leaving: float | None, named: bool
) -> None:
    """Where the layer lands and where it leaves: first and last frame at rest."""
    painter.setFont(font(0.82))
    for x, role, said, way in ((landing, "entrance", "lands", 1), (leaving, "exit", "leaves", -1)):
        if x is None or x < HEADER:
            continue
        painter.setPen(QPen(colour(role), 1.4))
        painter.drawLine(QPointF(x, lane.top + 4), QPointF(x, lane.bottom - 3))
        box = QRectF(x + 4 if way > 0 else x - 64, lane.top + 2, 60, lane.height - 5)
        if named:
            painter.drawText(box, _LEFT if way > 0 else _RIGHT, said)


def paint_bracket(painter: QPainter, lane: Lane, left: float, right: float, said: str) -> None:
    """The bracket over selected keys, by whose ends they are stretched."""
    y = lane.top + lane.height / 2
    painter.setPen(QPen(colour("text"), 1.6))
    painter.drawLine(QPointF(left, y), QPointF(right, y))
    for x in (left, right):
        painter.drawLine(QPointF(x, y), QPointF(x, lane.bottom - 3))
        painter.setBrush(colour("text"))
        painter.drawEllipse(QPointF(x, y), 4.0, 4.0)
    painter.setFont(font(0.8))
    width = painter.fontMetrics().horizontalAdvance(said) + 12
    if right - left > width + 16:
        box = QRectF((left + right - width) / 2, lane.top + 3, width, lane.height - 7)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("ground"))
        painter.drawRoundedRect(box, 4, 4)
        painter.setPen(colour("text"))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, said)
