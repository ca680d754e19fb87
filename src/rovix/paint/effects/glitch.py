"""Bands pushed aside, colours apart, drawn from seeds so that they are the same everywhere."""

from __future__ import annotations

from itertools import islice
from math import ceil

import cv2
import numpy as np
from numpy.typing import NDArray

from rovix.model.effects.glitch import Glitch
from rovix.motion.random import splitmix64
from rovix.motion.steps import EffectStep
from rovix.paint.cache import LayerPicture
from rovix.paint.effects.sight import Sight
from rovix.paint.effects.step_painter import StepPainter

Pixels = NDArray[np.uint8]
_WORD = float(1 << 64)


def _torn(step: EffectStep[Glitch], picture: LayerPicture, sight: Sight) -> LayerPicture:
    """Bands of rows pushed aside, then red and blue pulled apart."""
    glitch = step.effect
    shift, split = glitch.shift * step.scale, glitch.split * step.scale
    scale, height = sight.scale, sight.size[1]
    room = ceil((abs(shift) + abs(split)) * scale) + 1
    wide = np.pad(picture.pixels, ((0, 0), (room, room), (0, 0)))
    for top, bottom, share in bands_of(glitch.bands, step.draw):
        # Bands are shares of the whole picture's height, so they lie where they do at any size.
        first, last = (round(end * height) - picture.top for end in (top, bottom))
        first, last = max(0, first), min(wide.shape[0], last)
        if last > first and shift:
            wide[first:last] = _pushed(wide[first:last], share * shift * scale)
    if split:
        wide = _split(wide, split * scale)
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


def _room(step: EffectStep[Glitch], scale: float) -> tuple[int, int]:
    glitch = step.effect
    return ceil((abs(glitch.shift * step.scale) + abs(glitch.split * step.scale)) * scale) + 1, 0


PAINTERS = (StepPainter(Glitch, _torn, _room),)
