"""Saturation, levels and tint."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from rovix.model import bgra
from rovix.model.effects.tone import Tone
from rovix.motion.steps import EffectStep
from rovix.paint.cache import LayerPicture
from rovix.paint.effects.colours import LIGHT, saturating
from rovix.paint.effects.sight import Sight
from rovix.paint.effects.step_painter import StepPainter

Floats = NDArray[np.float32]


def _toned(step: EffectStep[Tone], picture: LayerPicture, _sight: Sight) -> LayerPicture:
    """Saturation, then levels, then tint, on colours that are not premultiplied."""
    tone = step.effect
    alpha: Floats = picture.pixels[..., 3:].astype(np.float32) / np.float32(255)
    rgb: Floats = picture.pixels[..., 2::-1].astype(np.float32) / np.float32(255)
    rgb = np.divide(rgb, alpha, out=np.zeros_like(rgb), where=alpha > 0)
    if tone.saturation != 1:
        rgb = cv2.transform(rgb, saturating(tone.saturation))
    rgb = _levelled(np.clip(rgb, 0.0, 1.0), tone)
    if tone.tint > 0:
        light = cv2.transform(rgb, LIGHT[None].astype(np.float32))[..., None]
        rgb = rgb + tone.tint * (_tinted(light, tone) - rgb)
    made = np.empty_like(picture.pixels)
    made[..., 2::-1] = np.clip(np.rint(np.clip(rgb, 0, 1) * alpha * 255), 0, 255)
    made[..., 3] = picture.pixels[..., 3]
    return LayerPicture(made, picture.left, picture.top)


def _levelled(rgb: Floats, tone: Tone) -> Floats:
    """`black` becomes 0 and `white` 1; above 1 the gamma makes the middle lighter."""
    if (tone.black, tone.white, tone.gamma) == (0, 1, 1):
        return rgb
    span = max(tone.white - tone.black, 1e-3)
    return np.clip((rgb - tone.black) / span, 0.0, 1.0) ** np.float32(1 / tone.gamma)


def _tinted(light: Floats, tone: Tone) -> Floats:
    """The tint's colour at the light of each px: dark below its own light, towards white above."""
    colour = np.array(bgra(tone.colour)[2::-1], dtype=np.float32) / 255
    own = float(LIGHT @ colour)
    dark = colour * (light / max(own, 1e-3))
    bright = colour + (1 - colour) * ((light - own) / max(1 - own, 1e-3))
    return np.where(light < own, dark, bright)


PAINTERS = (StepPainter(Tone, _toned),)
