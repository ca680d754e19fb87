"""Samples of a clip as it plays its material: slower, faster, backwards, again and again."""

from __future__ import annotations

from collections import OrderedDict
from fractions import Fraction
from math import floor

import numpy as np
from numpy.typing import NDArray

from rovix.media.samples import SAMPLE_RATE, Material, Resampled
from rovix.model import FootageClip, GroupClip, SequenceClip, SoundClip
from rovix.time import Rate

Samples = NDArray[np.float32]
_KEPT = 6


def played_samples(
    clip: SoundClip | FootageClip | GroupClip | SequenceClip,
    material: Material,
    rate: Rate,
    low: int,
    high: int,
) -> Samples:
    """(high - low, 2): samples `low` to `high`, counted from the clip's start; silence beyond its ends.

    A clip that stands still is silent.
    """
    playing = clip.playing
    if playing.speed == 0:
        return np.zeros((high - low, 2), dtype=np.float32)
    speeded = at_speed(material, playing.speed)
    own = np.arange(low, high)
    if playing.backwards:
        own = _samples(rate, clip.length, 1.0) - 1 - own
    position = own + _samples(rate, playing.lead, 1.0)
    if playing.span is not None:
        position = _repeated(position, max(1, _samples(rate, playing.span, playing.speed)), playing.and_back)
    return speeded.picked(position + _samples(rate, clip.offset, playing.speed))


def _samples(rate: Rate, frames: int, speed: float) -> int:
    return floor(rate.seconds(frames) * SAMPLE_RATE / Fraction(repr(speed)) + Fraction(1, 2))


def _repeated(position: NDArray[np.int64], span: int, and_back: bool) -> NDArray[np.int64]:
    if not and_back:
        return position % span
    last = max(1, span - 1)
    return last - np.abs(last - position % (2 * last))


_speeded: OrderedDict[tuple[int, float], tuple[Material, Material]] = OrderedDict()


def at_speed(material: Material, speed: float) -> Material:
    """Sample k is the material at k times the speed, without what would fold back.

    The pitch goes with the speed, as on tape.
    """
    if speed == 1:
        return material
    kept = _speeded.get((id(material), speed))
    if kept is None or kept[0] is not material:
        # The source is kept with its result, so that its id cannot pass to another.
        rate = max(1, round(SAMPLE_RATE * speed))
        kept = (material, Resampled(material.read, rate, len(material)))
        _speeded[(id(material), speed)] = kept
        while len(_speeded) > _KEPT:
            _speeded.popitem(last=False)
    return kept[1]
