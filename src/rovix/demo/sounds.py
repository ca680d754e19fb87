"""The demo's sounds, made from noise and sines; 48 kHz."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from rovix.media.own_sounds import band, key_tap, levelled, noise, thump
from rovix.media.samples import SAMPLE_RATE

Samples = NDArray[np.float64]
__all__ = ["key_tap", "thump", "whoosh", "wind_bed"]


def wind_bed(seconds: float = 13.0) -> Samples:
    """Low wind that swells slowly."""
    count = int(seconds * SAMPLE_RATE)
    time = np.arange(count) / SAMPLE_RATE
    swell = 0.6 + 0.25 * np.sin(2 * np.pi * time / 5.2) + 0.15 * np.sin(2 * np.pi * time / 2.3 + 1)
    return levelled(band(noise(11, count), 60, 700) * swell, 0.28)


def whoosh(seconds: float = 0.8) -> Samples:
    """A rush of air that rises and passes."""
    count = int(seconds * SAMPLE_RATE)
    share = np.arange(count) / count
    low, high = band(noise(12, count), 200, 900), band(noise(13, count), 900, 5200)
    bright = np.exp(-(((share - 0.55) / 0.2) ** 2))
    return levelled((low * 0.7 + high * bright) * np.sin(np.pi * share) ** 2, 0.6)
