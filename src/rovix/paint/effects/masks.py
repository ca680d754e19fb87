"""Edges: what polygons cover stays, softly or sharply."""

from __future__ import annotations

from collections.abc import Callable
from math import ceil

import cv2
import numpy as np
import skia
from numpy.typing import NDArray

from rovix.curve.transfer import LUMINANCE
from rovix.motion.steps import MaskPart, MasksStep, MaskStep
from rovix.paint.blur import blur
from rovix.paint.cache import LayerPicture
from rovix.paint.canvas import Canvas
from rovix.paint.effects.sight import Sight
from rovix.paint.effects.step_painter import SIGMAS, StepPainter
from rovix.paint.shapes import polygon_path

Floats = NDArray[np.float64]
Mask = NDArray[np.uint8]
LUMA = LUMINANCE.astype(np.float32)
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


def _masked_by_all(step: MasksStep, picture: LayerPicture, sight: Sight) -> LayerPicture | None:
    """The picture with what all parts leave of it together; None where that is nothing."""
    whole: NDArray[np.float32] | None = None
    for part in step.parts:
        own = _part_of(part, picture, sight)
        if whole is None:
            whole = 1 - own if part.joins == "subtract" else own
        else:
            whole = COMPOSITES[part.joins](whole, own)
    if whole is None:
        return picture
    return multiplied(picture, np.rint(whole * 255).astype(np.uint8))


def _part_of(part: MaskPart, picture: LayerPicture, sight: Sight) -> NDArray[np.float32]:
    """(height, width) from 0 to 1: how much of each px a part lets show."""
    if part.polygons:
        mask = coverage(part.polygons, picture, sight.view, part.feather * sight.scale)
        covered = mask.astype(np.float32) / np.float32(255)
    else:
        covered = np.zeros(picture.pixels.shape[:2], np.float32)
    # A weak mask takes less away: outside of it the rest of its strength still shows.
    shows = 1 - covered if part.hides else covered
    return 1 - np.float32(part.strength) * (1 - shows)


COMPOSITES: dict[str, Callable[[NDArray[np.float32], NDArray[np.float32]], NDArray[np.float32]]] = {
    "add": lambda below, own: own + below * (1 - own),
    "subtract": lambda below, own: below * (1 - own),
    "intersect": lambda below, own: below * own,
    "exclude": lambda below, own: below * (1 - own) + own * (1 - below),
}
"""The operators of Porter and Duff that CSS Masking Level 1 names: over, out, in, xor (from memory)."""


def multiplied(picture: LayerPicture, mask: Mask) -> LayerPicture | None:
    """A picture as opaque as a mask says; None where nothing is left."""
    if not mask.any():
        return None
    if mask.min() == 255:
        return picture
    four = cv2.merge([mask] * 4)
    return LayerPicture(cv2.multiply(picture.pixels, four, scale=1 / 255), picture.left, picture.top)


def shown_by(by: LayerPicture, strength: float, picture: LayerPicture, light: bool) -> Mask:
    """(height, width) of a picture: how opaque another one is over each px of it, or how light."""
    seen = by.pixels[..., 3].astype(np.float32)
    if light:
        # Premultiplied: what is clear is dark.
        seen = by.pixels[..., 2::-1].astype(np.float32) @ LUMA
    return _laid_in(np.rint(seen * strength).astype(np.uint8), by, picture)


def _laid_in(values: Mask, of: LayerPicture, picture: LayerPicture) -> Mask:
    """Values over one picture as they lie over another; 0 beside it."""
    height, width = picture.pixels.shape[:2]
    made = np.zeros((height, width), dtype=np.uint8)
    left, top = of.left - picture.left, of.top - picture.top
    part = values[max(0, -top) : max(0, height - top), max(0, -left) : max(0, width - left)]
    made[max(0, top) :, max(0, left) :][: part.shape[0], : part.shape[1]] = part
    return made


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


PAINTERS = (StepPainter(MaskStep, _masked), StepPainter(MasksStep, _masked_by_all))
