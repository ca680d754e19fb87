"""Small pictures of a video here and there, to be shown for those that take long to decode."""

from __future__ import annotations

from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

Pixels = NDArray[np.uint8]
Size = tuple[int, int]
_APART = Fraction(1, 8)  # seconds
_WIDEST = 640  # px
_BYTES = 48 << 20
_FOREVER = 1 << 62


class Glimpses:
    """Pictures by the ticks at which they stand; those farthest from the last one added go first.

    None are kept before they are `wanted`. `shrunk` is the size that was asked for last.
    """

    def __init__(self) -> None:
        self.wanted = False
        self.shrunk: Size | None = None
        self._kept: dict[int, Pixels] = {}
        self._bytes = 0

    def __len__(self) -> int:
        return len(self._kept)

    def off(self, tick: int) -> int:
        """How many ticks off the nearest one is."""
        return min((abs(own - tick) for own in self._kept), default=_FOREVER)

    def nearest(self, tick: int) -> Pixels | None:
        """The one nearest to a tick; None where there is none."""
        near = min(self._kept, key=lambda own: abs(own - tick), default=None)
        return None if near is None else self._kept[near]

    def lacks(self, tick: int, base: Fraction) -> bool:
        """Whether one of there is wanted; a tick lasts `base` seconds."""
        return self.wanted and self.off(tick) * base >= _APART

    def size(self, whole: Size) -> Size:
        """How large one is of a picture of some size."""
        width, height = self.shrunk if self.shrunk is not None and self.shrunk[0] < whole[0] else whole
        scale = min(1.0, _WIDEST / width)
        return max(1, round(width * scale)), max(1, round(height * scale))

    def add(self, tick: int, pixels: Pixels) -> None:
        """Keep one."""
        self._kept[tick] = pixels
        self._bytes += pixels.nbytes
        while self._bytes > _BYTES and len(self._kept) > 1:
            farthest = max(self._kept, key=lambda own: abs(own - tick))
            self._bytes -= self._kept.pop(farthest).nbytes
