"""How far one move takes every piece from rest, at any times."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rovix.curve import Track, easing
from rovix.model import Departure, Move
from rovix.motion.channels import CHANNELS, moved
from rovix.motion.distance import Stage
from rovix.motion.stagger import PieceTimes

Floats = NDArray[np.float64]


@dataclass(frozen=True, slots=True, eq=False)
class MoveTiming:
    """A move laid on a clip: where its span starts (frame of the clip) and when its pieces go.

    `owners` (n,) is the move's piece that each of the subject's pieces belongs to.
    """

    move: Move
    start: int
    span: int
    times: PieceTimes
    owners: NDArray[np.int64]

    def progress(self, frames: Floats) -> Floats:
        """(t, n): how near each piece is to rest on its way, 0 fully away, 1 exactly at rest.

        For an exit that is 1 less the share of the way out.
        """
        time = frames - self.start
        share = self.times.share(time)[:, self.owners]
        if self.move.role == "entrance":
            return share
        # At the span's first moment everything still rests, even a piece that is cut off.
        return 1.0 - np.where(time[:, None] > 0, share, 0.0)

    def hidden(self, frames: Floats) -> NDArray[np.bool_]:
        """(t, n): pieces not shown because an entrance has not reached them, or an exit is done."""
        # What cuts on or off holds through a whole frame, also between frames.
        time = np.floor(frames - self.start)[:, None]
        if self.move.role == "entrance":
            return time < self.times.starts[self.owners]
        starts, ends = self.times.starts[self.owners], self.times.ends[self.owners]
        # A piece with a way to go is still there, fully away, on the frame where that way ends.
        return np.where(ends > starts, time > ends, (time >= ends) & (time > 0))


def departures(timing: MoveTiming, frames: Floats, stage: Stage) -> dict[str, Floats]:
    """(t, n) per channel that the move touches: how far from neutral, neutral itself where at rest."""
    progress = timing.progress(frames)
    result: dict[str, Floats] = {}
    for departure in timing.move.channels:
        for name in moved(departure.channel):
            value = _departure(departure, name, timing.move, progress, stage)
            kept = result.get(name)
            result[name] = value if kept is None else CHANNELS[name].combine(kept, value)
    return result


def _departure(departure: Departure, name: str, move: Move, progress: Floats, stage: Stage) -> Floats:
    neutral = CHANNELS[name].neutral
    if departure.keys:
        value = _keyed(departure, name, move, progress, stage)
    else:
        away = stage.amounts(name, departure.amount) - neutral
        value = neutral + away * _share_away(departure, move, progress)
    rule = CHANNELS[name]
    return np.where(progress >= 1.0, neutral, np.clip(value, rule.low, rule.high))


def _share_away(departure: Departure, move: Move, progress: Floats) -> Floats:
    """1 fully away, 0 at rest; beyond either where the curve overshoots."""
    curve = easing(departure.curve or move.piece_curve)
    return 1.0 - curve(progress) if move.role == "entrance" else curve(1.0 - progress)


def _keyed(departure: Departure, name: str, move: Move, progress: Floats, stage: Stage) -> Floats:
    """Inner keys, in forward time. The amounts may differ by piece, so each piece has its track."""
    forward = progress if move.role == "entrance" else 1.0 - progress
    amounts = np.stack([stage.amounts(name, key.amount) for key in departure.keys])
    alike, column = np.unique(amounts, axis=1, return_inverse=True)
    value = np.empty_like(forward)
    for number, values in enumerate(alike.T):
        track = Track((key.at, amount, key.curve) for key, amount in zip(departure.keys, values, strict=True))
        chosen = column.reshape(-1) == number
        value[:, chosen] = track(forward[:, chosen])
    return value
