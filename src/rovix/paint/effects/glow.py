"""Light around a layer."""

from __future__ import annotations

from math import ceil

import cv2
import numpy as np

from rovix.model import bgra
from rovix.model.effects.glow import Glow
from rovix.motion.steps import EffectStep
from rovix.paint.blur import blur
from rovix.paint.cache import LayerPicture
from rovix.paint.effects.behind import alpha_with_room, with_behind
from rovix.paint.effects.sight import Sight
from rovix.paint.effects.step_painter import SIGMAS, StepPainter


def _glowing(step: EffectStep[Glow], picture: LayerPicture, sight: Sight) -> LayerPicture:
    """The picture with its own light behind it."""
    glow = step.effect
    sigma = glow.size * step.scale * sight.scale
    room = ceil(SIGMAS * sigma)
    light = blur(alpha_with_room(picture, room, room).astype(np.float32), sigma, sigma)
    shade = cv2.convertScaleAbs(light, alpha=glow.strength)
    return with_behind(picture, shade, (room, room), bgra(glow.colour), glow.opacity)


def _room(step: EffectStep[Glow], scale: float) -> tuple[int, int]:
    return (ceil(SIGMAS * (step.effect.size * step.scale) * scale),) * 2


PAINTERS = (StepPainter(Glow, _glowing, _room),)
