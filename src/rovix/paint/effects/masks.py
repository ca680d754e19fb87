"""Edges: what polygons cover stays, softly or sharply."""

from __future__ import annotations

from math import ceil

import cv2
import numpy as np
import skia
from numpy.typing import NDArray

from rovix.motion.steps import MaskStep
from rovix.paint.blur import blur
from rovix.paint.cache import LayerPicture
from rovix.paint.canvas import Canvas
from rovix.paint.effects.sight import Sight
from rovix.paint.effects.step_painter import SIGMAS, StepPainter
from rovix.paint.shapes import polygon_path

Floats = NDArray[np.float64]
Mask = NDArray[np.uint8]
_WHITE = (255, 255, 255, 255)


def _masked(step: MaskStep, picture: LayerPicture, sight: Sight) -> LayerPicture | None:
    """The picture with what the step leaves of it; None where that is nothing."""
    if not step.polygons:
        return picture if step.hides else None
    mask = coverage(step.polygons, picture, sight.view, step.feather * sight.scale)
    return multiplied(picture, 255 - mask if step.hides else mask)


def coverage(polygons: tuple[Floats, ...], picture: LayerPicture, view: Floats, sigma: float) -> Mask:
    """(height, width): how much polygons in px of the frame cover each px of a picture, 0 to 255."""
    height, width = picture.pixels.shape[:2]
    room = ceil(SIGMAS * sigma)
    canvas = Canvas(width + 2 * room, height + 2 * room, picture.left - room, picture.top - room)
    path = skia.Path()
    for polygon in polygons:
        path.addPath(polygon_path(polygon))
    path.setFillType(skia.PathFillType.kWinding)
    canvas.draw_path(path, view, _WHITE)
    mask = np.ascontiguousarray(canvas.pixels[..., 3])
    if sigma > 0:
        mask = blur(mask, sigma, sigma)
    return mask[room : room + height, room : room + width]


def multiplied(picture: LayerPicture, mask: Mask) -> LayerPicture | None:
    """A picture as opaque as a mask says; None where nothing is left."""
    if not mask.any():
        return None
    if mask.min() == 255:
        return picture
    four = cv2.merge([mask] * 4)
    return LayerPicture(cv2.multiply(picture.pixels, four, scale=1 / 255), picture.left, picture.top)


def mixed_by(under: LayerPicture, over: LayerPicture, mask: Mask) -> LayerPicture:
    """One picture where a mask over it is 0, another of the same place where it is 255."""
    height, width = under.pixels.shape[:2]
    # Layers of one shape lie in one region; what one has beyond the other's counts for nothing.
    beside = np.zeros((height, width, 4), dtype=np.uint8)
    left, top = over.left - under.left, over.top - under.top
    part = over.pixels[max(0, -top) : max(0, height - top), max(0, -left) : max(0, width - left)]
    beside[max(0, top) :, max(0, left) :][: part.shape[0], : part.shape[1]] = part
    four = cv2.merge([mask] * 4)
    kept = cv2.multiply(under.pixels, 255 - four, scale=1 / 255)
    return LayerPicture(cv2.add(kept, cv2.multiply(beside, four, scale=1 / 255)), under.left, under.top)


PAINTERS = (StepPainter(MaskStep, _masked),)
