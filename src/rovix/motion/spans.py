"""How many frames of a clip its entrances and exits take, and where in it each of them stands."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction
from math import floor

from rovix.model import Move
from rovix.time import Rate


@dataclass(frozen=True, slots=True)
class MoveSpans:
    """Entrance E and exit X in frames; `shrunk` when the clip was too short for what was asked.

    `needed` is how many frames entrances and exits ask for together.
    """

    entrance: int
    exit: int
    shrunk: bool
    length: int
    _asked: tuple[int, int]
    _placed: Mapping[str, tuple[int, int]]
    """By move: frames from the clip's start (of exits from its end), and its length, both as asked."""

    @property
    def needed(self) -> int:
        return sum(self._asked)

    @property
    def asked_entrance(self) -> int:
        return self._asked[0]

    @property
    def asked_exit(self) -> int:
        return self._asked[1]

    def frames(self, move: Move, rate: Rate) -> int:
        """A move's own length in frames, shrunk with its side of the clip; all that a loop may fill."""
        if move.beats_on:
            return self.length - 1 - (0 if move.beats.over == "clip" else self.entrance + self.exit)
        off, frames = self._placed[move.id]
        return self._shrunk(move, off + frames) - self._shrunk(move, off)

    def start(self, move: Move, rate: Rate) -> int:
        """The frame of the clip on which a move's span starts."""
        if move.beats_on:
            return self.entrance if move.beats.over == "stay" else 0
        off, frames = self._placed[move.id]
        return self.length - 1 - self._shrunk(move, off + frames) if move.leaves else self._shrunk(move, off)

    def _shrunk(self, move: Move, frames: int) -> int:
        mine, asked = (self.entrance, self._asked[0]) if move.enters else (self.exit, self._asked[1])
        return frames if mine == asked else _halves_up(Fraction(frames * mine, asked))


def move_spans(
    moves: tuple[Move, ...], length: int, rate: Rate, asked: Mapping[str, int] | None = None
) -> MoveSpans:
    """Spans of a clip of `length` frames: E + X <= length - 1, else both shrink in proportion.

    So at least one frame is at rest. `asked` are the frames of moves by id, those of paced moves among
    them, which follow from the words; a move that is not there has its own length.
    """
    own = {move.id: (asked or {}).get(move.id, rate.length(move.length)) for move in moves}
    entrances, exits = [m for m in moves if m.enters], [m for m in moves if m.leaves]
    # Exits are placed from the clip's end: the one that follows in time comes first.
    placed = _staged(entrances, own, rate) | _staged_back(exits, own, rate)
    entrance, leaving = (max((sum(placed[m.id]) for m in side), default=0) for side in (entrances, exits))
    room = length - 1
    if entrance + leaving <= room:
        return MoveSpans(entrance, leaving, False, length, (entrance, leaving), placed)
    shrunk = _halves_up(Fraction(entrance * room, entrance + leaving))
    return MoveSpans(shrunk, room - shrunk, True, length, (entrance, leaving), placed)


def _staged(moves: list[Move], own: Mapping[str, int], rate: Rate) -> dict[str, tuple[int, int]]:
    """Where entrances start, in frames from the clip's start, and their lengths."""
    placed, end = {}, 0
    for move in moves:
        start = rate.frames(move.wait) + (end if move.after else 0)
        placed[move.id] = (start, own[move.id])
        end = start + own[move.id]
    return placed


def _staged_back(moves: list[Move], own: Mapping[str, int], rate: Rate) -> dict[str, tuple[int, int]]:
    """Where exits end, in frames before the clip's end, and their lengths: one that others come after ends
    where the next of them starts."""
    placed: dict[str, tuple[int, int]] = {}
    following: Move | None = None
    for move in reversed(moves):
        # What comes after another waits for that one, not for the clip's end.
        off = 0 if move.after and move is not moves[0] else rate.frames(move.wait)
        if following is not None and following.after:
            off = sum(placed[following.id]) + rate.frames(following.wait)
        placed[move.id] = (off, own[move.id])
        following = move
    return placed


def _halves_up(value: Fraction) -> int:
    return floor(value + Fraction(1, 2))
