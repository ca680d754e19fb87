"""What a channel's keys do, in numbers that people judge motion by."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from rovix.model import ColourKeys, ContourKey, ContourKeys, Key, Keys, MotionPath, PathKey
from rovix.model.fields import Animated
from rovix.motion.contours import travelled
from rovix.motion.rest import channel_at, path_at, path_of

Floats = NDArray[np.float64]
SETTLED = 0.005
"""How near to its last value, as a share of the way, a channel counts as settled."""
_BREAK = 0.2  # of the fastest, between the speeds before and after a key, is felt as a jolt
_NOTHING = 1e-3
_NEAR = 1e-4  # frames from a key at which its speeds are taken


@dataclass(frozen=True, slots=True)
class Reading:
    """`overshoot` is a share of the way from the first key to the last, `settles` the first frame from
    which on it stays by its last value; `fastest` is per frame, reached on the way to the frame
    `fastest_at`; `breaks` are the keys' frames at which the speed jumps.
    """

    overshoot: float
    settles: int
    fastest: float
    fastest_at: int
    breaks: tuple[int, ...]


def values_of(held: Animated, frames: Floats) -> Floats:
    """(t,): a channel as one number at frames: px along a path, px that the points of a contour have gone in
    the mean; for colours the share of their keys."""
    if isinstance(held, Keys):
        return channel_at(held, frames)
    starts = np.array([float(key.frame) for key in held.keys])
    if isinstance(held, ColourKeys):
        return np.interp(frames, starts, np.linspace(0.0, 1.0, len(starts)))
    return travelled(held, frames) if isinstance(held, ContourKeys) else _travelled(held, frames)


def _travelled(path: MotionPath, frames: Floats) -> Floats:
    curved, track = path_of(path)
    sums = np.concatenate([[0.0], np.cumsum(curved.lengths)]) if len(path.keys) > 1 else np.zeros(1)
    progress = track(frames)
    last = max(0, len(sums) - 2)
    segment = np.clip(np.searchsorted([k.frame for k in path.keys], frames, side="right") - 1, 0, last)
    if len(sums) == 1:
        return np.zeros(frames.shape)
    return sums[segment] + (progress - segment) * curved.lengths[segment]


def key_value(held: Animated, key: Key | PathKey | object) -> float:
    """Where a key lies on the scale of :func:`values_of`."""
    if isinstance(key, Key):
        return key.value
    return float(values_of(held, np.array([float(key.frame)]))[0])  # type: ignore[attr-defined]


def reading(held: Animated) -> Reading:
    """The reading of a channel from its first key to its last."""
    first, last = held.keys[0].frame, held.keys[-1].frame
    frames = np.arange(first, last + 1, dtype=np.float64)
    values = values_of(held, frames)
    steps = _steps(held, frames)
    way = float(values[-1] - values[0])
    size = abs(way) or float(np.ptp(values)) or 1.0
    beyond = (values - values[-1]) * (np.sign(way) or 1.0)
    away = np.flatnonzero(np.abs(values - values[-1]) > SETTLED * size)
    at = int(np.argmax(steps)) if len(steps) else 0
    return Reading(
        max(0.0, float(beyond.max())) / size if way else 0.0,
        first + (int(away[-1]) + 1 if len(away) else 0),
        float(steps[at]) if len(steps) else 0.0,
        first + at + 1 if len(steps) else first,
        _breaks(held, float(steps.max()) if len(steps) else 0.0),
    )


def _steps(held: Animated, frames: Floats) -> Floats:
    """(t - 1,): how far it goes from each frame to the next."""
    if isinstance(held, MotionPath):
        return np.hypot(*np.diff(path_at(held, frames)[0], axis=0).T)
    return np.abs(np.diff(values_of(held, frames)))


def slopes_at(held: Animated, frame: float) -> tuple[float, float]:
    """Change per frame right before and right after a frame."""
    near = values_of(held, np.array([frame - 2 * _NEAR, frame - _NEAR, frame + _NEAR, frame + 2 * _NEAR]))
    return float(near[1] - near[0]) / _NEAR, float(near[3] - near[2]) / _NEAR


def _breaks(held: Animated, most: float) -> tuple[int, ...]:
    """The frames of keys at which the speed jumps, measured by the fastest at keys; nothing where that is
    nothing against the fastest of all, `most`."""
    if isinstance(held, ColourKeys):
        return ()
    keys: tuple[Key | PathKey | ContourKey, ...] = held.keys
    speeds = {key.frame: slopes_at(held, key.frame) for key in keys[1:-1] if key.curve != "hold"}
    cut = {after.frame for before, after in pairwise(keys) if before.curve == "hold"}
    fastest = max((abs(s) for pair in speeds.values() for s in pair), default=0.0)
    if fastest <= _NOTHING * most:
        return ()  # it stands still at all of them, but for the last digits
    return tuple(
        frame
        for frame, (before, after) in speeds.items()
        if frame not in cut and abs(after - before) > _BREAK * fastest > 0
    )
