"""The frames of a video, one after the other, forwards and backwards."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray

from rovix.errors import RovixError
from rovix.media.probe import probe
from rovix.media.video import VideoReader

Box = tuple[float, float, float, float]
Pixels = NDArray[np.uint8]
_LEAST = 8.0  # px of a side in which there is anything to go by
_HELD = 256 << 20  # bytes of pictures that are decoded before they are gone through backwards


class Film:
    """The frames of a video with their numbers: (h, w, 3) uint8 BGR, or grey (h, w)."""

    def __init__(self, path: Path, grey: bool = False) -> None:
        media = probe(path)
        if media.kind != "footage" or media.rate is None or not media.length:
            raise RovixError(f"{path.name} is no video, and nothing in it moves.")
        self._name, self._grey = path.name, grey
        self.rate = Fraction(media.rate)
        self.count = max(1, round(Fraction(media.length) * self.rate))
        self.size = media.width or 1, media.height or 1
        self._reader = VideoReader(path)

    def close(self) -> None:
        self._reader.close()

    def check(self, frame: int, box: Box | None) -> None:
        """RovixError, with what would do, for a frame or a box that is none of this film's."""
        if not 0 <= frame < self.count:
            raise RovixError(f"{self._name} has frames 0 to {self.count - 1}, and no frame {frame}.")
        if box is None:
            return
        x, y, width, height = box
        if min(width, height) < _LEAST:
            raise RovixError(f"A region needs {_LEAST:g} px each way; {width:g} x {height:g} px are too few.")
        right, bottom = self.size
        if x < 0 or y < 0 or x + width > right or y + height > bottom:
            raise RovixError(f"The region goes beyond the picture, which has {right} x {bottom} px.")

    def forwards(self, first: int, last: int | None = None) -> Iterator[tuple[int, Pixels]]:
        """From a frame to another, the film's last if none is said."""
        for number in range(first, self.count if last is None else last + 1):
            yield number, self._frame(number)

    def backwards(self, last: int, first: int = 0) -> Iterator[tuple[int, Pixels]]:
        """From a frame back to another: some are decoded forwards, as videos are, then given in reverse."""
        many = max(2, _HELD // (self.size[0] * self.size[1] * (1 if self._grey else 3)))
        for end in range(last + 1, first, -many):
            start = max(first, end - many)
            held = [self._frame(number) for number in range(start, end)]
            for number in range(end - 1, start - 1, -1):
                yield number, held[number - start]

    def _frame(self, number: int) -> Pixels:
        picture = self._reader.picture(Fraction(number) / self.rate)
        made: Pixels = cv2.cvtColor(picture, cv2.COLOR_BGRA2GRAY if self._grey else cv2.COLOR_BGRA2BGR)
        return made
