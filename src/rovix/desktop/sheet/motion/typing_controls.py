"""The controls of typing: rhythm, tapping it in, the caret, and lines that keep one height."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QPushButton, QWidget

from rovix.desktop.sheet.drop_down import DropDown
from rovix.desktop.sheet.motion.move_page import MovePage
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.parts import Rows, Segments, Tick
from rovix.edit.arrange import last_line_to_mid_height
from rovix.edit.tree import replace
from rovix.model import Caret, Move, Typing

_RHYTHMS = {"even": "Even", "uneven": "Uneven", "tapped": "Tapped"}
_RHYTHM_TIPS = {
    "even": "Piece after piece, by the order curve.",
    "uneven": "Gaps drawn at random, longer behind punctuation and lines.",
    "tapped": "The rhythm that you tap in while it plays.",
}
_CARETS = {"none": "No caret", "bar": "Bar", "block": "Block", "underline": "Underline"}


class TypingControls(QObject):
    """Rows that show and set how the move that is tuned types; None where it does not type."""

    tapping = Signal()

    def __init__(self, page: MovePage, rows: Rows) -> None:
        # Long: the controls in the order in which they stand, a statement or two each.
        super().__init__(rows)
        self._page = page
        self.on = Tick("Typed", "Pieces come at once, one after the other, in a rhythm.")
        self.on.clicked.connect(self._turn)
        page.show_each(lambda move: move.typing is not None, self.on.show_ticked)
        self._rhythm = Segments(_RHYTHMS, "Rhythm", _RHYTHM_TIPS)
        self._rhythm.chosen.connect(lambda value: self._give("Change the rhythm", rhythm=value))
        page.show_each(lambda move: move.typing.rhythm, self._rhythm.show_choice)
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
        self._again.clicked.connect(
            lambda: page.give("Draw the gaps again", lambda move: {"seed": move.seed + 2})
        )
        self._middle = QPushButton("To mid height", objectName="link")
        self._middle.setToolTip(
            "Places the layer so that its last line, where the typed one stays, is at mid height."
        )
        self._middle.clicked.connect(lambda: page._do("Last line to mid height", last_line_to_mid_height))
        self._caret = DropDown(accessibleName="Caret", toolTip="What stands behind the piece typed last.")
        for shape, said in _CARETS.items():
            self._caret.addItem(said, shape)
        self._caret.activated.connect(lambda _: self._choose_caret())
        page.show_each(_caret_of, self._caret.show_data)
        self._wink = self._of_caret(
            "Wink", "wink", 60, "Seconds of one wink while nothing is typed; 0 for none."
        )
        self._stays = self._of_caret("Stays", "stays", 3600, "How long it stays when all is typed.")
        tip = "Lines typed before move up a step, so that the typed one is where the last one rests."
        self._height = Tick("Keep one height", tip)
        page.show_each(lambda move: move.typing.one_height, self._height.show_ticked)
        self._height.clicked.connect(lambda on: self._give("Change the height of lines", one_height=on))
        tip = "What is typed of a line stands about its middle, moving to its side with each piece."
        self._centred = Tick("In the middle", tip)
        page.show_each(lambda move: move.typing.centred, self._centred.show_ticked)
        self._centred.clicked.connect(lambda on: self._give("Change where lines are typed", centred=on))
        rows.add("", [self.on])
        self._always = self._rows_of(rows, {"Rhythm": [self._rhythm]})
        self._gaps = self._rows_of(
            rows, {"Gaps": [self._least, self._most], "Longer": [self._stops, self._ends]}
        )
        self._gaps += self._rows_of(rows, {"Draws": [self._again]})
        self._taps = self._rows_of(rows, {"Taps": [self.tap]})
        self._always += self._rows_of(
            rows, {"Lines": [self._height, self._middle], "": [self._centred], "Caret": [self._caret]}
        )
        self._winks = self._rows_of(rows, {"Winks, stays": [self._wink, self._stays]})

    @staticmethod
    def _rows_of(rows: Rows, named: dict[str, list[QWidget]]) -> list[QWidget]:
        return [widget for name, fields in named.items() for widget in (rows.add(name, fields), *fields)]

    def show_typing(self, typing: Typing | None, several: bool) -> None:
        """Show how a move types; `several` pieces are there to be typed."""
        self.on.setEnabled(several or typing is not None)
        for widget in self._always:
            widget.setVisible(typing is not None)
        for widget in self._gaps:
            widget.setVisible(typing is not None and typing.rhythm == "uneven")
        self._middle.setVisible(typing is not None and typing.one_height)
        for widget in self._taps:
            widget.setVisible(typing is not None and typing.rhythm == "tapped")
        for widget in self._winks:
            widget.setVisible(typing is not None and typing.caret is not None)
        taps = len(typing.taps) if typing else 0
        self.tap.setText(f"Tap it in… ({taps} taps)" if taps else "Tap it in…")

    def _turn(self, on: bool) -> None:
        self._page.give(
            "Type it" if on else "Do not type it",
            lambda move: {"typing": (move.typing or Typing()) if on else None},
        )

    def _number(
        self, name: str, unit: str, field: str, low: float, high: float, tip: str, step: float = 1.0
    ) -> NumberField:
        made = NumberField(name, unit, step, 0 if step == 1 else 1, low=low, high=high)
        made.setToolTip(f"{name}. {tip}")
        kind = round if step == 1 else float
        return self._page.number(
            made,
            f"Change the gaps: {name.lower()}",
            lambda move: float(getattr(move.typing, field)),
            lambda move, value: _typed(move, **{field: kind(value)}),
        )

    def _of_caret(self, name: str, field: str, high: float, tip: str) -> NumberField:
        made = NumberField(name, "s", 0.05, 2, low=0, high=high)
        made.setToolTip(f"{name}. {tip}")
        return self._page.number(
            made,
            f"Change the caret: {name.lower()}",
            lambda move: float(getattr(move.typing.caret, field)),
            lambda move, value: _with_caret(move, **{field: float(value)}),
        )

    def _choose_caret(self) -> None:
        shape = self._caret.currentData()
        if shape == "none":
            self._give("Change the caret", caret=None)
        else:
            self._page.give("Change the caret", lambda move: _with_caret(move, shape=shape))

    def _give(self, title: str, **changes: Any) -> None:
        self._page.give(title, lambda move: _typed(move, **changes))


def _caret_of(move: Move) -> str | None:
    """The caret's shape; None where nothing is typed."""
    if move.typing is None:
        return None
    return move.typing.caret.shape if move.typing.caret else "none"


def _typed(move: Move, **changes: Any) -> dict[str, Any]:
    """The move's typing with fields changed, where it types."""
    return {} if move.typing is None else {"typing": replace(move.typing, **changes)}


def _with_caret(move: Move, **changes: Any) -> dict[str, Any]:
    if move.typing is None:
        return {}
    return _typed(move, caret=replace(move.typing.caret or Caret(), **changes))
