"""How far one move takes every piece from rest, at any times."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rovix.curve import Track, easing
from rovix.model import Departure, Move
from rovix.motion.beats import PieceBeats
from rovix.motion.chance import drawn_letters, shaken
from rovix.motion.channels import CHANNELS, moved
from rovix.motion.distance import Stage
from rovix.motion.stagger import PieceTimes
from rovix.motion.typing import Typed

Floats = NDArray[np.float64]


@dataclass(frozen=True, slots=True, eq=False)
class MoveTiming:
    """A move laid on a clip: where its span starts (frame of the clip) and when its pieces go.

    `owners` (n,) is the move's piece that each of the subject's pieces belongs to; `fps` the frames
    of a second; `beats` are a loop's, `typed` is of a move that types.
    """

    move: Move
    start: int
    span: int
    times: PieceTimes
    owners: NDArray[np.int64]
    fps: float
    beats: PieceBeats | None = None
    typed: Typed | None = None

    def progress(self, frames: Floats) -> Floats:
        """(t, n): how near each piece is to rest on its way, 0 fully away, 1 exactly at rest.

        For an exit that is 1 less the share of the way out; for a loop 1 where it rests, else 0.
        """
        time = frames - self.start
        share = self.times.share(time)[:, self.owners]
        if self.move.beats_on:
            return np.where((share > 0) & (share < 1), 0.0, 1.0)
        if self.move.enters:
            return share
        # Nothing is cut off at the span's first moment, all of it at its last; between them each piece
        # right after its end, as an entrance's is there from its start on.
        cut = self.times.ends <= self.times.starts
        past = np.floor(time)[:, None]
        gone = (past > self.times.ends) | (past >= self.span) & (past > 0)
        share = np.where(cut[self.owners], gone[:, self.owners], share)
        return 1.0 - np.where(time[:, None] > 0, share, 0.0)

    def hidden(self, frames: Floats) -> NDArray[np.bool_]:
        """(t, n): pieces not shown because an entrance has not reached them, or an exit is done."""
        if self.move.beats_on:
            return np.zeros((len(frames), len(self.owners)), dtype=bool)
        # What cuts on or off holds through a whole frame, also between frames.
        time = np.floor(frames - self.start)[:, None]
        if self.move.enters:
            return time < self.times.starts[self.owners]
        starts, ends = self.times.starts[self.owners], self.times.ends[self.owners]
        # A piece is still there on the frame where its way ends; one without a way not on the last.
        return (time > ends) | (ends <= starts) & (time >= self.span) & (time > 0)

    def clock(self, frames: Floats) -> Floats:
        """(t,) frames as random draws count them: since the move began, of an exit until it ends."""
        return self.start + self.span - frames if self.move.leaves else frames - self.start


def departures(moments: Moments, stage: Stage) -> dict[str, Floats]:
    """(t, n) per channel that the move touches: how far from neutral, neutral itself where at rest."""
    result: dict[str, Floats] = {}
    timing = moments.timing
    for departure in timing.move.channels:
        for name in moved(departure.channel):
            value = _departure(departure, name, moments, stage)
            kept = result.get(name)
            result[name] = value if kept is None else CHANNELS[name].combine(kept, value)
    return result


def shares_of(moments: Moments, departure: Departure, stage: Stage) -> Floats:
    """(t, n): what one departure alone does to the first of its channels."""
    return _departure(departure, moved(departure.channel)[0], moments, stage)


class Moments:
    """Frames of the clip, and how far a move's pieces are then; held through whole frames for what is
    stepped."""

    def __init__(self, timing: MoveTiming, frames: Floats) -> None:
        self.timing, self._frames = timing, frames
        self._found: dict[bool, tuple[Floats, Floats]] = {}

    def of(self, stepped: bool) -> tuple[Floats, Floats]:
        """(t,) frames and (t, n) progress."""
        if stepped not in self._found:
            frames = np.floor(self._frames) if stepped else self._frames
            self._found[stepped] = frames, self.timing.progress(frames)
        return self._found[stepped]


def _departure(departure: Departure, name: str, moments: Moments, stage: Stage) -> Floats:
    timing, neutral = moments.timing, CHANNELS[name].neutral
    move = timing.move
    frames, progress = moments.of(CHANNELS[name].stepped)
    if timing.beats is not None:
        value = _beating(departure, name, timing, timing.beats, frames, stage)
    elif departure.keys:
        # Inner keys run in forward time.
        value = _keyed(departure, name, progress if move.enters else 1.0 - progress, stage)
    else:
        away = stage.amounts(name, departure.amount) - neutral
        value = neutral + away * _share_away(departure, move, progress)
    time = timing.clock(frames)
    if name == "letters":
        drawn = drawn_letters(departure.chance, timing.fps, time, len(timing.owners))
        value = np.where(value > 0, drawn, 0.0)
    elif departure.chance is not None:
        value = neutral + (value - neutral) * shaken(departure.chance, name, timing.fps, time, timing.owners)
    return np.where(progress >= 1.0, neutral, CHANNELS[name].kept(value))


def _share_away(departure: Departure, move: Move, progress: Floats) -> Floats:
    """1 fully away, 0 at rest; beyond either where the curve overshoots."""
    curve = easing(departure.curve or move.piece_curve)
    return 1.0 - curve(progress) if move.enters else curve(1.0 - progress)


def _beating(
    departure: Departure, name: str, timing: MoveTiming, beats: PieceBeats, frames: Floats, stage: Stage
) -> Floats:
    """A loop's departure wherever the piece beats."""
    time, neutral = frames - timing.start, CHANNELS[name].neutral
    # What begins anew with each beat, such as whole turns, can neither ebb nor stop within one.
    anew = bool(departure.keys) and departure.keys[0].amount != departure.keys[-1].amount
    share = beats.share(time, whole=anew)[:, timing.owners]
    if departure.keys:
        value = _keyed(departure, name, share, stage)
    else:
        there_and_back = easing(departure.curve or timing.move.piece_curve)(1.0 - np.abs(1.0 - 2.0 * share))
        value = neutral + (stage.amounts(name, departure.amount) - neutral) * there_and_back
    strength = 1.0 if anew else beats.strength(time)[:, timing.owners]
    return np.asarray(neutral + (value - neutral) * strength)


def _keyed(departure: Departure, name: str, forward: Floats, stage: Stage) -> Floats:
    """Inner keys at shares of the way. The amounts may differ by piece, so each piece has its track."""
    # What rounding moves off a key would hold the one before it for a frame more.
    places = np.array([key.at for key in departure.keys])
    nearest = places[np.abs(forward[..., None] - places).argmin(axis=-1)]
    forward = np.where(np.abs(forward - nearest) < 1e-9, nearest, forward)
    amounts = np.stack([stage.amounts(name, key.amount) for key in departure.keys])
    alike, column = np.unique(amounts, axis=1, return_inverse=True)
    value = np.empty_like(forward)
    for number, values in enumerate(alike.T):
        track = Track((key.at, amount, key.curve) for key, amount in zip(departure.keys, values, strict=True))
        chosen = column.reshape(-1) == number
        value[:, chosen] = track(forward[:, chosen])
    return value
