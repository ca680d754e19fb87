"""A layer's blur: drawn with room around it, softened, and cut to the picture."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil

import cv2
import numpy as np
from numpy.typing import NDArray

from rovix.paint.blur import blur, brought_up, shrinking
from rovix.paint.cache import LayerPicture

Floats = NDArray[np.float64]
Pixels = NDArray[np.uint8]
_SIGMAS = 4


@dataclass(frozen=True, slots=True, eq=False)
class Softness:
    """Sigmas in px of the picture; `view` (3, 3) takes the frame to the picture with its room.

    What is very soft across and down is drawn a whole `factor` as small and brought up; sigmas and
    room are then px of the small one.
    """

    sigmas: tuple[float, float]
    room: tuple[int, int]
    view: Floats
    factor: int = 1

    @classmethod
    def of(cls, sigmas: tuple[float, float], view: Floats) -> Softness:
        """For sigmas in px of the frame; what lies outside of the picture blurs into it."""
        own = sigmas[0] * float(view[0, 0]), sigmas[1] * float(view[1, 1])
        factor = shrinking(min(own))
        own = own[0] / factor, own[1] / factor
        across, down = (ceil(_SIGMAS * sigma) for sigma in own)
        moved = np.array([[1 / factor, 0.0, across], [0.0, 1 / factor, down], [0.0, 0.0, 1.0]])
        return cls(own, (across, down), view if (across, down) == (0, 0) else moved @ view, factor)

    def widened(self, size: tuple[int, int]) -> tuple[int, int]:
        """The size of a picture with its room."""
        across, down = (ceil(side / self.factor) for side in size)
        return across + 2 * self.room[0], down + 2 * self.room[1]

    def soft(self, picture: LayerPicture, size: tuple[int, int]) -> LayerPicture:
        """The picture, drawn with its room, blurred and cut to a picture of `size`."""
        if self.room == (0, 0):
            return picture
        across, down = self.room
        wide = np.pad(picture.pixels, ((down, down), (across, across), (0, 0)))
        blurred = blur(wide, *self.sigmas)
        if self.factor > 1:
            return self._brought_up(blurred, (picture.left - 2 * across, picture.top - 2 * down), size)
        left, top = picture.left - 2 * across, picture.top - 2 * down
        inside = blurred[max(0, -top) : max(0, size[1] - top), max(0, -left) : max(0, size[0] - left)]
        return LayerPicture(np.ascontiguousarray(inside), max(0, left), max(0, top))

    def _brought_up(self, small: Pixels, place: tuple[int, int], size: tuple[int, int]) -> LayerPicture:
        """The part of a small blurred picture, which lies at a place of the small whole, that is inside."""
        spans = []
        for axis, side in enumerate(size):
            start = place[axis] * self.factor
            end = start + small.shape[1 - axis] * self.factor
            spans.append((min(side, max(0, start)), max(0, min(side, end))))
        (left, right), (top, bottom) = spans
        corner = left - place[0] * self.factor, top - place[1] * self.factor
        large = brought_up(small, self.factor, corner, (max(0, right - left), max(0, bottom - top)))
        return LayerPicture(cv2.convertScaleAbs(large).reshape(large.shape), left, top)
