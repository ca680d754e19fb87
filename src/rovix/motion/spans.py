"""How many frames of a clip its entrances and exits take."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from math import floor

from rovix.model import Move
from rovix.time import Rate


@dataclass(frozen=True, slots=True)
class MoveSpans:
    """Entrance E and exit X in frames; `shrunk` when the clip was too short for what was asked."""

    entrance: int
    exit: int
    shrunk: bool
    length: int
    _asked: tuple[int, int]

    def frames(self, move: Move, rate: Rate) -> int:
        """A move's own length in frames, shrunk with its side of the clip; all that a loop may fill."""
        if move.beats_on:
            return self.length - 1 - (0 if move.beats.over == "clip" else self.entrance + self.exit)
        mine, asked = (self.entrance, self._asked[0]) if move.enters else (self.exit, self._asked[1])
        length = rate.length(move.length)
        return length if mine == asked else _halves_up(Fraction(length * mine, asked))

    def start(self, move: Move, rate: Rate) -> int:
        """The frame of the clip on which a move's span starts."""
        if move.leaves:
            return self.length - 1 - self.frames(move, rate)
        return self.entrance if move.beats_on and move.beats.over == "stay" else 0


def move_spans(moves: tuple[Move, ...], length: int, rate: Rate) -> MoveSpans:
    """Spans of a clip of `length` frames: E + X <= length - 1, else both shrink in proportion.

    So at least one frame is at rest. Of several moves of one role the longest counts.
    """
    entrance = max((rate.length(move.length) for move in moves if move.enters), default=0)
    leaving = max((rate.length(move.length) for move in moves if move.leaves), default=0)
    room = length - 1
    if entrance + leaving <= room:
        return MoveSpans(entrance, leaving, False, length, (entrance, leaving))
    shrunk = _halves_up(Fraction(entrance * room, entrance + leaving))
    return MoveSpans(shrunk, room - shrunk, True, length, (entrance, leaving))


def _halves_up(value: Fraction) -> int:
    return floor(value + Fraction(1, 2))
