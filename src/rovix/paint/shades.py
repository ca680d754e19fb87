"""Shadows and glows: how much of a body's light or dark falls on each px."""

from __future__ import annotations

from collections.abc import Callable
from math import ceil, cos, floor, radians, sin, sqrt

import cv2
import numpy as np
from numpy.typing import NDArray

from rovix.motion.plan import GlowPart, LongShadowPart, ShadowPart
from rovix.paint.blur import brought_up, sharpened, shrinking, soft_mask
from rovix.paint.body import SIGMAS, Body, grown
from rovix.paint.canvas import Canvas
from rovix.paint.region import Region, part_of

Mask = NDArray[np.uint8]
Floats = NDArray[np.float64]
_SOFT = 2.0  # px of sigma that a shade is left with where it is made small: within 2 of 255


def draw_shadow(canvas: Canvas, part: ShadowPart, body: Body) -> None:
    """The letters moved, grown and blurred, in one colour."""

    def shade(onto: Region, pieces: list[int], scale: float) -> Mask:
        return cv2.convertScaleAbs(
            _soft(onto, body, pieces, part.blur * scale, (part.x, part.y), part.spread)
        )

    _draw(canvas, part, body, shade)


def draw_glow(canvas: Canvas, part: GlowPart, body: Body) -> None:
    """The letters blurred, so many times as strong, in one colour."""

    def shade(onto: Region, pieces: list[int], scale: float) -> Mask:
        made = _soft(onto, body, pieces, part.size * scale, least=_SOFT * sqrt(max(1.0, part.strength)))
        return cv2.convertScaleAbs(made, alpha=part.strength)

    _draw(canvas, part, body, shade)


Shade = Callable[[Region, list[int], float], Mask]
"""What some pieces of about one scale cast, (height, width) over a region."""


def _draw(canvas: Canvas, part: ShadowPart | GlowPart, body: Body, shade: Shade) -> None:
    """Lay down what each group of pieces alike casts, one over the other, in one colour.

    Each is made where it reaches alone, and they are put together before they are laid: letters that
    come in one by one are nearly as many groups.
    """
    whole, groups = _region(canvas), body.alike(part.shares)
    if not groups:
        return
    if len(groups) == 1:
        # Nothing to put together, and rounded once less.
        scale, share, pieces = groups[0]
        made = shade(whole, pieces, scale)
        canvas.draw_shade(made, canvas.left, canvas.top, part.colour, part.opacity * share)
        return
    clear = np.ones((whole.height, whole.width), dtype=np.float32)
    for scale, share, pieces in groups:
        onto = _within(whole, body.cast(part, pieces))
        if onto is not None:
            cast = shade(onto, pieces, scale) * np.float32(-part.opacity * share / 255)
            part_of(clear, whole, onto)[:] *= 1 + cast
    together = cv2.convertScaleAbs(clear, alpha=-255, beta=255)
    canvas.draw_shade(together, canvas.left, canvas.top, part.colour)


def _within(whole: Region, boxes: Floats) -> Region | None:
    """The px of a region that boxes (n, 4) may touch."""
    left, top = (floor(value) - 1 for value in np.clip(boxes[:, :2].min(axis=0), -1e6, 1e6))
    right, bottom = (ceil(value) + 1 for value in np.clip(boxes[:, 2:].max(axis=0), -1e6, 1e6))
    return whole.common(Region(left, top, right, bottom))


def _soft(
    onto: Region,
    body: Body,
    pieces: list[int],
    sigma: float,
    shift: tuple[float, float] = (0.0, 0.0),
    spread: float = 0.0,
    least: float = _SOFT,
) -> NDArray[np.float32]:
    """(height, width) over a region: some letters, moved and grown, blurred; 0 to 255.

    What is soft is made small and brought up, of all sizes: near the viewer words, and so their shadows,
    grow without bound. Letters are drawn large enough for their edges to be drawn well all the same.
    """
    drawn = shrinking(sigma)
    averaged = shrinking(sigma / drawn, least)
    factor = drawn * averaged
    region = _in_steps(grown(_smaller(onto, drawn), SIGMAS * sigma / drawn), averaged)
    soft = soft_mask(body.mask(region, pieces, shift, spread, drawn), sharpened(sigma, factor), averaged)
    if factor == 1:
        return part_of(soft, region, onto)
    left, top = onto.left - region.left * drawn, onto.top - region.top * drawn
    return brought_up(soft, factor, (left, top), (onto.width, onto.height))


def _in_steps(region: Region, step: int) -> Region:
    """A region with a whole step more on each side, from step to step of the picture: what is averaged over
    them is then the same from frame to frame."""
    if step == 1:
        return region
    left, top = (region.left // step - 1) * step, (region.top // step - 1) * step
    return Region(left, top, (-(-region.right // step) + 1) * step, (-(-region.bottom // step) + 1) * step)


def _smaller(region: Region, factor: int) -> Region:
    """The px of a picture so many times as small that a region lies in."""
    if factor == 1:
        return region
    left, top = region.left // factor, region.top // factor
    return Region(left, top, -(-region.right // factor), -(-region.bottom // factor))


def draw_long_shadow(canvas: Canvas, part: LongShadowPart, body: Body, size: tuple[int, int]) -> None:
    """The letters swept in one direction to the frame's edge, in one colour."""
    corners = body.corners()
    corners = corners[np.isfinite(corners).all(axis=1)]
    if not len(corners):
        return
    region = _swept_region(canvas, corners, size)
    for share in np.unique(part.shares[body.pieces]).tolist():
        if share > 0:
            pieces = body.pieces[part.shares[body.pieces] == share].tolist()
            shade = part_of(sweep(body.mask(region, pieces), part.angle), region, _region(canvas))
            canvas.draw_shade(shade, canvas.left, canvas.top, part.colour, part.opacity * share)


def sweep(mask: Mask, angle: float) -> Mask:
    """(height, width): at each px the most that a mask has on the way back from it.

    `angle`, in degrees clockwise from rightwards, is the way that it is swept to the edge.
    """
    across, down = cos(radians(angle)), sin(radians(angle))
    if abs(down) > abs(across):
        return np.ascontiguousarray(_swept_across(np.ascontiguousarray(mask.T), down, across).T)
    return _swept_across(mask, across, down)


def _swept_across(mask: Mask, across: float, down: float) -> Mask:
    """Along rows after a shear that lays the way level, and sheared back."""
    if across < 0:
        return np.ascontiguousarray(
            _swept_across(np.ascontiguousarray(mask[:, ::-1]), -across, down)[:, ::-1]
        )
    height, width = mask.shape
    rise = down / across
    room = int(np.ceil(abs(rise) * width)) + 1
    top = room if rise > 0 else 0
    shear = np.array([[1.0, 0.0, 0.0], [-rise, 1.0, float(top)]])
    level = cv2.warpAffine(mask, shear, (width, height + room), flags=cv2.INTER_LINEAR)
    np.maximum.accumulate(level, axis=1, out=level)
    back = np.array([[1.0, 0.0, 0.0], [rise, 1.0, -float(top)]])
    return cv2.warpAffine(level, back, (width, height), flags=cv2.INTER_LINEAR)


def _swept_region(canvas: Canvas, corners: Floats, size: tuple[int, int]) -> Region:
    """The canvas and all letters that can cast into it, at most a picture's size off."""
    low, high = np.floor(corners.min(axis=0)), np.ceil(corners.max(axis=0))
    return Region(
        int(max(min(low[0], canvas.left), -size[0])),
        int(max(min(low[1], canvas.top), -size[1])),
        int(min(max(high[0], canvas.left + canvas.width), 2 * size[0])),
        int(min(max(high[1], canvas.top + canvas.height), 2 * size[1])),
    )


def _region(canvas: Canvas) -> Region:
    return Region(canvas.left, canvas.top, canvas.left + canvas.width, canvas.top + canvas.height)
