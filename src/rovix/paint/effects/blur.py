"""Blurs: across, down, along a way, and round a point."""

from __future__ import annotations

from math import ceil, hypot, radians

import cv2
import numpy as np
from numpy.typing import NDArray

from rovix.motion.steps import RoundStep, SoftStep
from rovix.paint.blur import blur
from rovix.paint.cache import LayerPicture
from rovix.paint.effects.sight import Sight
from rovix.paint.effects.step_painter import SIGMAS, StepPainter

Floats = NDArray[np.float64]
Pixels = NDArray[np.uint8]
_STEP = 2.0  # px that the farthest point goes between two copies of a smear
_MOST = 48


def _softened(step: SoftStep, picture: LayerPicture, sight: Sight) -> LayerPicture:
    """The picture blurred by Gaussians across, down and along an angle."""
    across, down, along = (sigma * sight.scale for sigma in (step.across, step.down, step.along))
    room = ceil(SIGMAS * (across + along)), ceil(SIGMAS * (down + along))
    wide = np.pad(picture.pixels, ((room[1],) * 2, (room[0],) * 2, (0, 0)))
    soft = blur(wide, across, down) if across or down else wide
    soft = blurred_along(soft, along, step.angle) if along else soft
    return LayerPicture(soft, picture.left - room[0], picture.top - room[1])


def blurred_along(pixels: Pixels, sigma: float, angle: float) -> Pixels:
    """Pixels blurred by a Gaussian along an angle in degrees clockwise from rightwards."""
    turn = angle % 180.0
    if min(turn, 180.0 - turn) < 1e-6:
        return blur(pixels, sigma, 0.0)
    if abs(turn - 90.0) < 1e-6:
        return blur(pixels, 0.0, sigma)
    height, width = pixels.shape[:2]
    side = ceil(hypot(width, height)) + 2
    level = cv2.getRotationMatrix2D((width / 2, height / 2), angle, 1.0)
    level[:, 2] += (side - width) / 2, (side - height) / 2
    turned = cv2.warpAffine(pixels, level, (side, side), flags=cv2.INTER_LINEAR)
    back = cv2.invertAffineTransform(level)
    return cv2.warpAffine(blur(turned, sigma, 0.0), back, (width, height), flags=cv2.INTER_LINEAR)


def _smeared(step: RoundStep, picture: LayerPicture, sight: Sight) -> LayerPicture:
    """The mean of copies turned about a point and scaled to and from it."""
    size = sight.size
    point = sight.view @ np.array([step.x, step.y, 1.0])
    x, y = float(point[0] / point[2]), float(point[1] / point[2])
    whole = np.zeros((size[1], size[0], 4), dtype=np.uint8)
    height, width = picture.pixels.shape[:2]
    whole[picture.top : picture.top + height, picture.left : picture.left + width] = picture.pixels
    corners = [(picture.left, picture.top), (picture.left + width, picture.top + height),
               (picture.left, picture.top + height), (picture.left + width, picture.top)]  # fmt: skip
    reach = max(hypot(cx - x, cy - y) for cx, cy in corners)
    count = min(_MOST, max(2, ceil(reach * (radians(abs(step.spin)) + step.zoom) / _STEP)))
    total = np.zeros(whole.shape, dtype=np.float32)
    for share in (np.arange(count) + 0.5) / count - 0.5:
        # OpenCV turns anticlockwise, we clockwise.
        matrix = cv2.getRotationMatrix2D((x, y), -step.spin * share, 1.0 + step.zoom * share)
        cv2.accumulate(cv2.warpAffine(whole, matrix, size, flags=cv2.INTER_LINEAR), total)
    return LayerPicture(cv2.convertScaleAbs(total, alpha=1 / count), 0, 0)


def _room(step: SoftStep, scale: float) -> tuple[int, int]:
    along = SIGMAS * step.along
    return ceil((SIGMAS * step.across + along) * scale), ceil((SIGMAS * step.down + along) * scale)


PAINTERS = (StepPainter(SoftStep, _softened, _room), StepPainter(RoundStep, _smeared))
