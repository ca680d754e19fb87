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


def shrinking(sigma: float) -> int:
    """How many times as small something may be drawn that is then blurred by a sigma: its px do not show."""
    return max(1, int(min(sigma, _HUGE) / _SMALL))


def brought_up(small: Pixels, factor: int, corner: tuple[int, int], size: tuple[int, int]) -> Pixels:
    """(height, width[, channels]) float32: the px of `size` (width, height) from a corner on of a picture
    enlarged by a whole factor along straight lines; the corner counts in px of the enlarged one."""
    small = small.astype(np.float32)
    for axis, (start, count) in ((1, (corner[0], size[0])), (0, (corner[1], size[1]))):
        last = small.shape[axis] - 1
        at = np.clip((start + np.arange(count) + 0.5) / factor - 0.5, 0, last)
        low = np.minimum(at.astype(np.int64), max(0, last - 1))
        share = (at - low).astype(np.float32).reshape((-1,) + (1,) * (small.ndim - 1 - axis))
        before, after = small.take(low, axis), small.take(np.minimum(low + 1, last), axis)
        small = before + (after - before) * share
    return small


def _shrink(sigma: float) -> int:
    return max(1, int(sigma / _LEAST))


def _direct(array: Pixels, sigma_x: float, sigma_y: float) -> Pixels:
    size = tuple(2 * ceil(4 * sigma) + 1 if sigma > 0 else 1 for sigma in (sigma_x, sigma_y))
    kernels = [
        cv2.getGaussianKernel(n, max(sigma, 1e-6)) for n, sigma in zip(size, (sigma_x, sigma_y), strict=True)
    ]
    border = cv2.BORDER_CONSTANT
    return cv2.sepFilter2D(array, -1, kernels[0], kernels[1], borderType=border)


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
    # Averaging down and drawing up with straight lines blur a little too: variances add.
    left = [_remaining(sigma, factor) for sigma, factor in zip(sigmas, shrink, strict=True)]
    small = _direct(small.astype(np.float32), *left)
    large = cv2.resize(small, (across, down), interpolation=cv2.INTER_LINEAR)
    cut = large[margins[1] : margins[1] + height, margins[0] : margins[0] + width]
    if array.dtype == np.uint8:
        return cv2.convertScaleAbs(cut).reshape(array.shape)
    return cut.astype(array.dtype)


def _remaining(sigma: float, factor: int) -> float:
    """Sigma in px of the shrunk picture that, with shrinking and enlarging, makes up the whole."""
    if factor == 1:
        return sigma
    shrunk, enlarged = (factor**2 - 1) / 12, factor**2 / 6
    return sqrt(max(0.0, sigma**2 - shrunk - enlarged)) / factor
