"""How long a move takes, by a span or by a pace, when it starts, and what helps a clip that is too short."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from rovix.desktop.sheet.mixed import ABSENT
from rovix.desktop.sheet.motion.move_page import MovePage
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.parts import Rows, Segments, Tick
from rovix.edit.moves import moves_of
from rovix.edit.pacing import (
    can_be_closer,
    go_by_pace,
    go_by_span,
    lengthen_for_moves,
    more_at_once,
    set_starts,
    speed_up_moves,
    starts_from_markers,
)
from rovix.edit.tree import replace
from rovix.model import Move, PictureClip
from rovix.model.clip_kinds import has_words
from rovix.motion.pace import clip_spans

_BY = {"span": "Length", "pace": "Pace"}
_TIPS = {
    "span": "It keeps its length; longer words go faster.",
    "pace": "Each piece keeps its time; longer words take longer.",
}


class PaceControls(QObject):
    """Rows of a move by pace and of its stage; shown and set for all that is selected."""

    def __init__(self, page: MovePage, rows: Rows) -> None:
        super().__init__(rows)
        self._page = page
        self.by = Segments(_BY, "Goes by", _TIPS)
        self.by.chosen.connect(self._choose)
        page.show_each(lambda move: "pace" if move.pace is not None else "span", self.by.show_choice)
        self._by_row = [rows.add("Goes by", [self.by]), self.by]
        self.piece = self._number("A piece", "piece", "s", "How long each piece is on its way.")
        self.stagger = self._number("Next after", "stagger", "s", "How long after a piece the next sets off.")
        self.a_second = self._number("Pieces a second", "a_second", "/ s", "How many come in a second.")
        self._by_pieces = [
            rows.add("Piece, next after", [self.piece, self.stagger]),
            self.piece,
            self.stagger,
        ]
        self._typed = [rows.add("Pieces a second", [self.a_second]), self.a_second]

    def add_starts(self, rows: Rows, tap: Callable[[], None]) -> None:
        """The row by which pieces take times of their own."""
        page = self._page
        self.tap = QPushButton("Tap…", objectName="link")
        self.tap.setToolTip("Plays the layer; press Space as each piece is to set off, Escape to stop.")
        self.tap.clicked.connect(tap)
        self.marked = QPushButton("Markers", objectName="link")
        self.marked.setToolTip("Each piece sets off on a marker of the sequence, in their order.")
        by_markers = page.of_move(lambda p, clip, move: starts_from_markers(p, clip, move.id))
        self.marked.clicked.connect(lambda: page._do("Set off on the markers", by_markers))
        self.even = QPushButton("Even", objectName="link", toolTip="By the stagger again.")
        evenly = page.of_move(lambda p, clip, move: set_starts(p, clip, move.id, ()))
        self.even.clicked.connect(lambda: page._do("Set off evenly", evenly))
        buttons = [self.tap, self.marked, self.even]
        self._starts = [rows.add("Set off", list(buttons)), *buttons]

    def add_stage(self, rows: Rows) -> None:
        """The row that says when the move starts, or an exit ends."""
        tip = (
            "Seconds from the clip's start, or from the end of the one before; of an exit to the clip's end."
        )
        wait = NumberField("Wait", "s", 0.05, 2, low=0, high=3600)
        wait.setToolTip(f"Wait. {tip}")
        self.wait = self._page.number(
            wait, "Change the wait", lambda move: move.wait, lambda _, value: {"wait": value}
        )
        self.after = Tick("After the one before", "It starts where the move before it, of its role, ends.")
        self.after.clicked.connect(
            lambda on: self._page.give("Change what it follows", lambda _: {"after": on})
        )
        self._page.show_each(lambda move: move.after, self.after.show_ticked)
        self._stage = [rows.add("Wait", [self.wait]), self.wait]
        self._following = [rows.add("", [self.after]), self.after]

    def show_move(self, clip: PictureClip, move: Move) -> None:
        """Show the rows that a move has."""
        by_pace, typed = move.pace is not None, move.typing is not None
        even = typed and (move.typing is None or move.typing.rhythm == "even")
        for widget in self._by_row:
            widget.setVisible(not move.beats_on)
        for widget in self._by_pieces:
            widget.setVisible(by_pace and not typed and not move.beats_on)
        for widget in self._typed:
            widget.setVisible(by_pace and even and not move.beats_on)
        timed = by_pace and not typed and not move.beats_on and move.pieces != "whole" and has_words(clip)
        for widget in self._starts:
            widget.setVisible(timed)
        self.even.setVisible(timed and bool(move.starts))
        for widget in self._stage:
            widget.setVisible(not move.beats_on)
        for widget in self._following:
            widget.setVisible(not move.beats_on and move in moves_of(clip, move.role)[1:])

    def _number(self, name: str, field: str, unit: str, tip: str) -> NumberField:
        low, high = (0.01, 1000) if field == "a_second" else (0, 3600)
        made = NumberField(name, unit, 0.5 if field == "a_second" else 0.01, 2, low=low, high=high)
        made.setToolTip(f"{name}. {tip}")
        return self._page.number(
            made,
            f"Change the pace: {name.lower()}",
            lambda move: getattr(move.pace, field) if move.pace is not None else ABSENT,
            lambda move, value: _with_pace(move, field, value),
        )

    def _choose(self, by: str) -> None:
        edit = go_by_pace if by == "pace" else go_by_span
        title = "Go by the pace" if by == "pace" else "Keep the length"
        self._page._do(title, self._page.of_move(lambda project, clip, move: edit(project, clip, move.id)))


class ShortNote(QWidget):
    """Says what the moves of a clip need and what it has, with three ways out; hidden where it is enough."""

    def __init__(self, page: MovePage) -> None:
        super().__init__(objectName="note")
        self._page = page
        self._said = QLabel("", objectName="problem", wordWrap=True)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(2)
        column.addWidget(self._said)
        row = QHBoxLayout()
        row.setSpacing(4)
        self.lengthen = self._link("Lengthen the clip", "The clip becomes as long as its moves need.")
        self.faster = self._link(
            "Speed up", "Entrances and exits become as much faster as the clip is short."
        )
        self.closer = self._link("More at once", "Pieces follow each other sooner, each as fast as before.")
        for button, edit in (
            (self.lengthen, lengthen_for_moves), (self.faster, speed_up_moves), (self.closer, more_at_once),
        ):  # fmt: skip
            button.clicked.connect(lambda _=False, b=button, e=edit: page._do(b.text(), e))
            row.addWidget(button)
        row.addStretch(1)
        column.addLayout(row)

    def _link(self, text: str, tip: str) -> QPushButton:
        return QPushButton(text, objectName="link", toolTip=tip)

    def show_clip(self, clip: PictureClip) -> None:
        rate = self._page.document.rate
        spans = clip_spans(clip, rate)
        self.setVisible(spans.shrunk)
        if spans.shrunk:
            needs, has = (float(rate.seconds(frames)) for frames in (spans.needed, clip.length - 1))
            self._said.setText(f"Its moves need {needs:.2f} s, and the clip has {has:.2f} s.")
            self.closer.setEnabled(can_be_closer(clip, rate))


def _with_pace(move: Move, field: str, value: float) -> dict[str, Any]:
    return {} if move.pace is None else {"pace": replace(move.pace, **{field: value})}
