"""A track of keys: values over time, evaluated for whole arrays."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from rovix.curve.easing import easing
from rovix.curve.smooth import LOOSE, SMOOTH, hermite, loose_slopes, monotone_slopes
from rovix.curve.tangents import TANGENTS, along_tangents, handle_ends

Floats = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class Key:
    """A value at a time. `curve` is the way from here to the next key: an easing's text, where
    `smooth` and `smooth-loose` take their slopes from the neighbouring keys, and `tangents` goes
    along `after` and the next key's `before`: (time from the key, 0 or more; value beside it)."""

    time: float
    value: float
    curve: str = "linear"
    before: tuple[float, float] | None = None
    after: tuple[float, float] | None = None


class Track:
    """Keys with an easing each; ``track(times)`` gives float64 values of the times' shape.

    Times may be any real numbers (frames, or shares of a span). Before the first key its value
    holds, after the last key its value. Raises ValueError without keys, for a time or value that
    is not finite, for times that do not rise, and for a curve that is no easing.
    """

    __slots__ = ("_easings", "_handles", "_kind", "_slopes", "_times", "_values", "keys")

    def __init__(self, keys: Iterable[Key | tuple[float, float] | tuple[float, float, str]]) -> None:
        self.keys = tuple(key if isinstance(key, Key) else Key(*key) for key in keys)
        if not self.keys:
            raise ValueError("A track needs at least one key.")
        self._times = np.array([key.time for key in self.keys], dtype=np.float64)
        self._values = np.array([key.value for key in self.keys], dtype=np.float64)
        if not (np.all(np.isfinite(self._times)) and np.all(np.isfinite(self._values))):
            raise ValueError("The times and values of keys are finite numbers.")
        if np.any(np.diff(self._times) <= 0):
            raise ValueError("The times of keys rise from each key to the next.")
        texts = list(dict.fromkeys(key.curve for key in self.keys))
        self._easings = [easing(text) for text in texts]
        self._kind = np.array([texts.index(key.curve) for key in self.keys])
        several = len(self.keys) > 1
        self._slopes = {
            texts.index(name): slopes(self._times, self._values)
            for name, slopes in ((SMOOTH, monotone_slopes), (LOOSE, loose_slopes))
            if name in texts and several
        }
        self._handles = self._handle_ends() if TANGENTS in texts and several else None

    def _handle_ends(self) -> tuple[int, tuple[Floats, Floats], tuple[Floats, Floats]]:
        """The number of the tangents' kind, and per segment the ends of its two handles."""
        none = (np.nan, np.nan)
        after = np.array([key.after or none for key in self.keys[:-1]], dtype=np.float64)
        before = np.array([key.before or none for key in self.keys[1:]], dtype=np.float64)
        length = np.diff(self._times)
        number = self._kind[[key.curve for key in self.keys].index(TANGENTS)]
        return int(number), handle_ends(length, after), handle_ends(length, before)

    def __call__(self, times: ArrayLike) -> NDArray[np.float64]:
        times = np.asarray(times, dtype=np.float64)
        if len(self.keys) == 1:
            return np.full(times.shape, self._values[0])
        segment = np.clip(np.searchsorted(self._times, times, side="right") - 1, 0, len(self.keys) - 2)
        start, end = self._times[segment], self._times[segment + 1]
        low, high = self._values[segment], self._values[segment + 1]
        share = self._eased((times - start) / (end - start), segment)
        values = low + share * (high - low)
        for kind, slopes in self._slopes.items():
            whole = (times - start) / (end - start)
            ends = slopes[segment] * (end - start), slopes[segment + 1] * (end - start)
            values = np.where(self._kind[segment] == kind, hermite(whole, low, high, *ends), values)
        if self._handles is not None:
            values = self._on_tangents(values, (times - start) / (end - start), segment)
        values = np.where(times < self._times[0], self._values[0], values)
        return np.where(times >= self._times[-1], self._values[-1], values)

    def _on_tangents(self, values: Floats, share: Floats, segment: NDArray[np.intp]) -> Floats:
        assert self._handles is not None
        kind, after, before = self._handles
        chosen = self._kind[segment] == kind
        at = segment[chosen]
        values = np.array(values)
        values[chosen] = along_tangents(
            share[chosen],
            self._values[at],
            self._values[at + 1],
            (after[0][at], after[1][at]),
            (before[0][at], before[1][at]),
        )
        return values

    def _eased(self, share: NDArray[np.float64], segment: NDArray[np.intp]) -> NDArray[np.float64]:
        kinds = self._kind[segment]
        present = np.unique(kinds)
        if len(present) == 1:
            return self._easings[present[0]](share)
        eased = np.empty_like(share)
        for kind in present:
            chosen = kinds == kind
            eased[chosen] = self._easings[kind](share[chosen])
        return eased
