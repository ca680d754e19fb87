"""Glow, shadows and outlines of whatever a layer shows, from how opaque it is."""

from __future__ import annotations

from math import ceil

import cv2
import numpy as np
import skia
from numpy.typing import NDArray

from rovix.motion.steps import CastStep, HaloStep, LongCastStep, PaintStep, RimStep
from rovix.paint.blur import blur
from rovix.paint.cache import LayerPicture
from rovix.paint.canvas import Canvas
from rovix.paint.shades import sweep
from rovix.paint.shapes import draw_filled
from rovix.paint.treatments.masks import multiplied
from rovix.paint.treatments.sight import Sight

Floats = NDArray[np.float64]
Mask = NDArray[np.uint8]
Size = tuple[int, int]
Bgra = tuple[int, int, int, int]
_SIGMAS = 4
_FAR = 4000.0


def haloed(step: HaloStep, picture: LayerPicture, sight: Sight) -> LayerPicture:
    """The picture with its own light behind it."""
    sigma = step.size * sight.scale
    room = ceil(_SIGMAS * sigma)
    light = blur(_alpha(picture, room, room).astype(np.float32), sigma, sigma)
    shade = cv2.convertScaleAbs(light, alpha=step.strength)
    return _behind(picture, shade, (room, room), step.colour, step.opacity)


def cast(step: CastStep, picture: LayerPicture, sight: Sight) -> LayerPicture:
    """The picture with its soft shadow behind it."""
    sigma, x, y = step.blur * sight.scale, step.x * sight.scale, step.y * sight.scale
    across, down = ceil(_SIGMAS * sigma + abs(x)) + 1, ceil(_SIGMAS * sigma + abs(y)) + 1
    alpha = _alpha(picture, across, down)
    moved = cv2.warpAffine(alpha, np.array([[1.0, 0.0, x], [0.0, 1.0, y]]), alpha.shape[::-1])
    return _behind(picture, blur(moved, sigma, sigma), (across, down), step.colour, step.opacity)


def long_cast(step: LongCastStep, picture: LayerPicture, sight: Sight) -> LayerPicture:
    """The picture with its solid shadow behind it, as far as the picture goes."""
    whole = np.zeros(sight.size[::-1], dtype=np.uint8)
    height, width = picture.pixels.shape[:2]
    whole[picture.top : picture.top + height, picture.left : picture.left + width] = picture.pixels[..., 3]
    swept = sweep(whole, step.angle)
    return _behind(picture, swept, (picture.left, picture.top), step.colour, step.opacity)


def rimmed(step: RimStep, picture: LayerPicture, sight: Sight) -> LayerPicture:
    """The picture with an outline round it, behind it."""
    width = step.width * sight.scale
    room = ceil(width) + 1
    return _behind(
        picture, spread(_alpha(picture, room, room), width), (room, room), step.colour, step.opacity
    )


def spread(alpha: Mask, width: float) -> Mask:
    """(height, width): all that lies within so many px of what is at least half opaque, smooth edged."""
    double = cv2.resize(alpha, None, fx=2, fy=2, interpolation=cv2.INTER_LINEAR)
    away = cv2.distanceTransform((double < 128).astype(np.uint8), cv2.DIST_L2, cv2.DIST_MASK_PRECISE)
    # The edge runs halfway between the last px inside and the first outside.
    cover = np.clip((2 * width + 1.0 - away), 0.0, 1.0)
    whole = cv2.resize(cover, alpha.shape[::-1], interpolation=cv2.INTER_AREA)
    return np.maximum(cv2.convertScaleAbs(whole, alpha=255), alpha)


def repainted(step: PaintStep, picture: LayerPicture, sight: Sight) -> LayerPicture | None:
    """A paint as opaque as the picture."""
    height, width = picture.pixels.shape[:2]
    canvas = Canvas(width, height, picture.left, picture.top)
    left, top, right, bottom = step.box
    path = skia.Path()
    # Beyond the box the paint's ends go on, as far as any look reaches.
    path.addRect(skia.Rect.MakeLTRB(left - _FAR, top - _FAR, right + _FAR, bottom + _FAR))
    draw_filled(canvas, path, sight.view @ step.matrix, step.paint, step.box, 1.0)
    painted = LayerPicture(canvas.pixels, picture.left, picture.top)
    return multiplied(painted, np.ascontiguousarray(picture.pixels[..., 3]))


def _alpha(picture: LayerPicture, across: int, down: int) -> Mask:
    return np.pad(picture.pixels[..., 3], ((down, down), (across, across)))


def _behind(
    picture: LayerPicture,
    shade: Mask,
    room: tuple[int, int],
    colour: tuple[int, int, int, int],
    opacity: float,
) -> LayerPicture:
    """A colour as strong as a shade, which has so much room before the picture, and the picture on it."""
    left, top = picture.left - room[0], picture.top - room[1]
    canvas = Canvas(shade.shape[1], shade.shape[0], left, top)
    canvas.draw_shade(shade, left, top, colour, opacity)
    canvas.draw_pixels(picture.pixels, picture.left, picture.top)
    return LayerPicture(canvas.pixels, left, top)
