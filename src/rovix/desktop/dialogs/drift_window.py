"""Asking how a layer is to change while it stays; shown in the picture at once."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QDialog, QGridLayout, QLabel, QVBoxLayout

from rovix.desktop.dialogs.buttons import answer_row
from rovix.desktop.sheet.number_field import NumberField
from rovix.edit.drift import Drift, drift
from rovix.edit.each import Left, edited_each
from rovix.errors import RovixError
from rovix.model import Project

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame

_FIELDS: dict[str, tuple[str, str, float, float, str]] = {
    "growth": ("Grow", "%", 100.0, 1.0, "How much larger it is where it leaves; below 0 smaller."),
    "x": ("Slide X", "px", 1.0, 1.0, "How far it goes right, px of the sequence; below 0 left."),
    "y": ("Slide Y", "px", 1.0, 1.0, "How far it goes down, px of the sequence; below 0 up."),
    "turn": ("Turn", "°", 1.0, 0.5, "How far it turns, degrees clockwise."),
    "spread": ("Spread letters", "em", 1.0, 0.01, "How much room letters gain, in sizes of the words."),
    "ramp_in": ("Gets going in", "s", 1.0, 0.1, "Seconds from rest to full speed."),
    "ramp_out": ("Comes to a stand in", "s", 1.0, 0.1, "Seconds from full speed to rest."),
}
"""What each field is called, its unit and factor, its step, what it says."""
_TIMES = ("ramp_in", "ramp_out")


class DriftWindow(QDialog):
    """A field for each way to change; the selected layers show it until it is left."""

    def __init__(self, window: Frame) -> None:
        super().__init__(window, windowTitle="Drift")
        self._document = window.document
        self._way = Drift()
        self._left = False
        self._why = QLabel("", objectName="muted", wordWrap=True)
        self.fields = {name: self._field(name) for name in _FIELDS}
        grid = QGridLayout()
        grid.setSpacing(8)
        for row, (name, field) in enumerate(self.fields.items()):
            grid.addWidget(QLabel(_FIELDS[name][0]), row, 0)
            grid.addWidget(field, row, 1)
        column = QVBoxLayout(self)
        column.setSpacing(10)
        column.addWidget(QLabel("From where it lands to where it leaves", objectName="heading"))
        column.addLayout(grid)
        column.addWidget(self._why)
        self._answers = answer_row(self, "Let it drift")
        column.addWidget(self._answers)
        QTimer.singleShot(0, self._show)

    def _field(self, name: str) -> NumberField:
        said, unit, factor, step, tip = _FIELDS[name]
        low = 0.0 if name in _TIMES else -100_000.0
        decimals = {"em": 3, "s": 2}.get(unit, 1)
        field = NumberField(said, unit, step, decimals, factor, low=low, high=100_000.0 / factor)
        field.setToolTip(f"{said}. {tip}")
        field.show_value(getattr(self._way, name))
        for signal in (field.tried, field.committed):
            signal.connect(lambda value, name=name: self._change(name, value))
        field.dropped.connect(self._show)
        return field

    def _change(self, name: str, value: float) -> None:
        values = {own: getattr(self._way, own) for own in _FIELDS}
        self._way = Drift(**{**values, name: value})
        self._show()

    def _edit(self, project: Project) -> Project:
        return edited_each(project, self._document.selection, lambda p, i: drift(p, i, self._way), Left())

    def _show(self) -> None:
        """Show the fields and, in the picture, what they do; say why where that cannot be."""
        if self._left:
            return
        for name, field in self.fields.items():
            field.show_value(getattr(self._way, name))
        try:
            made = self._edit(self._document.committed)
        except RovixError as wrong:
            self._document.drop()
            self._say(str(wrong), False)
            return
        self._say("", made is not self._document.committed)
        self._document.try_on(self._edit)

    def _say(self, why: str, ready: bool) -> None:
        self._why.setText(why)
        self._answers.button(self._answers.StandardButton.Ok).setEnabled(ready)

    def accept(self) -> None:
        """One step for all selected layers."""
        for field in self.fields.values():
            field.finish_typing()
            if field.problem:
                self._say(field.problem, False)
                return
        self._leave()
        self._document.do_each("Let drift", self._document.selection, lambda p, i: drift(p, i, self._way))
        super().accept()

    def reject(self) -> None:
        self._leave()
        super().reject()

    def _leave(self) -> None:
        # A field that loses the keyboard as the dialog closes would try its value on again.
        self._left = True
        self._document.drop()
