"""Stretches of samples that are read a block at a time, so that their length has no price in memory."""

from __future__ import annotations

import weakref
from collections import OrderedDict
from collections.abc import Callable
from math import ceil, gcd
from typing import Any

import av
import numpy as np
from av.audio.resampler import AudioResampler
from numpy.typing import NDArray

Samples = NDArray[np.float32]
SAMPLE_RATE = 48_000
BLOCK = 1 << 19
"""Samples of a block: 11 s, 4 MB."""
_KEPT = 24
_WARM = 2048  # samples that a resampler is given before those that count


class BlockCache:
    """The blocks used last, of all materials of a process together."""

    def __init__(self, most: int = _KEPT) -> None:
        self._most = most
        self._kept: OrderedDict[tuple[int, int], tuple[weakref.ref[Any], Samples]] = OrderedDict()

    def get(self, owner: Any, number: int, make: Callable[[], Samples]) -> Samples:
        """A block by its number, made where it is not kept."""
        key = (id(owner), number)
        kept = self._kept.get(key)
        if kept is None or kept[0]() is not owner:
            kept = self._kept[key] = (weakref.ref(owner), make())
        self._kept.move_to_end(key)
        while len(self._kept) > self._most:
            self._kept.popitem(last=False)
        return kept[1]


_blocks = BlockCache()


class Material:
    """Samples (n, 2) float32 at 48 kHz; `len` is how many there are, as far as that is known before they
    are read. Beyond both ends there is silence."""

    def __len__(self) -> int:
        raise NotImplementedError

    def _block(self, number: int) -> Samples:
        """(BLOCK, 2): samples from `number * BLOCK` on, silence included."""
        raise NotImplementedError

    def read(self, low: int, high: int) -> Samples:
        """(high - low, 2): samples `low` to `high`, not included."""
        out = np.zeros((max(0, high - low), 2), dtype=np.float32)
        for number in range(max(0, low) // BLOCK, ceil(max(0, high) / BLOCK)):
            start = number * BLOCK
            first, last = max(low, start), min(high, start + BLOCK)
            out[first - low : last - low] = self._kept(number)[first - start : last - start]
        return out

    def picked(self, at: NDArray[np.int64]) -> Samples:
        """(n, 2): the samples of those numbers, in any order."""
        if len(at) and at[-1] - at[0] == len(at) - 1 and np.all(np.diff(at) == 1):
            return self.read(int(at[0]), int(at[-1]) + 1)
        out = np.zeros((len(at), 2), dtype=np.float32)
        numbers = np.where(at >= 0, at // BLOCK, -1)
        for number in np.unique(numbers[numbers >= 0]).tolist():
            here = numbers == number
            out[here] = self._kept(number)[at[here] - number * BLOCK]
        return out

    def _kept(self, number: int) -> Samples:
        return _blocks.get(self, number, lambda: self._block(number))


class Held(Material):
    """Samples that are in memory as a whole."""

    def __init__(self, samples: Samples) -> None:
        self._samples = samples

    def __len__(self) -> int:
        return len(self._samples)

    def read(self, low: int, high: int) -> Samples:
        out = np.zeros((max(0, high - low), 2), dtype=np.float32)
        first, last = max(0, low), min(high, len(self._samples))
        if first < last:
            out[first - low : last - low] = self._samples[first:last]
        return out

    def picked(self, at: NDArray[np.int64]) -> Samples:
        inside = (at >= 0) & (at < len(self._samples))
        found = self._samples[np.clip(at, 0, max(0, len(self._samples) - 1))]
        return np.where(inside[:, None], found, np.float32(0))


class Resampled(Material):
    """Samples of another rate brought to 48 kHz: `read(low, high)` gives them, `rate` is how many a second
    has, `count` how many there are.

    Each block is made by itself, from a sample that lies on one of 48 kHz and with a run-up, so it does
    not matter which was read before.
    """

    def __init__(self, read: Callable[[int, int], Samples], rate: int, count: int) -> None:
        self._source, self._rate, self._count = read, rate, count
        common = gcd(rate, SAMPLE_RATE)
        self._from, self._to = rate // common, SAMPLE_RATE // common

    def __len__(self) -> int:
        return ceil(self._count * self._to / self._from)

    def _block(self, number: int) -> Samples:
        low, high = number * BLOCK, (number + 1) * BLOCK
        if self._from == self._to:
            return self._source(low, high)
        step = max(0, low - _WARM) // self._to
        first = step * self._from
        last = (high + _WARM) * self._from // self._to + 1
        made = resampled(self._source(first, last), self._rate)
        skipped = low - step * self._to
        out = np.zeros((BLOCK, 2), dtype=np.float32)
        part = made[skipped : skipped + BLOCK]
        out[: len(part)] = part
        return out


def resampled(samples: Samples, rate: int) -> Samples:
    """(m, 2) at 48 kHz: samples of which a second has `rate`."""
    frame = av.AudioFrame.from_ndarray(np.ascontiguousarray(samples.T), format="fltp", layout="stereo")
    frame.sample_rate = rate
    resampler = AudioResampler(format="fltp", layout="stereo", rate=SAMPLE_RATE)
    parts = [part.to_ndarray() for given in (frame, None) for part in resampler.resample(given)]
    return np.ascontiguousarray(np.concatenate(parts, axis=1).T)
