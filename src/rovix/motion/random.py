"""Seeded choices that are the same on every machine and in every version."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

_MASK = (1 << 64) - 1
STEP, _FIRST, _SECOND = 0x9E3779B97F4A7C15, 0xBF58476D1CE4E5B9, 0x94D049BB133111EB


def splitmix64(seed: int) -> Iterator[int]:
    """The stream of 64-bit numbers of SplitMix64 (Steele, Lea and Flood, OOPSLA 2014; public domain
    reference by Sebastiano Vigna, constants from memory)."""
    state = seed & _MASK
    while True:
        state = (state + STEP) & _MASK
        mixed = state
        mixed = ((mixed ^ (mixed >> 30)) * _FIRST) & _MASK
        mixed = ((mixed ^ (mixed >> 27)) * _SECOND) & _MASK
        yield mixed ^ (mixed >> 31)


def draws(seed: int, *keys: NDArray[np.int64]) -> NDArray[np.uint64]:
    """A draw of 64 bits for each set of keys, arrays that go together by NumPy's rules.

    The first number that SplitMix64 gives from a state into which the keys are folded one after the
    other, each by a step of its own; so neighbours share nothing, in any order they are asked for.
    """
    state = _next(np.asarray(seed & _MASK, dtype=np.uint64))
    for key in keys:
        state = _next(state ^ key.astype(np.uint64))
    return state


def mixed(state: NDArray[np.uint64]) -> NDArray[np.uint64]:
    """How SplitMix64 finishes each state: every bit depends on all of them."""
    with np.errstate(over="ignore"):
        state = (state ^ (state >> np.uint64(30))) * np.uint64(_FIRST)
        state = (state ^ (state >> np.uint64(27))) * np.uint64(_SECOND)
        return np.asarray(state ^ (state >> np.uint64(31)))


def _next(state: NDArray[np.uint64]) -> NDArray[np.uint64]:
    """The number that SplitMix64 gives from each state."""
    with np.errstate(over="ignore"):
        return mixed(state + np.uint64(STEP))


def shuffled(count: int, seed: int) -> list[int]:
    """A permutation of 0 … count - 1 by Fisher and Yates; every one as likely as 64 bits allow."""
    order, numbers = list(range(count)), splitmix64(seed)
    for last in range(count - 1, 0, -1):
        # The high half of the product scales 64 random bits to 0 … last without a slow remainder.
        other = (next(numbers) * (last + 1)) >> 64
        order[last], order[other] = order[other], order[last]
    return order
