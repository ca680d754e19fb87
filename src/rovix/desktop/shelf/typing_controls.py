"""The controls of typing: rhythm, tapping it in, the caret, and lines that keep one height."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QCheckBox, QPushButton, QWidget

from rovix.desktop.sheet.drop_down import DropDown
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.parts import Rows, Segments
from rovix.edit.tree import replace
from rovix.model import Caret, Typing

_RHYTHMS = {"even": "Even", "uneven": "Uneven", "tapped": "Tapped"}
_RHYTHM_TIPS = {
    "even": "Piece after piece, by the order curve.",
    "uneven": "Gaps drawn at random, longer behind punctuation and lines.",
    "tapped": "The rhythm that you tap in while it plays.",
}
_CARETS = {"none": "No caret", "bar": "Bar", "block": "Block", "underline": "Underline"}


class TypingControls(QObject):
    """Rows that show how a move types and say what that is to become; None where it does not type."""

    tried = Signal(object)
    committed = Signal(str, object)
    dropped = Signal()
    tapping = Signal()
    drawn_again = Signal()
    to_middle = Signal()

    def __init__(self, rows: Rows) -> None:
        # Long: the controls in the order in which they stand, a statement or two each.
        super().__init__(rows)
        self._typing = Typing()
        self.on = QCheckBox("Typed", toolTip="Pieces come at once, one after the other, in a rhythm.")
        self.on.clicked.connect(
            lambda on: self.committed.emit("Type it" if on else "Do not type it", Typing() if on else None)
        )
        self._rhythm = Segments(_RHYTHMS, "Rhythm", _RHYTHM_TIPS)
        self._rhythm.chosen.connect(lambda value: self._give("Change the rhythm", rhythm=value))
        self._least = self._number(
            "Least", "f", "least", 1, 1000, "The shortest gap; only its share of the longest counts."
        )
        self._most = self._number("Most", "f", "most", 1, 1000, "The longest gap between two pieces.")
        self._stops = self._number(
            "After punctuation", "×", "at_stops", 0.1, 100, "How many times as long after punctuation.", 0.1
        )
        self._ends = self._number(
            "After a line", "×", "at_ends", 0.1, 100, "How many times as long after a line.", 0.1
        )
        self.tap = QPushButton(
            "Tap it in…", toolTip="Plays from the layer's start; press Space for each piece, Escape to stop."
        )
        self.tap.clicked.connect(self.tapping)
        self._again = QPushButton("New variation", objectName="link", toolTip="Other gaps, by the next seed.")
        self._again.clicked.connect(self.drawn_again)
        self._middle = QPushButton("To mid height", objectName="link")
        self._middle.setToolTip(
            "Places the layer so that its last line, where the typed one stays, is at mid height."
        )
        self._middle.clicked.connect(self.to_middle)
        self._caret = DropDown(accessibleName="Caret", toolTip="What stands behind the piece typed last.")
        for shape, said in _CARETS.items():
            self._caret.addItem(said, shape)
        self._caret.activated.connect(lambda _: self._choose_caret())
        self._wink = self._of_caret(
            "Wink", "wink", 60, "Seconds of one wink while nothing is typed; 0 for none."
        )
        self._stays = self._of_caret("Stays", "stays", 3600, "How long it stays when all is typed.")
        self._height = QCheckBox("Keep one height")
        self._height.setToolTip(
            "Lines typed before move up a step, so that the typed one is where the last one rests."
        )
        self._height.clicked.connect(lambda on: self._give("Change the height of lines", one_height=on))
        rows.add("", [self.on])
        self._always = self._rows_of(rows, {"Rhythm": [self._rhythm]})
        self._gaps = self._rows_of(
            rows, {"Gaps": [self._least, self._most], "Longer": [self._stops, self._ends]}
        )
        self._gaps += self._rows_of(rows, {"Draws": [self._again]})
        self._taps = self._rows_of(rows, {"Taps": [self.tap]})
        self._always += self._rows_of(rows, {"Lines": [self._height, self._middle], "Caret": [self._caret]})
        self._winks = self._rows_of(rows, {"Winks, stays": [self._wink, self._stays]})

    @staticmethod
    def _rows_of(rows: Rows, named: dict[str, list[QWidget]]) -> list[QWidget]:
        return [widget for name, fields in named.items() for widget in (rows.add(name, fields), *fields)]

    def show_typing(self, typing: Typing | None, several: bool) -> None:
        """Show how a move types; `several` pieces are there to be typed."""
        self.on.setChecked(typing is not None)
        self.on.setEnabled(several or typing is not None)
        self._typing = typing or Typing()
        for widget in self._always:
            widget.setVisible(typing is not None)
        for widget in self._gaps:
            widget.setVisible(typing is not None and typing.rhythm == "uneven")
        self._middle.setVisible(typing is not None and typing.one_height)
        for widget in self._taps:
            widget.setVisible(typing is not None and typing.rhythm == "tapped")
        for widget in self._winks:
            widget.setVisible(typing is not None and typing.caret is not None)
        self._show_fields(self._typing)

    def _show_fields(self, typing: Typing) -> None:
        self._rhythm.show_choice(typing.rhythm)
        self._least.show_value(typing.least)
        self._most.show_value(typing.most)
        self._stops.show_value(typing.at_stops)
        self._ends.show_value(typing.at_ends)
        self._height.setChecked(typing.one_height)
        self._caret.setCurrentIndex(self._caret.findData(typing.caret.shape if typing.caret else "none"))
        self.tap.setText(f"Tap it in… ({len(typing.taps)} taps)" if typing.taps else "Tap it in…")
        if typing.caret is not None:
            self._wink.show_value(typing.caret.wink)
            self._stays.show_value(typing.caret.stays)

    def _number(
        self, name: str, unit: str, field: str, low: float, high: float, tip: str, step: float = 1.0
    ) -> NumberField:
        made = NumberField(name, unit, step, 0 if step == 1 else 1, low=low, high=high)
        made.setToolTip(f"{name}. {tip}")
        kind = round if step == 1 else float
        made.tried.connect(lambda value: self.tried.emit(replace(self._typing, **{field: kind(value)})))
        made.committed.connect(
            lambda value: self._give(f"Change the gaps: {name.lower()}", **{field: kind(value)})
        )
        made.dropped.connect(self.dropped)
        return made

    def _of_caret(self, name: str, field: str, high: float, tip: str) -> NumberField:
        made = NumberField(name, "s", 0.05, 2, low=0, high=high)
        made.setToolTip(f"{name}. {tip}")

        def with_it(value: float) -> Typing:
            return replace(
                self._typing, caret=replace(self._typing.caret or Caret(), **{field: float(value)})
            )

        made.tried.connect(lambda value: self.tried.emit(with_it(value)))
        made.committed.connect(
            lambda value: self.committed.emit(f"Change the caret: {name.lower()}", with_it(value))
        )
        made.dropped.connect(self.dropped)
        return made

    def _choose_caret(self) -> None:
        shape = self._caret.currentData()
        caret = None if shape == "none" else replace(self._typing.caret or Caret(), shape=shape)
        self._give("Change the caret", caret=caret)

    def _give(self, title: str, **changes: Any) -> None:
        self.committed.emit(title, replace(self._typing, **changes))
