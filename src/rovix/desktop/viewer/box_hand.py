"""A box dragged out in the picture, as what is to be looked at there."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen

from rovix.desktop.theme import colour
from rovix.desktop.viewer.geometry import View
from rovix.desktop.viewer.hand import Hand, Modifiers

Box = tuple[float, float, float, float]
_LEAST = 6.0  # px of the viewer
_POINT = 24.0  # px of the frame each way about a click


class BoxHand(Hand):
    """Gives `take` a box (left, top, right, bottom) in px of the frame; of a click, one about the point."""

    def __init__(self, hint: str, take: Callable[[Box], None]) -> None:
        self._hint, self._take = hint, take
        self._start: QPointF | None = None
        self._end = QPointF()
        self._done = False

    @property
    def hint(self) -> str:
        return self._hint

    def is_over(self) -> bool:
        return self._done

    def press(self, view: View, point: QPointF, modifiers: Modifiers) -> None:
        self._start = self._end = point

    def move(self, view: View, point: QPointF, modifiers: Modifiers, held: bool) -> None:
        self._end = point

    def release(self, view: View, point: QPointF, modifiers: Modifiers) -> None:
        if self._start is None:
            return
        start, self._start = self._start, None
        box = QRectF(start, point).normalized()
        self._done = True
        if max(box.width(), box.height()) < _LEAST:
            x, y = view.to_frame(point)
            self._take((x - _POINT, y - _POINT, x + _POINT, y + _POINT))
            return
        left, top = view.to_frame(box.topLeft())
        right, bottom = view.to_frame(box.bottomRight())
        self._take((left, top, right, bottom))

    def escape(self) -> bool:
        begun, self._start = self._start is not None, None
        return begun

    def paint(self, painter: QPainter, view: View) -> None:
        if self._start is None:
            return
        painter.setBrush(Qt.BrushStyle.NoBrush)
        box = QRectF(self._start, self._end).normalized()
        for width, role, share in ((3.4, "ground", 0.7), (1.5, "text", 1.0)):
            painter.setPen(QPen(colour(role, share), width))
            painter.drawRect(box)
