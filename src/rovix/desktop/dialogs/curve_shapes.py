"""Curves of one's own: a Bezier by its handles, a spring by its numbers, steps, drawn points."""

from __future__ import annotations

import re
from collections.abc import Callable

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QLabel, QStackedWidget, QVBoxLayout, QWidget

from rovix.curve import Spring, easing, settling_time, spring_of
from rovix.desktop.sheet.drop_down import DropDown
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.parts import Rows, Segments
from rovix.desktop.theme import colour, font

Points = list[tuple[float, float]]
_REACH = 9.0
_OVER = 0.35  # of the way, free above and below
_KINDS = {"bezier": "Handles", "linear": "Points", "spring": "Spring", "steps": "Steps"}
_NUMBERS = re.compile(r"[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?")


def bezier_text(points: Points) -> str:
    """`cubic-bezier()` of two handles."""
    return f"cubic-bezier({', '.join(f'{value:.3g}' for point in points for value in point)})"


def linear_text(points: Points) -> str:
    """`linear()` through points (share of time, share of the way), in order of their times."""
    return "linear(" + ", ".join(f"{value:.4g} {share * 100:.4g}%" for share, value in points) + ")"


def numbers_in(text: str) -> list[float]:
    return [float(number) for number in _NUMBERS.findall(text.partition("(")[2])]


class CurvePad(QWidget):
    """A large drawing of a curve, whose handles or points are dragged.

    With points a click on a free place adds one, Delete takes the last touched one away; arrow keys
    move it by a hundredth.
    """

    shaped = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self._text, self._kind = "linear", "bezier"
        self._points: Points = []
        self._held: int | None = None
        self._touched = 0
        self.setFixedSize(QSize(276, 230))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Curve")

    def show_curve(self, text: str, kind: str) -> None:
        self._text, self._kind = text, kind
        if self._held is None:
            self._points = _points_of(text, kind)
        said = {
            "bezier": "Drag the two handles; time never runs back.",
            "linear": "Click to add a point, drag it, Delete takes it away.",
        }
        self.setToolTip(said.get(kind, "The curve as its numbers make it."))
        self.update()

    def _box(self) -> QRectF:
        box = QRectF(self.rect()).adjusted(14, 10, -14, -10)
        over = box.height() * _OVER / (1 + 2 * _OVER)
        return box.adjusted(0, over, 0, -over)

    def place(self, point: tuple[float, float]) -> QPointF:
        """Where a share of time and a share of the way are drawn."""
        box = self._box()
        return QPointF(box.left() + point[0] * box.width(), box.bottom() - point[1] * box.height())

    def _shares(self, at: QPointF) -> tuple[float, float]:
        box = self._box()
        across = min(max((at.x() - box.left()) / box.width(), 0.0), 1.0)
        low, high = -_OVER, 1 + _OVER
        return across, min(max((box.bottom() - at.y()) / box.height(), low), high)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(colour("accent"), 1) if self.hasFocus() else Qt.PenStyle.NoPen)
        painter.setBrush(colour("ground"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6)
        box = self._box()
        painter.setPen(QPen(colour("line"), 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for step in (0.0, 0.25, 0.5, 0.75, 1.0):
            x, y = box.left() + step * box.width(), box.bottom() - step * box.height()
            painter.drawLine(QPointF(x, box.top()), QPointF(x, box.bottom()))
            painter.drawLine(QPointF(box.left(), y), QPointF(box.right(), y))
        shares = np.linspace(0.0, 1.0, 240)
        values = np.clip(easing(self._text)(shares), -_OVER - 0.1, 1.1 + _OVER)
        painter.setPen(QPen(colour("text"), 2))
        line = [self.place(point) for point in zip(shares.tolist(), values.tolist(), strict=True)]
        painter.drawPolyline(QPolygonF(line))
        self._paint_points(painter)
        painter.end()

    def _paint_points(self, painter: QPainter) -> None:
        painter.setPen(QPen(colour("accent"), 1.4))
        if self._kind == "bezier":
            for end, point in zip(((0.0, 0.0), (1.0, 1.0)), self._points, strict=False):
                painter.drawLine(self.place(end), self.place(point))
        for number, point in enumerate(self._points):
            chosen = number == self._touched and self.hasFocus()
            painter.setBrush(colour("accent" if chosen else "panel"))
            painter.drawEllipse(self.place(point), 5.0, 5.0)

    def _under(self, at: QPointF) -> int | None:
        ways = [(_way(self.place(point), at), number) for number, point in enumerate(self._points)]
        distance, number = min(ways, default=(_REACH + 1, 0))
        return number if distance <= _REACH else None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self._kind not in ("bezier", "linear"):
            return
        self._held = self._under(event.position())
        if self._held is None and self._kind == "linear":
            self._points.append(self._shares(event.position()))
            self._points.sort()
            self._held = self._under(event.position())
            self._tell()
        self._touched = self._held or 0

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held is not None:
            self._move(self._held, self._shares(event.position()))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._held = None

    def _move(self, number: int, to: tuple[float, float]) -> None:
        across, down = to
        if self._kind == "linear":
            last = len(self._points) - 1
            low = self._points[number - 1][0] if number else 0.0
            high = self._points[number + 1][0] if number < last else 1.0
            across = {0: 0.0, last: 1.0}.get(number, min(max(across, low), high))
        self._points[number] = (round(across, 4), round(down, 4))
        self._tell()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        steps = {
            Qt.Key.Key_Left: (-0.01, 0.0), Qt.Key.Key_Right: (0.01, 0.0),
            Qt.Key.Key_Up: (0.0, 0.01), Qt.Key.Key_Down: (0.0, -0.01),
        }  # fmt: skip
        number = min(self._touched, len(self._points) - 1)
        step = steps.get(Qt.Key(event.key()))
        if step is not None and self._points:
            point = self._points[number]
            self._move(number, (min(max(point[0] + step[0], 0.0), 1.0), point[1] + step[1]))
        elif event.key() == Qt.Key.Key_Delete and self._kind == "linear":
            self.remove(number)
        else:
            super().keyPressEvent(event)

    def remove(self, number: int) -> None:
        """Take a point away; the two ends stay."""
        if 0 < number < len(self._points) - 1:
            del self._points[number]
            self._tell()

    def _tell(self) -> None:
        text = bezier_text(self._points) if self._kind == "bezier" else linear_text(self._points)
        self._text = text
        self.update()
        self.shaped.emit(text)


def _way(one: QPointF, other: QPointF) -> float:
    return float(np.hypot(one.x() - other.x(), one.y() - other.y()))


def _points_of(text: str, kind: str) -> Points:
    if kind == "bezier":
        x1, y1, x2, y2 = numbers_in(text)
        return [(x1, y1), (x2, y2)]
    if kind != "linear":
        return []
    # Whatever the points were written like, these are where the curve bends.
    shares = np.unique(np.concatenate([[0.0, 1.0], _bends(text)]))
    return list(zip(shares.tolist(), easing(text)(shares).tolist(), strict=True))


def _bends(text: str) -> list[float]:
    parts = text.partition("(")[2].rstrip(")").split(",")
    percents = [re.findall(r"([-+\d.e]+)%", part) for part in parts]
    if all(percents):
        return [min(max(float(p) / 100, 0.0), 1.0) for own in percents for p in own]
    return [number / (len(parts) - 1) for number in range(len(parts))]


class CurveShapes(QWidget):
    """The kinds of own curves with their numbers."""

    shaped = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.kind = "bezier"
        self.pad = CurvePad()
        self.pad.shaped.connect(self._shaped)
        self.kinds = Segments(_KINDS, "Own curve")
        self.kinds.chosen.connect(self._begin)
        self._fields = QStackedWidget()
        self._pages: dict[str, QWidget] = {
            "bezier": _hint("Drag the handles, or type the four numbers of CSS below."),
            "linear": _hint("Click to add points, drag them, Delete takes one away."),
        }
        self._spring, self._settles = self._spring_page()
        self._steps = self._steps_page()
        for page in self._pages.values():
            self._fields.addWidget(page)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(8)
        for widget in (self.kinds, self.pad, self._fields):
            column.addWidget(widget)

    def _spring_page(self) -> tuple[dict[str, NumberField], QLabel]:
        page, rows = QWidget(), Rows()
        fields = {
            "mass": NumberField("Mass", "", 0.05, 2, low=0.01, high=1000),
            "stiffness": NumberField("Stiffness", "", 5, 0, low=0.1, high=100_000),
            "damping": NumberField("Damping", "", 0.5, 1, low=0.01, high=10_000),
            "velocity": NumberField("Start speed", "/s", 0.1, 2, low=-100, high=100),
        }
        for name, field in fields.items():
            rows.add(name.capitalize() if name != "velocity" else "Start speed", [field])
            field.tried.connect(lambda _: self._tell_spring())
            field.committed.connect(lambda _: self._tell_spring())
        said = QLabel("", objectName="muted", wordWrap=True)
        column = QVBoxLayout(page)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(rows)
        column.addWidget(said)
        self._pages["spring"] = page
        return fields, said

    def _steps_page(self) -> tuple[NumberField, QComboBox]:
        page = QWidget()
        count, where = NumberField("Steps", "", 0.05, 0, low=2, high=1000), DropDown(accessibleName="Jumps")
        where.addItems(["jump-end", "jump-start", "jump-none", "jump-both"])
        where.setToolTip("Whether the first or last step, both or none are rests.")
        rows = Rows()
        rows.add("Steps", [count])
        rows.add("Jumps", [where])
        box = QHBoxLayout(page)
        box.setContentsMargins(0, 0, 0, 0)
        box.addWidget(rows)
        for signal in (count.tried, count.committed, where.activated):
            signal.connect(lambda _: self._tell_steps())
        self._pages["steps"] = page
        return count, where

    def show_curve(self, text: str) -> None:
        """Show an easing; one that is no own curve is only drawn."""
        name = text.partition("(")[0].strip()
        kind = {"cubic-bezier": "bezier", "linear": "linear", "spring": "spring", "steps": "steps"}.get(name)
        own = kind is not None and "(" in text
        self.kind = kind if own and kind is not None else ""
        self.kinds.clear_choice() if not own else self.kinds.show_choice(self.kind)
        self._fields.setVisible(own)
        if own:
            self._fields.setCurrentWidget(self._pages[self.kind])
        self.pad.show_curve(text, self.kind)
        if self.kind == "spring":
            values = spring_of(text.partition("(")[2].rstrip(")"))
            for field, value in zip(self._spring.values(), values, strict=True):
                field.show_value(value)
            self._settles.setText(
                f"Settles in {settling_time(*values):.2f} s by itself; here in the way's time."
            )
        elif self.kind == "steps":
            count, where = text.partition("(")[2].rstrip(")").partition(",")[::2]
            self._steps[0].show_value(float(count))
            self._steps[1].setCurrentText(where.strip() or "jump-end")

    def _begin(self, kind: str) -> None:
        """Start an own curve of a kind; drawn points begin as what is shown."""
        starts: dict[str, Callable[[], str]] = {
            "bezier": lambda: "cubic-bezier(0.3, 0, 0.2, 1)",
            "linear": lambda: linear_text(_like(self.pad._text)),
            "spring": lambda: Spring().text,
            "steps": lambda: "steps(6, jump-end)",
        }
        self._shaped(starts[kind]())

    def _tell_spring(self) -> None:
        self._shaped(Spring(*(field.value or 0.0 for field in self._spring.values())).text)

    def _tell_steps(self) -> None:
        count, where = self._steps
        self._shaped(f"steps({round(count.value or 2)}, {where.currentText()})")

    def _shaped(self, text: str) -> None:
        self.shaped.emit(text)


def _like(text: str) -> Points:
    """A few points along a curve, to begin drawing from."""
    shares = np.linspace(0.0, 1.0, 6)
    return list(zip(shares.tolist(), np.round(easing(text)(shares), 3).tolist(), strict=True))


def _hint(text: str) -> QLabel:
    label = QLabel(text, objectName="muted", wordWrap=True)
    label.setFont(font(0.92))
    return label
