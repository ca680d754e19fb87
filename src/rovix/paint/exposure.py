"""Motion blur: the mean of a layer's pictures at several moments."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil, floor

import cv2
import numpy as np
from numpy.typing import NDArray

from rovix.paint.cache import LayerPicture, around
from rovix.paint.region import Region, part_of

Floats = NDArray[np.float64]

Moment = tuple[LayerPicture, float]
"""A layer's picture at a moment, and its opacity then."""


@dataclass(frozen=True, slots=True, eq=False)
class Still:
    """What is to be seen at all moments outside of a region: a layer's picture, counted so many times."""

    picture: LayerPicture
    times: float
    outside: Region | None


_STEPS = 16  # points of a smear


def exposed(
    moments: Sequence[Moment | None],
    smear: tuple[float, float],
    size: tuple[int, int],
    still: Still | None = None,
) -> LayerPicture | None:
    """The mean of premultiplied pictures, those that show nothing counted; None when none shows any.

    Then smeared by px across and down, in a picture of `size`. Where something is `still`, moments are
    given of the region alone in which there is more to be seen.
    """
    seen = [moment for moment in moments if moment is not None]
    pictures = [picture for picture, _ in seen] + ([] if still is None else [still.picture])
    if not pictures:
        return None
    room = [ceil(abs(way) / 2) + 1 if any(smear) else 0 for way in smear]
    box = _around(pictures, room, size)
    total = np.zeros((box.height, box.width, 4), dtype=np.float32)
    if still is not None:
        _add(total, box, still.picture, still.times)
        common = still.outside and still.outside.common(box)
        if common is not None:
            part_of(total, box, common)[:] = 0
    for picture, opacity in seen:
        _add(total, box, picture, opacity)
    if any(smear):
        total = cv2.filter2D(total, -1, _kernel(smear), borderType=cv2.BORDER_REPLICATE)
    # Rounded and kept within 0..255; nothing of it is below 0.
    mean = cv2.convertScaleAbs(total, alpha=1 / len(moments))
    return LayerPicture(mean, box.left, box.top)


def _add(total: NDArray[np.float32], box: Region, picture: LayerPicture, times: float) -> None:
    """Add a picture so many times to what is summed up over a box."""
    height, width = picture.pixels.shape[:2]
    part = total[picture.top - box.top :, picture.left - box.left :][:height, :width]
    if times == 1:
        cv2.accumulate(picture.pixels, part)
    else:
        part += picture.pixels * np.float32(times)


def _around(pictures: list[LayerPicture], room: list[int], size: tuple[int, int]) -> Region:
    """The px of all pictures with some room, inside of the whole."""
    box = around(pictures)
    assert box is not None
    return Region(
        max(0, box.left - room[0]), max(0, box.top - room[1]),
        min(max(size[0], box.right), box.right + room[0]),
        min(max(size[1], box.bottom), box.bottom + room[1]),
    )  # fmt: skip


def _kernel(smear: tuple[float, float]) -> Floats:
    """A straight line about the middle, as long as the smear, each of its points shared by four px."""
    reach = max(1, *(ceil(abs(way) / 2) for way in smear))
    kernel = np.zeros((2 * reach + 3, 2 * reach + 3))
    for share in (np.arange(_STEPS) + 0.5) / _STEPS - 0.5:
        x, y = reach + 1 + share * smear[0], reach + 1 + share * smear[1]
        left, top = floor(x), floor(y)
        for row, down in ((top, 1 - (y - top)), (top + 1, y - top)):
            for column, across in ((left, 1 - (x - left)), (left + 1, x - left)):
                kernel[row, column] += down * across / _STEPS
    # Without empty rows and columns, which cost as much as full ones.
    rows, columns = (np.flatnonzero(kernel.sum(axis=axis) > 1e-9) for axis in (1, 0))
    middle = kernel.shape[0] // 2
    across, down = (int(np.abs(used - middle).max()) for used in (columns, rows))
    return kernel[middle - down : middle + down + 1, middle - across : middle + across + 1]
