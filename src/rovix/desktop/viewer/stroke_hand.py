"""Strokes drawn over the picture: of what belongs to a thing, and of what does not."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QKeyEvent, QPainter, QPen, QPolygonF

from rovix.desktop.theme import colour
from rovix.desktop.viewer.geometry import View
from rovix.desktop.viewer.hand import Hand, Modifiers

WIDTH = 10.0
"""px of the viewer that a stroke is wide."""
_APART = 2.0  # px of the viewer from point to point at least


@dataclass
class Drawn:
    """A stroke in px of the frame, or the two corners of a box."""

    frame: int
    points: list[tuple[float, float]]
    width: float
    belongs: bool = True
    box: bool = False


@dataclass
class _Begun:
    drawn: Drawn
    last: QPointF = field(default_factory=QPointF)


class StrokeHand(Hand):
    """Gives `take` what was drawn: the first stroke or, with Shift, box as soon as it is drawn; with
    `several` all strokes at Enter, those with Shift being of what does not belong. `known` strokes are
    shown, too; `over` is called when it is put down."""

    def __init__(
        self, hint: str, frame: Callable[[], int], take: Callable[[list[Drawn]], None], several: bool = False,
        known: Callable[[], list[Drawn]] = list, over: Callable[[], None] = lambda: None,
    ) -> None:  # fmt: skip
        self._hint, self._frame, self._take = hint, frame, take
        self._several, self._known, self._over = several, known, over
        self.strokes: list[Drawn] = []
        self._begun: _Begun | None = None
        self._done = False

    @property
    def hint(self) -> str:
        return self._hint

    def is_over(self) -> bool:
        return self._done

    def put_down(self) -> None:
        self._over()

    def press(self, view: View, point: QPointF, modifiers: Modifiers) -> None:
        shift = bool(modifiers & Modifiers.ShiftModifier)
        drawn = Drawn(self._frame(), [view.to_frame(point)], WIDTH / view.scale)
        drawn.belongs = not (shift and self._several)
        drawn.box = shift and not self._several
        self._begun = _Begun(drawn, point)

    def move(self, view: View, point: QPointF, modifiers: Modifiers, held: bool) -> None:
        begun = self._begun
        if not held or begun is None or (point - begun.last).manhattanLength() < _APART:
            return
        begun.last = point
        if begun.drawn.box:
            begun.drawn.points[1:] = [view.to_frame(point)]
        else:
            begun.drawn.points.append(view.to_frame(point))

    def release(self, view: View, point: QPointF, modifiers: Modifiers) -> None:
        begun, self._begun = self._begun, None
        if begun is None or (begun.drawn.box and len(begun.drawn.points) < 2):
            return
        self.strokes.append(begun.drawn)
        if not self._several:
            self._finish()

    def key(self, event: QKeyEvent) -> bool:
        if event.key() in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            if self.strokes:
                self.strokes.pop()
            return True
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.strokes:
            self._finish()
            return True
        return False

    def _finish(self) -> None:
        self._done = True
        self._take(self.strokes)

    def escape(self) -> bool:
        begun, self._begun = self._begun is not None, None
        return begun

    def paint(self, painter: QPainter, view: View) -> None:
        here = [drawn for drawn in (*self._known(), *self.strokes) if drawn.frame == self._frame()]
        for drawn in (*here, *([self._begun.drawn] if self._begun else [])):
            _paint(painter, view, drawn)


def _paint(painter: QPainter, view: View, drawn: Drawn) -> None:
    """Solid and cream for what belongs, dashed for what does not."""
    points = [view.to_view(*point) for point in drawn.points]
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for wider, role, share in ((2.0, "ground", 0.7), (0.0, "text", 0.95)):
        pen = QPen(
            colour(role, share), (1.5 if drawn.box else max(3.0, drawn.width * view.scale * 0.6)) + wider
        )
        pen.setCapStyle(Qt.PenCapStyle.RoundCap)
        pen.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
        if not drawn.belongs and role == "text":
            pen.setCapStyle(Qt.PenCapStyle.FlatCap)
            pen.setDashPattern([1.2, 1.2])
        painter.setPen(pen)
        if drawn.box:
            if len(points) > 1:
                painter.drawRect(QRectF(points[0], points[1]).normalized())
        elif len(points) > 1:
            painter.drawPolyline(QPolygonF(points))
        else:
            painter.drawPoint(points[0])
