"""The controls of a loop's beats: how many, over which span, fitted or free, and the pieces' phase."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QCheckBox

from rovix.desktop.sheet.drop_down import DropDown
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.parts import Rows
from rovix.edit.tree import replace
from rovix.model import Beats

_OVER = {"stay": "The stay", "clip": "Whole clip"}


class BeatControls(QObject):
    """Rows that show beats and say what they are to become."""

    tried = Signal(object)
    committed = Signal(str, object)
    dropped = Signal()

    def __init__(self, rows: Rows) -> None:
        super().__init__(rows)
        self._beats = Beats()
        self._over = DropDown(accessibleName="Runs over")
        self._over.setToolTip("From the entrance's end to the exit's start, or over the whole clip.")
        for over, said in _OVER.items():
            self._over.addItem(said, over)
        self._over.activated.connect(
            lambda _: self._give("Change where it runs", over=self._over.currentData())
        )
        tip = "Beats until it rests; 0 goes on to the end."
        self._count = self._number("Beats", "", 1, 0, "count", tip, whole=True)
        tip = "How many beats the last piece is behind the first."
        self.phase = self._number("Phase", "beats", 0.05, 2, "phase", tip, high=1000)
        self._fitted = QCheckBox("Whole beats")
        tip = "Beats are stretched a little so that whole ones fill the span; off, they swell and ebb."
        self._fitted.setToolTip(tip)
        self._fitted.clicked.connect(lambda on: self._give("Change how beats fit", fitted=bool(on)))
        tip = "How long free beats swell at the start and ebb at the end."
        self._ramp = self._number("Ramp", "s", 0.05, 2, "ramp", tip, high=3600)
        named = {"Runs over": self._over, "Beats": self._count, "Fitted": self._fitted, "Ramp": self._ramp,
                 "Phase": self.phase}  # fmt: skip
        self._widgets = [w for name, field in named.items() for w in (rows.add(name, [field]), field)]

    def setVisible(self, visible: bool) -> None:
        """Show or hide the rows."""
        for widget in self._widgets:
            widget.setVisible(visible)

    def show_beats(self, beats: Beats) -> None:
        """Show a loop's beats."""
        self._beats = beats
        self._over.setCurrentIndex(self._over.findData(beats.over))
        self._count.show_value(beats.count)
        self._fitted.setChecked(beats.fitted)
        self._ramp.setEnabled(not beats.fitted)
        self._ramp.show_value(beats.ramp)
        self.phase.show_value(beats.phase)

    def _number(
        self,
        name: str,
        unit: str,
        step: float,
        decimals: int,
        field: str,
        tip: str,
        high: float = 100_000,
        whole: bool = False,
    ) -> NumberField:
        made = NumberField(name, unit, step, decimals, low=0, high=high)
        made.setToolTip(f"{name}. {tip}")
        kind: Callable[[float], Any] = round if whole else float
        made.tried.connect(lambda value: self.tried.emit(replace(self._beats, **{field: kind(value)})))
        made.committed.connect(lambda value: self._give(f"Change the {name.lower()}", **{field: kind(value)}))
        made.dropped.connect(self.dropped)
        return made

    def _give(self, title: str, **changes: Any) -> None:
        self.committed.emit(title, replace(self._beats, **changes))
