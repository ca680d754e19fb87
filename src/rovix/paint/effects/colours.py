"""Hues turned, and colours laid over; the matrices of light."""

from __future__ import annotations

from math import cos, radians, sin

import cv2
import numpy as np
from numpy.typing import NDArray

from rovix.curve.transfer import light_to_srgb, srgb_to_light
from rovix.motion.steps import MixStep, TurnStep
from rovix.paint.cache import LayerPicture
from rovix.paint.effects.sight import Sight
from rovix.paint.effects.step_painter import StepPainter

Floats = NDArray[np.float32]
# The weights of red, green and blue in Filter Effects Level 1 (from memory): those of its luminance.
LIGHT = np.array([0.213, 0.715, 0.072])


def saturating(amount: float) -> NDArray[np.float32]:
    """(3, 3) on red, green, blue: feColorMatrix `saturate` of Filter Effects Level 1 (from memory)."""
    grey = np.broadcast_to(LIGHT, (3, 3))
    return (grey + amount * (np.eye(3) - grey)).astype(np.float32)


def turning(degrees: float) -> NDArray[np.float32]:
    """(3, 3) on red, green, blue: feColorMatrix `hueRotate` of Filter Effects Level 1 (from memory)."""
    cosine, sine = cos(radians(degrees)), sin(radians(degrees))
    grey = np.broadcast_to(LIGHT, (3, 3))
    sideways = np.array([[-0.213, -0.715, 0.928], [0.143, 0.140, -0.283], [-0.787, 0.715, 0.072]])
    return (grey + cosine * (np.eye(3) - grey) + sine * sideways).astype(np.float32)


def _laid_over(step: MixStep, picture: LayerPicture, _sight: Sight) -> LayerPicture:
    """A colour mixed into every px, which stays as opaque as it was."""
    pixels = picture.pixels
    alpha: Floats = pixels[..., 3:].astype(np.float32) / np.float32(255)
    over = np.array(step.colour[:3], dtype=np.float32) / 255
    own = pixels[..., :3].astype(np.float32) / np.float32(255)
    if step.linear:
        plain = np.divide(own, alpha, out=np.zeros_like(own), where=alpha > 0)
        mixed = srgb_to_light(plain) * (1 - step.share) + srgb_to_light(over) * step.share
        own = light_to_srgb(mixed).astype(np.float32) * alpha
    else:
        own = own * np.float32(1 - step.share) + over * alpha * np.float32(step.share)
    made = np.empty_like(pixels)
    made[..., :3] = np.clip(np.rint(own * 255), 0, pixels[..., 3:])
    made[..., 3] = pixels[..., 3]
    return LayerPicture(made, picture.left, picture.top)


def _turned(step: TurnStep, picture: LayerPicture, _sight: Sight) -> LayerPicture:
    """Hues turned; colours stay within how opaque they are."""
    pixels = picture.pixels
    rgb = cv2.transform(pixels[..., 2::-1].astype(np.float32), turning(step.degrees))
    made = np.empty_like(pixels)
    made[..., 2::-1] = np.clip(np.rint(rgb), 0, pixels[..., 3:])
    made[..., 3] = pixels[..., 3]
    return LayerPicture(made, picture.left, picture.top)


PAINTERS = (StepPainter(TurnStep, _turned), StepPainter(MixStep, _laid_over))
