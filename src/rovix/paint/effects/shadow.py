"""A soft shadow of a layer."""

from __future__ import annotations

from math import ceil

import cv2
import numpy as np

from rovix.model import bgra
from rovix.model.effects.shadow import Shadow
from rovix.motion.steps import EffectStep
from rovix.paint.blur import blur
from rovix.paint.cache import LayerPicture
from rovix.paint.effects.behind import alpha_with_room, with_behind
from rovix.paint.effects.sight import Sight
from rovix.paint.effects.step_painter import SIGMAS, StepPainter


def _shadowed(step: EffectStep[Shadow], picture: LayerPicture, sight: Sight) -> LayerPicture:
    """The picture with its soft shadow behind it."""
    shadow = step.effect
    sigma, x, y = (length * step.scale * sight.scale for length in (shadow.blur, shadow.x, shadow.y))
    across, down = ceil(SIGMAS * sigma + abs(x)) + 1, ceil(SIGMAS * sigma + abs(y)) + 1
    alpha = alpha_with_room(picture, across, down)
    moved = cv2.warpAffine(alpha, np.array([[1.0, 0.0, x], [0.0, 1.0, y]]), alpha.shape[::-1])
    shade = blur(moved, sigma, sigma)
    return with_behind(picture, shade, (across, down), bgra(shadow.colour), shadow.opacity)


def _room(step: EffectStep[Shadow], scale: float) -> tuple[int, int]:
    shadow = step.effect
    soft = SIGMAS * (shadow.blur * step.scale)
    x, y = (abs(length * step.scale) for length in (shadow.x, shadow.y))
    return ceil((soft + x) * scale), ceil((soft + y) * scale)


PAINTERS = (StepPainter(Shadow, _shadowed, _room),)
