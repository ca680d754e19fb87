"""Samples of a clip as it plays its material: slower, faster, backwards, again and again."""

from __future__ import annotations

from collections import OrderedDict
from fractions import Fraction
from math import floor

import av
import numpy as np
from av.audio.resampler import AudioResampler
from numpy.typing import NDArray

from rovix.media.sound import SAMPLE_RATE
from rovix.model import FootageClip, GroupClip, SequenceClip, SoundClip
from rovix.time import Rate

Samples = NDArray[np.float32]
_KEPT = 6


def played_samples(
    clip: SoundClip | FootageClip | GroupClip | SequenceClip,
    samples: Samples,
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
    speeded = at_speed(samples, playing.speed)
    own = np.arange(low, high)
    if playing.backwards:
        own = _samples(rate, clip.length, 1.0) - 1 - own
    position = own + _samples(rate, playing.lead, 1.0)
    if playing.span is not None:
        position = _repeated(position, max(1, _samples(rate, playing.span, playing.speed)), playing.and_back)
    return _picked(speeded, position + _samples(rate, clip.offset, playing.speed))


def _samples(rate: Rate, frames: int, speed: float) -> int:
    return floor(rate.seconds(frames) * SAMPLE_RATE / Fraction(repr(speed)) + Fraction(1, 2))


def _repeated(position: NDArray[np.int64], span: int, and_back: bool) -> NDArray[np.int64]:
    if not and_back:
        return position % span
    last = max(1, span - 1)
    return last - np.abs(last - position % (2 * last))


def _picked(samples: Samples, at: NDArray[np.int64]) -> Samples:
    inside = (at >= 0) & (at < len(samples))
    found = samples[np.clip(at, 0, max(0, len(samples) - 1))]
    return np.where(inside[:, None], found, np.float32(0))


_speeded: OrderedDict[tuple[int, float], tuple[Samples, Samples]] = OrderedDict()


def at_speed(samples: Samples, speed: float) -> Samples:
    """(m, 2): sample k is the material at k times the speed, without what would fold back.

    The pitch goes with the speed, as on tape.
    """
    if speed == 1:
        return samples
    kept = _speeded.get((id(samples), speed))
    if kept is None or kept[0] is not samples:
        # The source is kept with its result, so that its id cannot pass to other samples.
        kept = (samples, resampled(samples, speed))
        _speeded[(id(samples), speed)] = kept
        while len(_speeded) > _KEPT:
            _speeded.popitem(last=False)
    return kept[1]


def resampled(samples: Samples, speed: float) -> Samples:
    """(m, 2): the samples at a speed, made anew each time."""
    frame = av.AudioFrame.from_ndarray(np.ascontiguousarray(samples.T), format="fltp", layout="stereo")
    frame.sample_rate = max(1, round(SAMPLE_RATE * speed))
    resampler = AudioResampler(format="fltp", layout="stereo", rate=SAMPLE_RATE)
    parts = [part.to_ndarray() for given in (frame, None) for part in resampler.resample(given)]
    return np.ascontiguousarray(np.concatenate(parts, axis=1).T)
