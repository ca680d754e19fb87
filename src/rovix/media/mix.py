"""All sounds of a sequence as one stretch of samples."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from fractions import Fraction
from math import floor

import numpy as np
from numpy.typing import NDArray

from rovix.media.sound import SAMPLE_RATE
from rovix.model import FootageClip, GroupClip, Sequence, SoundClip, Track
from rovix.time import Rate, Span

Samples = NDArray[np.float32]


@dataclass(frozen=True, slots=True)
class _Heard:
    """A clip's own samples in the sequence: where it starts and stops, in frames."""

    clip: SoundClip | FootageClip
    start: int
    audible: Span


def mix(sequence: Sequence, span: Span, sound_of: Callable[[str], Samples | None]) -> Samples:
    """(n, 2) float32 at 48 kHz of a span of frames; n is exact by the positions of its ends.

    `sound_of` gives the samples of a media id, or None where it has no sound. The sum is not
    limited here: what goes beyond 1 is cut off by whoever plays or writes it.
    """
    rate = sequence.frame_rate
    first, last = sample_at(rate, span.start), sample_at(rate, span.end)
    total = np.zeros((last - first, 2), dtype=np.float32)
    for heard in _heard(sequence.tracks, 0, Span(0, max(span.end, sequence.length))):
        if heard.audible.overlaps(span):
            samples = sound_of(heard.clip.media)
            if samples is not None:
                _add(total, first, heard, samples, rate)
    return total


def sample_at(rate: Rate, frame: int) -> int:
    """The sample at which a frame starts, nearest, halves up."""
    return floor(rate.seconds(frame) * SAMPLE_RATE + Fraction(1, 2))


def _heard(tracks: tuple[Track, ...], shift: int, within: Span) -> Iterator[_Heard]:
    for track in tracks:
        if track.muted:
            continue
        for clip in track.clips:
            audible = clip.span.shifted(shift).clipped(within)
            if isinstance(clip, GroupClip):
                yield from _heard(clip.tracks, shift + clip.start, audible)
            elif isinstance(clip, SoundClip | FootageClip):
                yield _Heard(clip, shift + clip.start, audible)


def _add(total: Samples, first: int, heard: _Heard, samples: Samples, rate: Rate) -> None:
    start = sample_at(rate, heard.start)
    offset = sample_at(rate, heard.clip.offset)
    low = max(first, sample_at(rate, heard.audible.start))
    high = min(first + len(total), sample_at(rate, heard.audible.end), start + len(samples) - offset)
    if low >= high:
        return
    part = samples[offset + low - start : offset + high - start]
    gain = np.float32(10 ** (heard.clip.gain / 20))
    total[low - first : high - first] += part * gain * _fade(heard, rate, low - start, high - start)


def _fade(heard: _Heard, rate: Rate, low: int, high: int) -> NDArray[np.float32]:
    """(n, 1): 0..1 over samples counted from the clip's start."""
    clip = heard.clip
    level = np.ones(high - low, dtype=np.float32)
    if isinstance(clip, SoundClip) and (clip.fade_in or clip.fade_out):
        at = np.arange(low, high)
        length = sample_at(rate, clip.length)
        if clip.fade_in:
            level = np.minimum(level, at / sample_at(rate, clip.fade_in))
        if clip.fade_out:
            level = np.minimum(level, (length - at) / sample_at(rate, clip.fade_out))
    return np.clip(level, 0, 1).astype(np.float32)[:, None]
