"""The demo's sounds, made from noise and sines; 48 kHz."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from rovix.media import SAMPLE_RATE
from rovix.paint.grounds import white_noise

Samples = NDArray[np.float64]


def wind_bed(seconds: float = 13.0) -> Samples:
    """Low wind that swells slowly."""
    count = int(seconds * SAMPLE_RATE)
    noise = _band(_noise(11, count), 60, 700)
    time = np.arange(count) / SAMPLE_RATE
    swell = 0.6 + 0.25 * np.sin(2 * np.pi * time / 5.2) + 0.15 * np.sin(2 * np.pi * time / 2.3 + 1)
    return _levelled(noise * swell, 0.28)


def whoosh(seconds: float = 0.8) -> Samples:
    """A rush of air that rises and passes."""
    count = int(seconds * SAMPLE_RATE)
    share = np.arange(count) / count
    low, high = _band(_noise(12, count), 200, 900), _band(_noise(13, count), 900, 5200)
    bright = np.exp(-(((share - 0.55) / 0.2) ** 2))
    return _levelled((low * 0.7 + high * bright) * np.sin(np.pi * share) ** 2, 0.6)


def key_tap(seconds: float = 0.07) -> Samples:
    """A typewriter's key: a click and a short wooden body."""
    count = int(seconds * SAMPLE_RATE)
    time = np.arange(count) / SAMPLE_RATE
    click = _band(_noise(14, count), 1800, 9000) * np.exp(-time / 0.004)
    body = np.sin(2 * np.pi * 310 * time) * np.exp(-time / 0.012) * 0.4
    return _levelled(click + body, 0.5)


def thump(seconds: float = 0.45) -> Samples:
    """A soft low hit, its pitch falling."""
    count = int(seconds * SAMPLE_RATE)
    time = np.arange(count) / SAMPLE_RATE
    pitch = 48 + 90 * np.exp(-time / 0.05)
    tone = np.sin(2 * np.pi * np.cumsum(pitch) / SAMPLE_RATE) * np.exp(-time / 0.12)
    return _levelled(tone + 0.1 * _band(_noise(15, count), 100, 1500) * np.exp(-time / 0.02), 0.7)


def _noise(seed: int, count: int) -> Samples:
    return white_noise(seed, (count, 1))[0].astype(np.float64)


def _band(samples: Samples, low: float, high: float) -> Samples:
    """Only what lies between two frequencies in Hz, with soft edges."""
    spectrum = np.fft.rfft(samples)
    pitch = np.fft.rfftfreq(len(samples), 1 / SAMPLE_RATE)
    share = 1 / (1 + (low / np.maximum(pitch, 1)) ** 4) / (1 + (pitch / high) ** 4)
    return np.fft.irfft(spectrum * share, len(samples))


def _levelled(samples: Samples, peak: float) -> Samples:
    edge = np.minimum(np.arange(len(samples)), np.arange(len(samples))[::-1]) / (0.002 * SAMPLE_RATE)
    return samples / np.max(np.abs(samples)) * peak * np.clip(edge, 0, 1)
