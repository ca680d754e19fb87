"""Paper, grown from a seed."""

from __future__ import annotations

from functools import lru_cache

import cv2
import numpy as np
from numpy.typing import NDArray

from rovix.model import Paper, bgra
from rovix.paint.noise import white_noise

Pixels = NDArray[np.uint8]
Grain = NDArray[np.float32]


def paper_pixels(paper: Paper, size: tuple[int, int]) -> Pixels:
    """Opaque BGRA pixels (height, width, 4): fine grain, fibres and slow clouds around the colour."""
    return _pixels(paper.colour, paper.strength, paper.seed, size)


@lru_cache(maxsize=4)
def _pixels(colour: str, strength: float, seed: int, size: tuple[int, int]) -> Pixels:
    grain = 0.5 * _grain(seed, size) + 0.35 * _fibres(seed, size) + 0.4 * _clouds(seed, size)
    base = np.array(bgra(colour)[:3], dtype=np.float32)
    tinted = base + (grain * strength * 255)[..., None]
    pixels = np.full((size[1], size[0], 4), 255, dtype=np.uint8)
    pixels[..., :3] = np.clip(np.rint(tinted), 0, 255)
    pixels.setflags(write=False)
    return pixels


def _even(noise: Grain) -> Grain:
    return noise / max(1e-6, 3 * float(noise.std()))


def _grain(seed: int, size: tuple[int, int]) -> Grain:
    return _even(cv2.GaussianBlur(white_noise(seed, size), (0, 0), 0.8))


def _fibres(seed: int, size: tuple[int, int]) -> Grain:
    along = cv2.GaussianBlur(white_noise(seed + 1, size), (0, 0), sigmaX=9, sigmaY=0.7)
    across = cv2.GaussianBlur(white_noise(seed + 2, size), (0, 0), sigmaX=0.7, sigmaY=9)
    return _even(along + across)


def _clouds(seed: int, size: tuple[int, int]) -> Grain:
    small = white_noise(seed + 3, (max(2, size[0] // 96), max(2, size[1] // 96)))
    return _even(cv2.resize(small, size, interpolation=cv2.INTER_CUBIC))
