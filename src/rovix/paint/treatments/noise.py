"""Torn bands and grain, drawn from seeds so that they are the same everywhere."""

from __future__ import annotations

from itertools import islice
from math import ceil

import cv2
import numpy as np
from numpy.typing import NDArray

from rovix.motion.random import STEP, mixed, splitmix64
from rovix.motion.steps import GrainStep, TearStep
from rovix.paint.cache import LayerPicture
from rovix.paint.treatments.sight import Sight

Pixels = NDArray[np.uint8]
_WORD = float(1 << 64)


def torn(step: TearStep, picture: LayerPicture, sight: Sight) -> LayerPicture:
    """Bands of rows pushed aside, then red and blue pulled apart."""
    scale, height = sight.scale, sight.size[1]
    room = ceil((abs(step.shift) + abs(step.split)) * scale) + 1
    wide = np.pad(picture.pixels, ((0, 0), (room, room), (0, 0)))
    for top, bottom, share in bands_of(step.bands, step.draw):
        # Bands are shares of the whole picture's height, so they lie where they do at any size.
        first, last = (round(end * height) - picture.top for end in (top, bottom))
        first, last = max(0, first), min(wide.shape[0], last)
        if last > first and step.shift:
            wide[first:last] = _pushed(wide[first:last], share * step.shift * scale)
    if step.split:
        wide = _split(wide, step.split * scale)
    return LayerPicture(wide, picture.left - room, picture.top)


def bands_of(count: int, draw: int) -> list[tuple[float, float, float]]:
    """Top and bottom of each band as shares of the height, and how far it goes, -1 to 1."""
    numbers = [value / _WORD for value in islice(splitmix64(draw), 2 * count)]
    heights = np.array(numbers[:count]) + 0.15
    ends = np.concatenate([[0.0], np.cumsum(heights) / heights.sum()])
    ways = [2 * number - 1 for number in numbers[count:]]
    return list(zip(ends[:-1].tolist(), ends[1:].tolist(), ways, strict=True))


def _pushed(rows: Pixels, way: float) -> Pixels:
    matrix = np.array([[1.0, 0.0, way], [0.0, 1.0, 0.0]])
    return cv2.warpAffine(rows, matrix, rows.shape[1::-1], flags=cv2.INTER_LINEAR)


def _split(pixels: Pixels, way: float) -> Pixels:
    """Red to the right, blue to the left; as opaque as the most opaque of the three."""
    right, left = _pushed(pixels, way), _pushed(pixels, -way)
    made = pixels.copy()
    made[..., 2], made[..., 0] = right[..., 2], left[..., 0]
    made[..., 3] = np.maximum(np.maximum(right[..., 3], left[..., 3]), pixels[..., 3])
    return made


def grained(step: GrainStep, picture: LayerPicture, sight: Sight) -> LayerPicture:
    """Light and dark grains over what is there."""
    height, width = picture.pixels.shape[:2]
    noise = grain(step.draw, step.size * sight.scale, (picture.left, picture.top, width, height))
    alpha = picture.pixels[..., 3:].astype(np.float32)
    added = picture.pixels[..., :3] + noise[..., None] * np.float32(step.amount) * alpha
    made = picture.pixels.copy()
    made[..., :3] = np.clip(np.rint(added), 0, alpha)
    return LayerPicture(made, picture.left, picture.top)


def grain(draw: int, size: float, box: tuple[int, int, int, int]) -> NDArray[np.float32]:
    """(height, width) from -1 to 1, the same at each px of the picture whatever part is asked for.

    `box` is left, top, width, height.
    """
    left, top, width, height = box
    columns = np.floor((left + np.arange(width)) / size).astype(np.int64).astype(np.uint64)
    rows = np.floor((top + np.arange(height)) / size).astype(np.int64).astype(np.uint64)
    with np.errstate(over="ignore"):
        cells = rows[:, None] * np.uint64(STEP) + columns[None] * np.uint64(0xD1B54A32D192ED03)
        drawn = mixed(cells + np.uint64(draw & (2**64 - 1)))
    return (drawn >> np.uint64(40)).astype(np.float32) / np.float32(1 << 23) - np.float32(1.0)
