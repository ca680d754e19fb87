"""What moves in a video, followed through all of it from one frame on, forwards and backwards."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray

from rovix.errors import RovixError
from rovix.media.probe import probe
from rovix.media.video import VideoReader
from rovix.vision.alignment import Freedom
from rovix.vision.region_tracker import Place, RegionTracker

Box = tuple[float, float, float, float]
Progress = Callable[[int, int], None]
_LEAST = 8.0  # px of a side in which there is anything to go by
_NONE = Freedom()
_HELD = 128 << 20  # bytes of pictures that are decoded before they are gone through backwards


@dataclass(frozen=True, slots=True)
class Region:
    """A box (x, y, width, height in px, from the left top corner) in a frame of a video; what it may do."""

    frame: int
    box: Box
    freedom: Freedom = _NONE


def follow(path: Path, region: Region, progress: Progress | None = None) -> list[Place]:
    """Where a region is in each frame of a video, from the first on.

    `progress` is called with (frames done, frames in all), and may raise to stop. RovixError for a file that
    is no video, a frame that it does not have, and a box that is outside of the picture or too small.
    """
    film = _Film(path)
    try:
        film.check(region)
        found: dict[int, Place] = {}
        tell = progress or (lambda done, total: None)
        for frames in (film.forwards(region.frame), film.backwards(region.frame)):
            _, first = next(frames)
            tracker = RegionTracker(first, region.box, region.freedom)
            found[region.frame] = _picked(region)
            for number, picture in frames:
                found[number] = tracker.follow(picture)
                tell(len(found), film.count)
        return [found[number] for number in range(film.count)]
    finally:
        film.close()


def _picked(region: Region) -> Place:
    x, y, width, height = region.box
    return Place(x + width / 2, y + height / 2, 1.0, 0.0, 1.0)


class _Film:
    """The frames of a video, (h, w) uint8 grey, with their numbers."""

    def __init__(self, path: Path) -> None:
        media = probe(path)
        if media.kind != "footage" or media.rate is None or not media.length:
            raise RovixError(f"{path.name} is no video; only what moves can be followed.")
        self._name = path.name
        self._rate = Fraction(media.rate)
        self.count = max(1, round(Fraction(media.length) * self._rate))
        self._size = media.width or 1, media.height or 1
        self._reader = VideoReader(path)

    def close(self) -> None:
        self._reader.close()

    def check(self, region: Region) -> None:
        """RovixError, with what would do, for a region that is none of this film's."""
        if not 0 <= region.frame < self.count:
            raise RovixError(f"{self._name} has frames 0 to {self.count - 1}, and no frame {region.frame}.")
        x, y, width, height = region.box
        if min(width, height) < _LEAST:
            raise RovixError(f"A region needs {_LEAST:g} px each way; {width:g} x {height:g} px are too few.")
        right, bottom = self._size
        if x < 0 or y < 0 or x + width > right or y + height > bottom:
            raise RovixError(f"The region goes beyond the picture, which has {right} x {bottom} px.")

    def forwards(self, first: int) -> Iterator[tuple[int, NDArray[np.uint8]]]:
        """From a frame to the last."""
        for number in range(first, self.count):
            yield number, self._grey(number)

    def backwards(self, last: int) -> Iterator[tuple[int, NDArray[np.uint8]]]:
        """From a frame to the first: some are decoded forwards, as videos are, then given the other way."""
        many = max(2, _HELD // (self._size[0] * self._size[1]))
        for end in range(last + 1, 0, -many):
            start = max(0, end - many)
            held = [self._grey(number) for number in range(start, end)]
            for number in range(end - 1, start - 1, -1):
                yield number, held[number - start]

    def _grey(self, number: int) -> NDArray[np.uint8]:
        picture = self._reader.picture(Fraction(number) / self._rate)
        made: NDArray[np.uint8] = cv2.cvtColor(picture, cv2.COLOR_BGRA2GRAY)
        return made
