"""Choosing a curve: every one plays the selected words; own ones are shaped by hand."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from rovix.curve import easing
from rovix.desktop.dialogs.buttons import Answers
from rovix.desktop.dialogs.curve_cards import CurveCards, words_picture
from rovix.desktop.dialogs.curve_shapes import CurveShapes
from rovix.model import Clip


class CurvePicker(QDialog):
    """`tried` while curves are looked at; `taken` with the chosen one; closing it else changes nothing."""

    tried = Signal(str)
    taken = Signal(str)

    def __init__(self, text: str, clip: Clip | None, said: str, parent: QWidget) -> None:
        super().__init__(parent, windowTitle="Choose a curve")
        self.resize(1060, 640)
        self._text = text
        self.cards = CurveCards(words_picture(clip, self.devicePixelRatioF()))
        self.cards.tried.connect(self.show_curve)
        self.cards.taken.connect(self._take)
        self.shapes = CurveShapes()
        self.shapes.shaped.connect(self.show_curve)
        self.line = QLineEdit(accessibleName="Curve as CSS text")
        self.line.setToolTip("The curve as text: a name, or CSS such as cubic-bezier(0.2, 0, 0, 1).")
        self.line.editingFinished.connect(self._typed)
        self._problem = QLabel("", objectName="problem", wordWrap=True)
        area = QScrollArea(widgetResizable=True, accessibleName="Curves")
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setWidget(self.cards)
        row = QHBoxLayout()
        row.addWidget(area, 1)
        row.addWidget(self._own())
        column = QVBoxLayout(self)
        column.addWidget(QLabel(said, objectName="muted"))
        column.addLayout(row, 1)
        self._show(text)

    def _own(self) -> QWidget:
        side = QWidget()
        side.setFixedWidth(292)
        column = QVBoxLayout(side)
        column.addWidget(QLabel("Own curve", objectName="heading"))
        column.addWidget(self.shapes)
        column.addStretch(1)
        column.addWidget(self.line)
        column.addWidget(self._problem)
        buttons = Answers()
        take = buttons.addButton("Apply", QDialogButtonBox.ButtonRole.AcceptRole)
        take.setDefault(True)
        take.clicked.connect(lambda: self._take(self._text))
        buttons.addButton("Cancel", QDialogButtonBox.ButtonRole.RejectRole).clicked.connect(self.reject)
        column.addWidget(buttons)
        return side

    @property
    def text(self) -> str:
        """The curve that is shown."""
        return self._text

    def show_curve(self, text: str) -> None:
        """Show and try an easing; one that is none is refused with its reason."""
        try:
            easing(text)
        except ValueError as wrong:
            self._problem.setText(str(wrong))
            return
        self._show(text)
        self.tried.emit(text)

    def _show(self, text: str) -> None:
        self._text = text
        self._problem.setText("")
        self.line.setText(text)
        self.cards.show_chosen(text)
        self.shapes.show_curve(text)

    def _typed(self) -> None:
        if self.line.text().strip() != self._text:
            self.show_curve(self.line.text().strip())

    def _take(self, text: str) -> None:
        if text != self._text:
            self.show_curve(text)
        self.taken.emit(self._text)
        self.accept()
