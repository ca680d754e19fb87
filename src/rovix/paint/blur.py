"""Gaussian blur across and down, each with its own sigma."""

from __future__ import annotations

from math import ceil, sqrt
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

Pixels = NDArray[Any]
_SMALL = 24.0  # px of sigma in a picture that is drawn small
_HUGE = 1e9
_MANY = 32  # times, up to which a whole picture is enlarged at once
_LEAST = 4.0  # px of sigma that the shrunk picture keeps, so that its px do not show


def blur(array: Pixels, sigma_x: float, sigma_y: float) -> Pixels:
    """The array (height, width[, channels]) blurred; what lies outside of it counts as 0.

    uint8 or float. Sigmas are px, 0 or more (ValueError else); 0 leaves that direction as it is, bit
    for bit. A large sigma is reached on a picture averaged down and brought up again: within 2 of
    255 of a true Gaussian.
    """
    if not (sigma_x >= 0 and sigma_y >= 0):
        raise ValueError(f"A sigma is 0 or more, not {sigma_x}, {sigma_y}.")
    if sigma_x == 0 and sigma_y == 0:
        return array.copy()
    across, down = _shrink(sigma_x), _shrink(sigma_y)
    if across == down == 1:
        return _direct(array, sigma_x, sigma_y)
    return _by_way_of_a_smaller(array, (sigma_x, sigma_y), (across, down))


def shrinking(sigma: float, least: float = _SMALL) -> int:
    """How many times as small something may be drawn that is then blurred by a sigma, of which at least so
    many px are to be left: brought up along straight lines again it is off by 8 of 255 over their square."""
    return max(1, int(min(sigma, _HUGE) / least))


def brought_up(small: Pixels, factor: int, corner: tuple[int, int], size: tuple[int, int]) -> Pixels:
    """(height, width[, channels]) float32: the px of `size` (width, height) from a corner on of a picture
    enlarged by a whole factor along straight lines; the corner counts in px of the enlarged one, and what
    is asked for lies within it."""
    if factor > _MANY:
        return _drawn_up(small.astype(np.float32), factor, corner, size)
    lows = [max(0, (2 * start + 1 - factor) // (2 * factor)) for start in corner]
    ends = [
        (2 * (start + count) - 1 - factor) // (2 * factor) + 2
        for start, count in zip(corner, size, strict=True)
    ]
    part = np.ascontiguousarray(small[lows[1] : ends[1], lows[0] : ends[0]], dtype=np.float32)
    large = cv2.resize(part, None, fx=factor, fy=factor, interpolation=cv2.INTER_LINEAR)
    left, top = (start - low * factor for start, low in zip(corner, lows, strict=True))
    return large[top : top + size[1], left : left + size[0]].reshape(size[1], size[0], *small.shape[2:])


def _drawn_up(small: Pixels, factor: int, corner: tuple[int, int], size: tuple[int, int]) -> Pixels:
    """The same for the px asked for alone, however much larger than the picture each small px becomes."""
    for axis, (start, count) in ((1, (corner[0], size[0])), (0, (corner[1], size[1]))):
        last = small.shape[axis] - 1
        at = np.clip((start + np.arange(count) + 0.5) / factor - 0.5, 0, last)
        low = np.minimum(at.astype(np.int64), max(0, last - 1))
        share = (at - low).astype(np.float32).reshape((-1,) + (1,) * (small.ndim - 1 - axis))
        before, after = small.take(low, axis), small.take(np.minimum(low + 1, last), axis)
        small = before + (after - before) * share
    return small


def soft_mask(mask: NDArray[np.uint8], sigma: float, shrink: int = 1) -> NDArray[np.float32]:
    """A mask averaged down so many times and blurred by px of what is left, not rounded; what lies outside
    of it counts as 0. Its sides are whole multiples of the shrinking."""
    if shrink > 1:
        height, width = (side // shrink for side in mask.shape)
        mask = cv2.resize(mask, (width, height), interpolation=cv2.INTER_AREA)
    return mask.astype(np.float32) if sigma == 0 else _direct(mask, sigma, sigma, cv2.CV_32F)


def sharpened(sigma: float, factor: int) -> float:
    """The sigma, in px of a picture so many times as small, that with averaging it down and bringing it up
    again makes up the whole: variances add."""
    if factor == 1:
        return sigma
    shrunk, enlarged = (factor**2 - 1) / 12, factor**2 / 6
    return sqrt(max(0.0, sigma**2 - shrunk - enlarged)) / factor


def _shrink(sigma: float) -> int:
    return max(1, int(sigma / _LEAST))


def _direct(array: Pixels, sigma_x: float, sigma_y: float, depth: int = -1) -> Pixels:
    size = tuple(2 * ceil(4 * sigma) + 1 if sigma > 0 else 1 for sigma in (sigma_x, sigma_y))
    kernels = [
        cv2.getGaussianKernel(n, max(sigma, 1e-6)) for n, sigma in zip(size, (sigma_x, sigma_y), strict=True)
    ]
    border = cv2.BORDER_CONSTANT
    return cv2.sepFilter2D(array, depth, kernels[0], kernels[1], borderType=border)


def _by_way_of_a_smaller(
    array: Pixels,
    sigmas: tuple[float, float],
    shrink: tuple[int, int],
) -> Pixels:
    height, width = array.shape[:2]
    margins = [ceil(3 * sigma) if factor > 1 else 0 for sigma, factor in zip(sigmas, shrink, strict=True)]
    across, down = (
        ceil((side + 2 * margin) / factor) * factor
        for side, margin, factor in zip((width, height), margins, shrink, strict=True)
    )
    right, bottom = across - width - margins[0], down - height - margins[1]
    padded = cv2.copyMakeBorder(array, margins[1], bottom, margins[0], right, cv2.BORDER_CONSTANT, value=0)
    small = cv2.resize(padded, (across // shrink[0], down // shrink[1]), interpolation=cv2.INTER_AREA)
    left = [sharpened(sigma, factor) for sigma, factor in zip(sigmas, shrink, strict=True)]
    small = _direct(small.astype(np.float32), left[0], left[1])
    large = cv2.resize(small, (across, down), interpolation=cv2.INTER_LINEAR)
    cut = large[margins[1] : margins[1] + height, margins[0] : margins[0] + width]
    if array.dtype == np.uint8:
        return cv2.convertScaleAbs(cut).reshape(array.shape)
    return cut.astype(array.dtype)
