"""White noise that is the same everywhere."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from rovix.motion.random import STEP, mixed

Grain = NDArray[np.float32]


def white_noise(seed: int, size: tuple[int, int]) -> Grain:
    """(height, width) in -1..1: each px from SplitMix64's mixing of its number, vectorised."""
    state = np.arange(size[0] * size[1], dtype=np.uint64) + np.uint64(seed % 2**32) * np.uint64(0x100000001)
    # The numbers of one stream after the other: each state is so many steps on.
    drawn = mixed((state + np.uint64(1)) * np.uint64(STEP))
    share = (drawn >> np.uint64(40)).astype(np.float32) / np.float32(2**23)
    return (share - 1).reshape(size[1], size[0])
