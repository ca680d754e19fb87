"""Colours, and lights, made clear."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from rovix.model import bgra
from rovix.model.effects.colour_key import ColourKey
from rovix.model.effects.light_key import LightKey
from rovix.motion.steps import EffectStep
from rovix.paint.cache import LayerPicture
from rovix.paint.effects.masks import LUMA
from rovix.paint.effects.sight import Sight
from rovix.paint.effects.step_painter import StepPainter

Floats = NDArray[np.float32]


TO_LIGHT_AND_HUE = np.stack(
    [LUMA, (np.array([0, 0, 1]) - LUMA) / 1.8556, (np.array([1, 0, 0]) - LUMA) / 1.5748]
)
"""(3, 3): of red, green and blue from 0 to 1, luma, and blue's and red's differences from it, each from -0.5
to 0.5 (ITU-R BT.709-6, items 3.2 and 3.3)."""
# Px come as blue, green, red from 0 to 255, so that nothing is turned round on the way.
_THERE = TO_LIGHT_AND_HUE[:, ::-1] / 255
_BACK = np.linalg.inv(TO_LIGHT_AND_HUE)[::-1] * 255


def _colour_keyed(step: EffectStep[ColourKey], picture: LayerPicture, _sight: Sight) -> LayerPicture:
    key = step.effect
    bgr, alpha = _straight(picture)
    own = TO_LIGHT_AND_HUE @ np.array(bgra(key.colour)[2::-1], dtype=np.float64) / 255
    light, blue, red = cv2.split(cv2.transform(bgr, _THERE))
    away = cv2.magnitude(blue - np.float32(own[1]), red - np.float32(own[2]))
    stays = np.clip((away - np.float32(key.tolerance)) / np.float32(key.softness), 0.0, 1.0)
    if key.hides:
        stays = 1 - stays
    elif key.spill > 0:
        bgr = _without_spill((light, blue, red), own[1:], key.spill)
    return _made(picture, bgr, alpha * stays)


def _without_spill(parts: tuple[Floats, Floats, Floats], own: NDArray[np.float64], spill: float) -> Floats:
    """Colours (h, w, 3) with a share of what they have of a hue taken out; their luma stays."""
    light, blue, red = parts
    size = float(np.hypot(*own))
    across, down = (own / size if size > 1e-3 else own * 0).astype(np.float32)  # a grey has no hue
    along = np.maximum(0.0, blue * across + red * down) * np.float32(spill)
    made: Floats = cv2.transform(cv2.merge([light, blue - along * across, red - along * down]), _BACK)
    return made


def _light_keyed(step: EffectStep[LightKey], picture: LayerPicture, _sight: Sight) -> LayerPicture:
    key = step.effect
    bgr, alpha = _straight(picture)
    luma = cv2.transform(bgr, _THERE[:1])
    over = np.float32(1 - key.threshold) - luma if key.bright else luma - np.float32(key.threshold)
    return _made(picture, bgr, alpha * np.clip(over / np.float32(key.softness), 0.0, 1.0))


def _straight(picture: LayerPicture) -> tuple[Floats, Floats]:
    """Colours (h, w, 3) that are not premultiplied, as blue, green, red from 0 to 255, and alpha (h, w) from
    0 to 1."""
    bgr: Floats = cv2.cvtColor(picture.pixels, cv2.COLOR_BGRA2BGR).astype(np.float32)
    alpha = cv2.extractChannel(picture.pixels, 3)
    if picture.opaque or alpha.min() == 255:
        return bgr, np.ones(alpha.shape, np.float32)
    shares: Floats = alpha.astype(np.float32) / np.float32(255)
    return cv2.divide(bgr, cv2.merge([shares] * 3)), shares  # what is divided by 0 becomes 0


def _made(picture: LayerPicture, bgr: Floats, alpha: Floats) -> LayerPicture:
    """Colours and alpha as a picture, rounded and held within what there is."""
    within = np.clip(bgr, 0.0, 255.0)
    colours = cv2.multiply(within, cv2.merge([alpha] * 3), dtype=cv2.CV_8U)
    clear = cv2.multiply(alpha, 255.0, dtype=cv2.CV_8U)
    return LayerPicture(cv2.merge([*cv2.split(colours), clear]), picture.left, picture.top)


PAINTERS = (StepPainter(ColourKey, _colour_keyed), StepPainter(LightKey, _light_keyed))
