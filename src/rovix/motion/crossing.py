"""How a layer crosses the frame: from which place to which, in how many frames, by how much in each."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import ceil

import numpy as np
from numpy.typing import NDArray

from rovix.model import Crossing
from rovix.model.crossing import Counted
from rovix.time import Rate

Floats = NDArray[np.float64]
_FARTHEST, _HALVINGS = 256.0, 60
_ROUNDING = 1e-6
_LOOKED = 81
"""Quarters of the frame that are looked at to either side for a layer that rests beyond it."""


@dataclass(frozen=True, slots=True)
class CrossingWay:
    """`start` px from rest along `axis` (0 across, 1 down), then `step` px a frame for `frames` frames after
    `hold`. `needed` are the frames that the way asks for, holds included; `room` those that there are; `word`
    the px of the way that a word takes."""

    axis: int
    start: float
    step: float
    hold: int
    frames: float
    needed: int
    room: int
    word: float | None = None

    def at(self, frames: Floats) -> Floats:
        """(t,): px from rest at frames of the clip."""
        return np.asarray(self.start + self.step * np.clip(frames - self.hold, 0.0, self.frames))

    @property
    def is_short(self) -> bool:
        """Whether the clip is too short for the speed that is asked for."""
        return self.needed > self.room


def crossing_way(
    crossing: Crossing,
    length: int,
    rate: Rate,
    is_out: Callable[[int, float], bool],
    size: tuple[int, int],
    word: float | None = None,
) -> CrossingWay:
    """The way of a layer in a clip of `length` frames; `is_out` says whether it is off the frame when moved
    along an axis by so many px, `word` is how many px of the way a word takes."""
    axis, sign = (0 if crossing.across else 1), crossing.sign
    first = crossing.start if crossing.from_rest else -sign * _clear(is_out, axis, -sign, size)
    last = crossing.end if crossing.to_rest else sign * _clear(is_out, axis, sign, size)
    holds = [rate.frames(crossing.hold_start), rate.frames(crossing.hold_end)]
    room = length - 1
    going = max(1, room - sum(holds))
    step = (last - first) / going
    speed = px_a_frame(crossing, rate, word)
    if speed is not None:
        step = float(np.copysign(speed, step or sign))
    if crossing.whole_px:
        least = round if speed is not None else ceil
        step = float(np.copysign(max(1, least(abs(step) - _ROUNDING)), step or sign))
    frames = abs(last - first) / abs(step) if step else 0.0
    if crossing.whole_px:
        # Whole frames of whole px: it starts as much farther out as that is more than the way.
        frames = float(ceil(frames - _ROUNDING))
        first = crossing.start if crossing.from_rest else last - step * frames
    needed = ceil(frames - _ROUNDING) + sum(holds)
    if needed > room and crossing.whole_px:
        step = float(np.copysign(max(1, ceil(abs(last - first) / going - _ROUNDING)), step))
        frames = float(min(going, ceil(abs(last - first) / abs(step) - _ROUNDING)))
        first = crossing.start if crossing.from_rest else last - step * frames
    elif needed > room:
        # Too short for the speed: as much faster as the clip is lacking, holds and all.
        share = room / needed if needed else 1.0
        frames, step, holds[0] = frames * share, step / share if share else 0.0, round(holds[0] * share)
        frames = min(frames, float(room - holds[0]))
        step = (last - first) / frames if frames else 0.0
    return CrossingWay(axis, first, step, holds[0], frames, needed, room, word)


def px_a_frame(crossing: Crossing, rate: Rate, word: float | None) -> float | None:
    """The speed that is asked for, px a frame; None where the clip's length gives it."""
    if crossing.speed is None or (crossing.counted == "words" and not word):
        return None
    if crossing.counted == "frame":
        return crossing.speed
    seconds = crossing.speed * (word or 0.0) / 60 if crossing.counted == "words" else crossing.speed
    return seconds / float(rate.fraction)


def counted_speed(way: CrossingWay, counted: Counted, rate: Rate) -> float | None:
    """How fast a way goes, counted so; None in words where there are none."""
    seconds = abs(way.step) * float(rate.fraction)
    if counted == "words":
        return seconds * 60 / way.word if way.word else None
    return abs(way.step) if counted == "frame" else seconds


def _clear(is_out: Callable[[int, float], bool], axis: int, sign: int, size: tuple[int, int]) -> float:
    """The least distance to one side at which a layer is off the frame, found by bisection as perspective
    bends the way; 0 where it has no ink."""
    # From inside the frame outwards: where it rests beyond the other side, it is out there, too.
    inside = _inside(is_out, axis, size)
    if inside is None:
        return 0.0
    low, high = sign * inside, _FARTHEST * max(size)
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        if is_out(axis, sign * middle):
            high = middle
        else:
            low = middle
    return high


def _inside(is_out: Callable[[int, float], bool], axis: int, size: tuple[int, int]) -> float | None:
    """A distance at which a layer is in the frame; None where there is none along the axis."""
    if not is_out(axis, 0.0):
        return 0.0
    for number in range(1, _LOOKED):
        for way in (size[axis] / 4, -size[axis] / 4):
            if not is_out(axis, number * way):
                return number * way
    return None
