"""The sounds that come with Rovix for moves, made from noise and sines; 48 kHz, mono."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from rovix.media.samples import SAMPLE_RATE
from rovix.paint.noise import white_noise

Samples = NDArray[np.float64]


@lru_cache(maxsize=64)
def own_sound(name: str) -> NDArray[np.float32]:
    """(n, 2) float32 of a strike, full scale 1; KeyError for what there is none of."""
    return _stereo(_PIECE_SOUNDS[name]())


@lru_cache(maxsize=16)
def own_speed_sound(name: str, count: int) -> NDArray[np.float32]:
    """(count, 2): an even rush of so many samples; KeyError for what there is none of."""
    low, high, seed = {"rush": (350.0, 5200.0, 16), "rumble": (50.0, 420.0, 17)}[name]
    return _stereo(levelled(band(noise(seed, max(2, count)), low, high), 0.6)[:count])


def key_tap(seconds: float = 0.07) -> Samples:
    """A typewriter's key: a click and a short wooden body."""
    time = _time(seconds)
    click = band(noise(14, len(time)), 1800, 9000) * np.exp(-time / 0.004)
    body = np.sin(2 * np.pi * 310 * time) * np.exp(-time / 0.012) * 0.4
    return levelled(click + body, 0.5)


def thump(seconds: float = 0.45) -> Samples:
    """A soft low hit, its pitch falling."""
    time = _time(seconds)
    pitch = 48 + 90 * np.exp(-time / 0.05)
    tone = np.sin(2 * np.pi * np.cumsum(pitch) / SAMPLE_RATE) * np.exp(-time / 0.12)
    return levelled(tone + 0.1 * band(noise(15, len(time)), 100, 1500) * np.exp(-time / 0.02), 0.7)


def _tick() -> Samples:
    time = _time(0.04)
    return levelled(band(noise(18, len(time)), 3000, 12_000) * np.exp(-time / 0.008), 0.45)


def _knock() -> Samples:
    time = _time(0.16)
    body = sum(np.sin(2 * np.pi * pitch * time) / part for part, pitch in enumerate((420, 655, 1110), 1))
    return levelled(body * np.exp(-time / 0.022) + 0.2 * _burst(time, 0.003), 0.5)


def _drop() -> Samples:
    time = _time(0.14)
    pitch = 620 + 900 * (1 - np.exp(-time / 0.03))
    return levelled(np.sin(2 * np.pi * np.cumsum(pitch) / SAMPLE_RATE) * np.exp(-time / 0.03), 0.4)


def _burst(time: Samples, fall: float) -> Samples:
    return band(noise(19, len(time)), 800, 6000) * np.exp(-time / fall)


_PIECE_SOUNDS = {"key": key_tap, "tick": _tick, "knock": _knock, "drop": _drop, "thump": thump}


def _time(seconds: float) -> Samples:
    return np.arange(int(seconds * SAMPLE_RATE)) / SAMPLE_RATE


def noise(seed: int, count: int) -> Samples:
    """White noise in -1..1, the same on every machine."""
    return white_noise(seed, (count, 1))[0].astype(np.float64)


def band(samples: Samples, low: float, high: float) -> Samples:
    """Only what lies between two frequencies in Hz, with soft edges."""
    spectrum = np.fft.rfft(samples)
    pitch = np.fft.rfftfreq(len(samples), 1 / SAMPLE_RATE)
    share = 1 / (1 + (low / np.maximum(pitch, 1)) ** 4) / (1 + (pitch / high) ** 4)
    return np.fft.irfft(spectrum * share, len(samples))


def levelled(samples: Samples, peak: float) -> Samples:
    """Samples that reach a peak, their ends softened over 2 ms."""
    edge = np.minimum(np.arange(len(samples)), np.arange(len(samples))[::-1]) / (0.002 * SAMPLE_RATE)
    return samples / max(1e-9, np.max(np.abs(samples))) * peak * np.clip(edge, 0, 1)


def _stereo(samples: Samples) -> NDArray[np.float32]:
    made = np.repeat(samples.astype(np.float32)[:, None], 2, axis=1)
    made.setflags(write=False)
    return made
