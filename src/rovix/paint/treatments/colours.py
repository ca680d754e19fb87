"""Saturation, levels, tint, turned hues."""

from __future__ import annotations

from math import cos, radians, sin

import cv2
import numpy as np
from numpy.typing import NDArray

from rovix.curve.transfer import light_to_srgb, srgb_to_light
from rovix.motion.steps import MixStep, ToneStep, TurnStep
from rovix.paint.cache import LayerPicture
from rovix.paint.treatments.sight import Sight

Floats = NDArray[np.float32]
# The weights of red, green and blue in Filter Effects Level 1 (from memory): those of its luminance.
_LIGHT = np.array([0.213, 0.715, 0.072])


def toned(step: ToneStep, picture: LayerPicture, _sight: Sight) -> LayerPicture:
    """Saturation, then levels, then tint, on colours that are not premultiplied."""
    alpha: Floats = picture.pixels[..., 3:].astype(np.float32) / np.float32(255)
    rgb: Floats = picture.pixels[..., 2::-1].astype(np.float32) / np.float32(255)
    rgb = np.divide(rgb, alpha, out=np.zeros_like(rgb), where=alpha > 0)
    if step.saturation != 1:
        rgb = cv2.transform(rgb, saturating(step.saturation))
    rgb = _levelled(np.clip(rgb, 0.0, 1.0), step)
    if step.tint > 0:
        light = cv2.transform(rgb, _LIGHT[None].astype(np.float32))[..., None]
        rgb = rgb + step.tint * (_tinted(light, step) - rgb)
    made = np.empty_like(picture.pixels)
    made[..., 2::-1] = np.clip(np.rint(np.clip(rgb, 0, 1) * alpha * 255), 0, 255)
    made[..., 3] = picture.pixels[..., 3]
    return LayerPicture(made, picture.left, picture.top)


def _levelled(rgb: Floats, step: ToneStep) -> Floats:
    """`black` becomes 0 and `white` 1; above 1 the gamma makes the middle lighter."""
    if (step.black, step.white, step.gamma) == (0, 1, 1):
        return rgb
    span = max(step.white - step.black, 1e-3)
    return np.clip((rgb - step.black) / span, 0.0, 1.0) ** np.float32(1 / step.gamma)


def _tinted(light: Floats, step: ToneStep) -> Floats:
    """The tint's colour at the light of each px: dark below its own light, towards white above."""
    colour = np.array(step.colour[2::-1], dtype=np.float32) / 255
    own = float(_LIGHT @ colour)
    dark = colour * (light / max(own, 1e-3))
    bright = colour + (1 - colour) * ((light - own) / max(1 - own, 1e-3))
    return np.where(light < own, dark, bright)


def saturating(amount: float) -> NDArray[np.float32]:
    """(3, 3) on red, green, blue: feColorMatrix `saturate` of Filter Effects Level 1 (from memory)."""
    grey = np.broadcast_to(_LIGHT, (3, 3))
    return (grey + amount * (np.eye(3) - grey)).astype(np.float32)


def turning(degrees: float) -> NDArray[np.float32]:
    """(3, 3) on red, green, blue: feColorMatrix `hueRotate` of Filter Effects Level 1 (from memory)."""
    cosine, sine = cos(radians(degrees)), sin(radians(degrees))
    grey = np.broadcast_to(_LIGHT, (3, 3))
    sideways = np.array([[-0.213, -0.715, 0.928], [0.143, 0.140, -0.283], [-0.787, 0.715, 0.072]])
    return (grey + cosine * (np.eye(3) - grey) + sine * sideways).astype(np.float32)


def laid_over(step: MixStep, picture: LayerPicture, _sight: Sight) -> LayerPicture:
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


def turned(step: TurnStep, picture: LayerPicture, _sight: Sight) -> LayerPicture:
    """Hues turned; colours stay within how opaque they are."""
    pixels = picture.pixels
    rgb = cv2.transform(pixels[..., 2::-1].astype(np.float32), turning(step.degrees))
    made = np.empty_like(pixels)
    made[..., 2::-1] = np.clip(np.rint(rgb), 0, pixels[..., 3:])
    made[..., 3] = pixels[..., 3]
    return LayerPicture(made, picture.left, picture.top)
