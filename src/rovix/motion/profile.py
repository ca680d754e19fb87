"""The motion profile of a layer: how far it is from rest, frame by frame, as one height."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rovix.motion.channels import CHANNELS
from rovix.motion.layer import LayerMotion
from rovix.motion.order import BY_PLACE, move_ranks

Floats = NDArray[np.float64]
_DIP = 0.4  # a loop that dipped to the ground would look as if its words left


def motion_profile(motion: LayerMotion, samples: int) -> Floats:
    """(samples,): nearness to rest over the clip, from its first frame to its last.

    1 is at rest, 0 fully away, above 1 beyond rest. Each active move gives, as a mean over pieces,
    1 less the departure of its widest channel as a share of that channel's largest; the lowest of
    the moves counts, or where none lags the highest. A loop's beats dip by part of the height.
    """
    frames = np.linspace(0, motion.clip.length - 1, max(2, samples))
    state = motion.at(frames)
    nearness = [_nearness(motion, index, frames) for index in range(len(motion.timings))]
    if not nearness:
        return np.ones(len(frames))
    stacked = np.stack([np.where(state.shown, near, 0.0).mean(axis=1) for near in nearness])
    low, high = stacked.min(axis=0), stacked.max(axis=0)
    return np.where(low < 1, low, high)


def move_speed(motion: LayerMotion, index: int, parts: int = 4) -> tuple[Floats, Floats]:
    """Frames of the clip over one move's span, and how fast it goes there, 1 at its fastest.

    The speed is that of the mean nearness of its pieces to rest, read `parts` times a frame.
    """
    timing = motion.timings[index]
    length = timing.span if timing.beats is None else timing.beats.length
    frames = np.linspace(timing.start, timing.start + length, max(2, round(length * parts) + 1))
    # A loop's pieces follow each other, so that of the first says how fast they all are.
    near = _nearness(motion, index, frames).mean(axis=1)
    speeds = np.abs(np.gradient(near)) if len(frames) > 2 else np.zeros(len(frames))
    return frames, speeds / max(1e-12, float(speeds.max(initial=0.0)))


@dataclass(frozen=True, slots=True, eq=False)
class SettingOff:
    """A move of several pieces, and the frames (k,) of the clip, rising, on which each rank sets off."""

    move: str
    role: str
    frames: Floats


def setting_off(motion: LayerMotion) -> list[SettingOff]:
    """When the pieces of each move that has several set off; of one that types, when they come."""
    found: list[SettingOff] = []
    for timing in motion.timings:
        places = motion.subject.places(timing.move) if timing.move.order in BY_PLACE else None
        ranks = move_ranks(timing.move, len(timing.times.starts), places)
        # Pieces of one rank set off together, so any of them says when.
        first = np.unique(ranks, return_index=True)[1]
        frames = np.sort(timing.start + timing.times.starts[first])
        if len(frames) > 1:
            found.append(SettingOff(timing.move.id, timing.move.role, frames))
    return found


def _beating(motion: LayerMotion, index: int, frames: Floats) -> Floats:
    """(t, 1) for a loop: the size of its first piece's widest departure, 0 at rest to 1 at its largest.

    The mean of pieces that follow each other in one beat is level and says nothing of it.
    """
    timing = motion.timings[index]
    first = int(np.argmin(timing.times.starts[timing.owners])) if len(motion.subject) else 0
    best = np.zeros((len(frames), 1))
    for name, values in motion.departures_of(index, frames).items():
        gone = np.abs(values[:, first : first + 1] - CHANNELS[name].neutral)
        best = np.maximum(best, gone / max(1e-12, float(gone.max(initial=0.0))))
    return best


def _nearness(motion: LayerMotion, index: int, frames: Floats) -> Floats:
    """(t, n) for one move: 1 - departure / largest departure, signed so that overshoot is above 1."""
    if motion.timings[index].beats is not None:
        dips = 1.0 - _DIP * _beating(motion, index, frames)
        return np.broadcast_to(dips, (len(frames), len(motion.subject)))
    found = motion.departures_of(index, np.append(frames, motion.away_frame(index)))
    best: Floats | None = None
    largest = 0.0
    for name, values in found.items():
        gone = values - CHANNELS[name].neutral
        away = gone[-1]
        reach = float(np.abs(away).max(initial=0.0))
        # Channels have different units; each is measured against its own away state, and the one
        # that moves most of its range at the edge of the clip leads.
        share = np.where(np.abs(away) > 1e-12, gone / np.where(np.abs(away) > 1e-12, away, 1.0), 0.0)
        spread = float(np.ptp(share[:-1], axis=0).max(initial=0.0)) if reach else -1.0
        if spread > largest:
            best, largest = share[:-1], spread
    return np.ones((len(frames), len(motion.subject))) if best is None else 1.0 - best
