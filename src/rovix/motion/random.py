"""Seeded choices that are the same on every machine and in every version."""

from __future__ import annotations

from collections.abc import Iterator

_MASK = (1 << 64) - 1


def splitmix64(seed: int) -> Iterator[int]:
    """The stream of 64-bit numbers of SplitMix64 (Steele, Lea and Flood, OOPSLA 2014; public domain
    reference by Sebastiano Vigna, constants from memory)."""
    state = seed & _MASK
    while True:
        state = (state + 0x9E3779B97F4A7C15) & _MASK
        mixed = state
        mixed = ((mixed ^ (mixed >> 30)) * 0xBF58476D1CE4E5B9) & _MASK
        mixed = ((mixed ^ (mixed >> 27)) * 0x94D049BB133111EB) & _MASK
        yield mixed ^ (mixed >> 31)


def shuffled(count: int, seed: int) -> list[int]:
    """A permutation of 0 … count - 1 by Fisher and Yates; every one as likely as 64 bits allow."""
    order, numbers = list(range(count)), splitmix64(seed)
    for last in range(count - 1, 0, -1):
        # The high half of the product scales 64 random bits to 0 … last without a slow remainder.
        other = (next(numbers) * (last + 1)) >> 64
        order[last], order[other] = order[other], order[last]
    return order
