"""A layer's blur: drawn with room around it, softened, and cut to the picture."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil

import numpy as np
from numpy.typing import NDArray

from rovix.paint.blur import blur
from rovix.paint.cache import LayerPicture

Floats = NDArray[np.float64]
_SIGMAS = 4


@dataclass(frozen=True, slots=True, eq=False)
class Softness:
    """Sigmas in px of the picture; `view` (3, 3) takes the frame to the picture with its room."""

    sigmas: tuple[float, float]
    room: tuple[int, int]
    view: Floats

    @classmethod
    def of(cls, sigmas: tuple[float, float], view: Floats) -> Softness:
        """For sigmas in px of the frame; what lies outside of the picture blurs into it."""
        own = sigmas[0] * float(view[0, 0]), sigmas[1] * float(view[1, 1])
        across, down = (ceil(_SIGMAS * sigma) for sigma in own)
        moved = np.array([[1.0, 0.0, across], [0.0, 1.0, down], [0.0, 0.0, 1.0]])
        return cls(own, (across, down), view if (across, down) == (0, 0) else moved @ view)

    def widened(self, size: tuple[int, int]) -> tuple[int, int]:
        """The size of a picture with its room."""
        return size[0] + 2 * self.room[0], size[1] + 2 * self.room[1]

    def soft(self, picture: LayerPicture, size: tuple[int, int]) -> LayerPicture:
        """The picture, drawn with its room, blurred and cut to a picture of `size`."""
        if self.room == (0, 0):
            return picture
        across, down = self.room
        wide = np.pad(picture.pixels, ((down, down), (across, across), (0, 0)))
        blurred = blur(wide, *self.sigmas)
        left, top = picture.left - 2 * across, picture.top - 2 * down
        inside = blurred[max(0, -top) : max(0, size[1] - top), max(0, -left) : max(0, size[0] - left)]
        return LayerPicture(np.ascontiguousarray(inside), max(0, left), max(0, top))
