"""The controls of a loop's beats: how many, over which span, fitted or free, and the pieces' phase."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QObject

from rovix.desktop.sheet.drop_down import DropDown
from rovix.desktop.sheet.motion.move_page import MovePage
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.parts import Rows, Tick
from rovix.edit.tree import replace
from rovix.model import Beats, Move

_OVER = {"stay": "The stay", "clip": "Whole clip"}


class BeatControls(QObject):
    """Rows that show and set the beats of the move that is tuned."""

    def __init__(self, page: MovePage, rows: Rows) -> None:
        super().__init__(rows)
        self._page = page
        self._over = DropDown(accessibleName="Runs over")
        self._over.setToolTip("From the entrance's end to the exit's start, or over the whole clip.")
        for over, said in _OVER.items():
            self._over.addItem(said, over)
        self._over.activated.connect(
            lambda _: self._give("Change where it runs", over=self._over.currentData())
        )
        page.show_each(lambda move: move.beats.over, self._over.show_data)
        tip = "Beats until it rests; 0 goes on to the end."
        self._count = self._number("Beats", "", 1, 0, "count", tip)
        tip = "How many beats the last piece is behind the first."
        self.phase = self._number("Phase", "beats", 0.05, 2, "phase", tip, high=1000)
        tip = "Beats are stretched a little so that whole ones fill the span; off, they swell and ebb."
        self._fitted = Tick("Whole beats", tip)
        self._fitted.clicked.connect(lambda on: self._give("Change how beats fit", fitted=bool(on)))
        page.show_each(lambda move: move.beats.fitted, self._fitted.show_ticked)
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
        """Show what goes by the leading clip's beats alone."""
        self._ramp.setEnabled(not beats.fitted)

    def _number(
        self, name: str, unit: str, step: float, decimals: int, field: str, tip: str, high: float = 100_000
    ) -> NumberField:  # fmt: skip
        made = NumberField(name, unit, step, decimals, low=0, high=high)
        made.setToolTip(f"{name}. {tip}")
        whole = isinstance(getattr(Beats(), field), int)

        def change(move: Move, value: float) -> dict[str, Any]:
            return {"beats": replace(move.beats, **{field: round(value) if whole else value})}

        return self._page.number(
            made, f"Change the {name.lower()}", lambda move: float(getattr(move.beats, field)), change
        )

    def _give(self, title: str, **changes: Any) -> None:
        self._page.give(title, lambda move: {"beats": replace(move.beats, **changes)})
