"""Moves as open JSON files."""

from __future__ import annotations

from dataclasses import dataclass

from rovix.formats.kept_file import Kind
from rovix.formats.trade_words import move_in_trade_words
from rovix.model import Move
from rovix.model.consistency import move_problems


@dataclass(frozen=True, slots=True)
class SavedMove:
    """A move by name."""

    name: str
    move: Move


MOVES: Kind[SavedMove] = Kind(
    noun="move",
    struct=Move,
    made=SavedMove,
    content=lambda saved: (saved.move, {}),
    wrong=lambda saved: [str(problem) for problem in move_problems(saved.move)],
    upgrade=move_in_trade_words,
)
read_move, write_move = MOVES.read, MOVES.write
