"""When each piece of a loop beats, and where in its beat it is."""

from __future__ import annotations

from dataclasses import dataclass
from math import floor

import numpy as np
from numpy.typing import NDArray

from rovix.curve import easing
from rovix.model import Move
from rovix.motion.order import move_ranks
from rovix.motion.stagger import PieceTimes, snapped
from rovix.time import Rate

Floats = NDArray[np.float64]


@dataclass(frozen=True, slots=True, eq=False)
class PieceBeats:
    """Frames from the loop's start: each piece beats from one of `starts` (n,) for `length`.

    `beat` is one beat, `whole` the one nearest to it that fits a whole number of times; over `ramp`
    the loop swells and ebbs at both ends.
    """

    starts: Floats
    length: float
    beat: float
    whole: float
    ramp: float

    def times(self) -> PieceTimes:
        """From when to when each piece is on the move."""
        return PieceTimes(snapped(self.starts), snapped(self.starts + self.length))

    def share(self, time: Floats, whole: bool) -> Floats:
        """(t, n): the share 0 up to 1 of its beat at which each piece is."""
        return np.asarray(((time[:, None] - self.starts) / (self.whole if whole else self.beat)) % 1.0)

    def strength(self, time: Floats) -> Floats:
        """(t, n): how much of its way each piece goes, 0 to 1."""
        if self.ramp <= 0:
            return np.ones((len(time), len(self.starts)))
        gone = time[:, None] - self.starts
        share = np.clip(np.minimum(gone, self.length - gone) / self.ramp, 0.0, 1.0)
        return np.asarray(0.5 - 0.5 * np.cos(np.pi * share))


def piece_beats(move: Move, count: int, span: int, rate: Rate, places: Floats | None = None) -> PieceBeats:
    """The beats of `count` pieces over a span in frames; `places` as in `move_ranks`.

    With a phase of p beats between the first and the last piece, N beats of P frames take
    (N + p) P: fitted ones take the whole N nearest to the wanted beat, at least 1, and share the
    span; so every piece starts and ends at rest. Beats that do not fit are squeezed.
    """
    order = move_ranks(move, count, places)
    last = int(order.max(initial=0))
    behind = move.beats.phase * (easing(move.order_curve)(order / last) if last else np.zeros(count))
    phase = move.beats.phase if last else 0.0
    wanted = max(1e-6, float(rate.position(move.length)))
    beat, number = _fitted(move, wanted, span, phase)
    length = number * beat if move.beats.count or move.beats.fitted else span - phase * beat
    whole = length / max(1, round(length / beat)) if beat else 1.0
    ramp = 0.0 if move.beats.fitted else min(float(rate.position(move.beats.ramp)), length / 2)
    return PieceBeats(behind * beat, length, beat or 1.0, whole or 1.0, ramp)


def _fitted(move: Move, wanted: float, span: int, phase: float) -> tuple[float, int]:
    """Frames of a beat, and how many whole ones there are."""
    # A share of a beat lost to rounding must not cost a whole one.
    room = span / wanted - phase + 1e-9
    if move.beats.count and room >= 1:
        return wanted, min(move.beats.count, floor(room))
    if not move.beats.fitted and room >= 1:
        return wanted, floor(room)
    number = max(1, floor(room + 0.5))
    return span / (number + phase), number
