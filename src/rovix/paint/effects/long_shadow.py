"""A solid shadow to the frame's edge."""

from __future__ import annotations

import numpy as np

from rovix.model import bgra
from rovix.model.effects.long_shadow import LongShadow
from rovix.motion.steps import EffectStep
from rovix.paint.cache import LayerPicture
from rovix.paint.effects.behind import with_behind
from rovix.paint.effects.sight import Sight
from rovix.paint.effects.step_painter import StepPainter
from rovix.paint.shades import sweep


def _shadowed(step: EffectStep[LongShadow], picture: LayerPicture, sight: Sight) -> LayerPicture:
    """The picture with its solid shadow behind it, as far as the picture goes."""
    shadow = step.effect
    whole = np.zeros(sight.size[::-1], dtype=np.uint8)
    height, width = picture.pixels.shape[:2]
    whole[picture.top : picture.top + height, picture.left : picture.left + width] = picture.pixels[..., 3]
    swept = sweep(whole, shadow.angle)
    return with_behind(picture, swept, (picture.left, picture.top), bgra(shadow.colour), shadow.opacity)


PAINTERS = (StepPainter(LongShadow, _shadowed),)
