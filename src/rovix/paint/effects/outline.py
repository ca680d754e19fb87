"""An outline round a layer."""

from __future__ import annotations

from math import ceil

import cv2
import numpy as np
from numpy.typing import NDArray

from rovix.model import bgra
from rovix.model.effects.outline import Outline
from rovix.motion.steps import EffectStep
from rovix.paint.cache import LayerPicture
from rovix.paint.effects.behind import alpha_with_room, with_behind
from rovix.paint.effects.sight import Sight
from rovix.paint.effects.step_painter import StepPainter

Mask = NDArray[np.uint8]


def _outlined(step: EffectStep[Outline], picture: LayerPicture, sight: Sight) -> LayerPicture:
    """The picture with an outline round it, behind it."""
    outline = step.effect
    width = outline.width * step.scale * sight.scale
    room = ceil(width) + 1
    shade = spread(alpha_with_room(picture, room, room), width)
    return with_behind(picture, shade, (room, room), bgra(outline.colour), outline.opacity)


def spread(alpha: Mask, width: float) -> Mask:
    """(height, width): all that lies within so many px of what is at least half opaque, smooth edged."""
    double = cv2.resize(alpha, None, fx=2, fy=2, interpolation=cv2.INTER_LINEAR)
    away = cv2.distanceTransform((double < 128).astype(np.uint8), cv2.DIST_L2, cv2.DIST_MASK_PRECISE)
    # The edge runs halfway between the last px inside and the first outside.
    cover = np.clip((2 * width + 1.0 - away), 0.0, 1.0)
    whole = cv2.resize(cover, alpha.shape[::-1], interpolation=cv2.INTER_AREA)
    return np.maximum(cv2.convertScaleAbs(whole, alpha=255), alpha)


def _room(step: EffectStep[Outline], scale: float) -> tuple[int, int]:
    return (ceil(step.effect.width * step.scale * scale) + 1,) * 2


PAINTERS = (StepPainter(Outline, _outlined, _room),)
