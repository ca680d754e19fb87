"""When each piece of a move starts and ends."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rovix.curve import easing
from rovix.model import Move, Pace
from rovix.motion.order import move_ranks
from rovix.time import Rate

Floats = NDArray[np.float64]
_WHOLE_FRAME = 1e-9


@dataclass(frozen=True, slots=True, eq=False)
class PieceTimes:
    """Frames from the start of the move's span: `starts` and `ends`, (n,) each."""

    starts: Floats
    ends: Floats

    def share(self, time: Floats) -> Floats:
        """How far each piece is on its way at each time: (t,) gives (t, n) in 0..1.

        Exactly 1 from its end on; a piece of no length jumps from 0 to 1 at its start.
        """
        length = np.maximum(self.ends - self.starts, _WHOLE_FRAME)
        on_the_way = np.clip((time[:, None] - self.starts) / length, 0.0, 1.0)
        # A piece that cuts on does so on a whole frame, also when asked between frames.
        cut = self.ends <= self.starts
        reached = np.where(cut, np.floor(time)[:, None], time[:, None]) >= self.ends
        return np.where(reached, 1.0, np.minimum(on_the_way, np.nextafter(1.0, 0.0)))


def piece_times(move: Move, count: int, span: int, rate: Rate, places: Floats | None = None) -> PieceTimes:
    """Times of `count` pieces over a span in frames; `places` as in `move_ranks`, from stagger or at once.

    With K the last rank: span = stagger x K + piece length, piece length = at once x stagger.
    """
    order = move_ranks(move, count, places)
    last = int(order.max(initial=0))
    if move.pace is not None and move.starts:
        return _given_times(move, order, last, span, rate)
    stagger, length = _stagger(move, last, span, rate)
    share = order / last if last else np.zeros(count)
    starts = snapped(stagger * last * easing(move.order_curve)(share))
    if move.pace is not None and move.leaves:
        # An exit by pace ends with its span, as the entrance that it mirrors begins with it.
        starts = starts + (span - stagger * last - length)
    elif move.leaves and not last and not length:
        # What cuts on at an entrance's first frame is cut off at an exit's last.
        starts = starts + span
    return PieceTimes(starts, snapped(starts + length))


def _given_times(move: Move, order: NDArray[np.int64], last: int, span: int, rate: Rate) -> PieceTimes:
    assert move.pace is not None
    fps = float(rate.fraction)
    given, piece = given_starts(move, last) * fps, move.pace.piece * fps
    share = min(1.0, span / (given[-1] + piece)) if given[-1] + piece else 0.0
    starts = given[order] * share
    if move.leaves:
        starts = starts + (span - (given[-1] + piece) * share)
    return PieceTimes(snapped(starts), snapped(starts + piece * share))


def given_starts(move: Move, last: int) -> Floats:
    """(last + 1,): the seconds at which the pieces of each rank set off, rising."""
    given = np.sort(np.array(move.starts[: last + 1], dtype=np.float64))
    gaps = np.diff(given)
    gap = float(np.median(gaps)) if len(gaps) else (move.pace.stagger if move.pace is not None else 0.0)
    return np.append(given, given[-1] + gap * np.arange(1, last + 2 - len(given)))


def _stagger(move: Move, last: int, span: int, rate: Rate) -> tuple[float, float]:
    """Frames between neighbouring starts, and the frames of one piece."""
    if move.pace is not None:
        return _paced(move.pace, last, span, rate)
    if last == 0:
        return 0.0, 0.0 if move.stagger is None and move.at_once == 0 else float(span)
    if move.stagger is not None:
        stagger = float(rate.position(move.stagger))
        return (stagger, span - stagger * last) if stagger * last <= span else (span / last, 0.0)
    if move.at_once > 0:
        stagger = span / (last + move.at_once)
        return stagger, move.at_once * stagger
    return span / last, 0.0


def _paced(pace: Pace, last: int, span: int, rate: Rate) -> tuple[float, float]:
    """As the pace says, all of it faster in proportion where the clip has less room than that takes."""
    exact = float(rate.position(last * pace.stagger + pace.piece))
    share = min(1.0, span / exact) if exact else 0.0
    return float(rate.position(pace.stagger)) * share, float(rate.position(pace.piece)) * share


def snapped(frames: Floats) -> Floats:
    """Frames within rounding of a whole one as that one."""
    whole = np.floor(frames + 0.5)
    return np.where(np.abs(frames - whole) <= _WHOLE_FRAME, whole, frames)
