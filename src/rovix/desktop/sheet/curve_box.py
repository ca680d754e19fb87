"""Choosing an easing by name, with its curve drawn beside."""

from __future__ import annotations

import re
from collections.abc import Callable

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QWidget

from rovix.curve import Spring, easing, easing_names, settling_time, spring_of
from rovix.desktop.dialogs.curve_picker import CurvePicker
from rovix.desktop.qt import line_of
from rovix.desktop.sheet.drop_down import DropDown
from rovix.desktop.sheet.mixed import MIXED, Mixed
from rovix.desktop.theme import colour
from rovix.model import Clip


class CurvePicture(QWidget):
    """A small drawing of an easing; room is left for what goes beyond 0 and 1. A click opens the picker."""

    clicked = Signal()

    def __init__(self) -> None:
        super().__init__()
        self._values = np.zeros(2)
        self.setFixedSize(QSize(52, 30))
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def show_curve(self, text: str) -> None:
        self._values = easing(text)(np.linspace(0, 1, 60))
        over = (float(self._values.max()) - 1) * 100
        beyond = f": goes {over:.0f} % beyond" if over > 0.5 else ""
        self.setToolTip(f"{text}{beyond}{_settles(text)}. Click to choose among all curves.")
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self.clicked.emit()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(self.rect()).adjusted(3, 4, -3, -4)
        low, high = min(0.0, float(self._values.min())), max(1.0, float(self._values.max()))
        x = np.linspace(box.left(), box.right(), len(self._values))
        y = box.bottom() - (self._values - low) / (high - low) * box.height()
        painter.setPen(QPen(colour("line"), 1))
        for level in (0.0, 1.0):
            at = box.bottom() - (level - low) / (high - low) * box.height()
            painter.drawLine(QPointF(box.left(), at), QPointF(box.right(), at))
        painter.setPen(QPen(colour("accent"), 1.6))
        painter.drawPolyline(QPolygonF([QPointF(*point) for point in zip(x, y, strict=True)]))
        painter.end()


def _settles(text: str) -> str:
    """How long a spring takes by itself, for its tooltip."""
    found = re.fullmatch(r"spring\((.*)\)", text)
    return "" if found is None else f", settles in {settling_time(*spring_of(found[1])):.2f} s by itself"


class CurveBox(QWidget):
    """An easing by name, or typed as CSS."""

    chosen = Signal(str)
    refused = Signal(str)

    def __init__(self, name: str) -> None:
        super().__init__()
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(6)
        self._box = DropDown(editable=True, accessibleName=name)
        self._box.setToolTip(
            f"{name}: choose one, or type a CSS easing such as cubic-bezier(0.2, 0, 0, 1), "
            f"or a spring by mass, stiffness and damping: {Spring().text}."
        )
        self._box.addItems(easing_names())
        self._box.setInsertPolicy(QComboBox.InsertPolicy.NoInsert)
        self._box.activated.connect(lambda _: self._take())
        line_of(self._box).returnPressed.connect(self._take)
        self._picture = CurvePicture()
        self._picture.clicked.connect(self.pick)
        row.addWidget(self._box, 1)
        row.addWidget(self._picture)
        self._shown = ""
        self.text: Callable[[], Clip | None] = lambda: None
        """Whose words the picker plays."""

    def show_curve(self, text: str | Mixed) -> None:
        """Show a curve; where several differ, none, and the picture keeps the last."""
        if isinstance(text, Mixed):
            self._shown = ""
            self._box.setCurrentText("mixed")
            return
        self._shown = text
        self._box.setCurrentText(text)
        line_of(self._box).setCursorPosition(0)
        self._picture.show_curve(text)

    def pick(self) -> CurvePicker:
        """Choose among all curves, which play the words of the selected layer."""
        picker = CurvePicker(self._shown or "linear", self.text(), self._box.accessibleName(), self.window())
        picker.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        picker.taken.connect(self.chosen)
        picker.open()
        return picker

    def _take(self) -> None:
        text = self._box.currentText().strip()
        if text == str(MIXED):
            return
        try:
            easing(text)
        except ValueError as wrong:
            self.refused.emit(str(wrong))
            self.show_curve(self._shown or MIXED)
            return
        self.chosen.emit(text)
