"""What is drawn at random: how far pieces shake, and which letters stand in for others."""

from __future__ import annotations

from zlib import crc32

import numpy as np
from numpy.typing import NDArray

from rovix.model import Chance
from rovix.motion.random import draws

Floats = NDArray[np.float64]


def shaken(chance: Chance, channel: str, fps: float, frames: Floats, owners: NDArray[np.int64]) -> Floats:
    """(t, n) in -1..1: how far to either side each piece is shaken at frames of the clip.

    A draw holds through a whole frame; a smooth shake goes from draw to draw along a cosine.
    """
    key = np.asarray(crc32(channel.encode()))
    if not chance.smooth:
        return _sides(chance.seed, key, _steps(chance, fps, np.floor(frames)), owners)
    time = frames * (chance.rate / fps)
    step = np.floor(time)
    share = (0.5 - 0.5 * np.cos(np.pi * (time - step)))[:, None]
    before, after = (_sides(chance.seed, key, step.astype(np.int64) + n, owners) for n in (0, 1))
    return before + (after - before) * share


def drawn_letters(chance: Chance | None, fps: float, frames: Floats, count: int) -> Floats:
    """(t, n) whole numbers from 1 up: which letter stands in for each piece, out of any number."""
    chance = chance or Chance()
    steps = _steps(chance, fps, np.floor(frames))
    # 52 bits, so that a double holds them exactly.
    found = draws(chance.seed, steps[:, None], np.arange(count)) >> np.uint64(12)
    return 1.0 + found.astype(np.float64)


def _steps(chance: Chance, fps: float, frames: Floats) -> NDArray[np.int64]:
    """The number of the draw that counts at each frame."""
    return np.floor(frames * (chance.rate / fps) + 1e-9).astype(np.int64)


def _sides(seed: int, key: NDArray, steps: NDArray[np.int64], owners: NDArray[np.int64]) -> Floats:
    drawn = draws(seed, key, steps[:, None], owners) >> np.uint64(11)
    return drawn.astype(np.float64) * 2.0**-52 - 1.0
