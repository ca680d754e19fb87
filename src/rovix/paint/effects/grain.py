"""Noise in grains, drawn from seeds so that it is the same everywhere."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from rovix.model.effects.grain import Grain
from rovix.motion.random import STEP, mixed
from rovix.motion.steps import EffectStep
from rovix.paint.cache import LayerPicture
from rovix.paint.effects.sight import Sight
from rovix.paint.effects.step_painter import StepPainter


def _grained(step: EffectStep[Grain], picture: LayerPicture, sight: Sight) -> LayerPicture:
    """Light and dark grains over what is there."""
    height, width = picture.pixels.shape[:2]
    noise = grain(
        step.draw, step.effect.size * step.scale * sight.scale, (picture.left, picture.top, width, height)
    )
    alpha = picture.pixels[..., 3:].astype(np.float32)
    added = picture.pixels[..., :3] + noise[..., None] * np.float32(step.effect.amount) * alpha
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


PAINTERS = (StepPainter(Grain, _grained),)
