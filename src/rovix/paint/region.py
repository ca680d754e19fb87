"""Which px a thing covers."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil, floor
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Array = TypeVar("Array", NDArray[np.uint8], NDArray[np.float32])
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

    def common(self, other: Region) -> Region | None:
        """The px that lie in both; None for none."""
        left, top = max(self.left, other.left), max(self.top, other.top)
        right, bottom = min(self.right, other.right), min(self.bottom, other.bottom)
        return Region(left, top, right, bottom) if left < right and top < bottom else None


def part_of(array: Array, whole: Region, part: Region) -> Array:
    """What of an array over a region lies in a part of it, not copied."""
    top, left = part.top - whole.top, part.left - whole.left
    return array[top : top + part.height, left : left + part.width]


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
