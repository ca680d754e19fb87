"""Which px a thing covers."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil, floor

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
_STEP = 8


@dataclass(frozen=True, slots=True)
class Region:
    """Whole px from (left, top) included to (right, bottom) not included."""

    left: int
    top: int
    right: int
    bottom: int

    @property
    def width(self) -> int:
        return self.right - self.left

    @property
    def height(self) -> int:
        return self.bottom - self.top


def region_of(points: Floats, size: tuple[int, int]) -> Region | None:
    """The px in a picture of `size` that the hull of points (n, 2) may touch, out to steps of 8.

    A point that is not finite (it lies behind the viewer) may be anywhere: the whole picture.
    None where nothing of it is inside.
    """
    if not len(points):
        return None
    if not np.all(np.isfinite(points)):
        return Region(0, 0, *size)
    low, high = points.min(axis=0) - 1, points.max(axis=0) + 1
    left, top = (max(0, floor(value / _STEP) * _STEP) for value in np.clip(low, -1e6, 1e6))
    right, bottom = (
        min(limit, ceil(value / _STEP) * _STEP)
        for value, limit in zip(np.clip(high, -1e6, 1e6), size, strict=True)
    )
    return Region(left, top, right, bottom) if left < right and top < bottom else None
