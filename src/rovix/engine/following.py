"""What moves in a video, followed through all of it from one frame on, forwards and backwards."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

from rovix.engine.film import Box, Film
from rovix.vision.alignment import Freedom
from rovix.vision.region_tracker import Place, RegionTracker

Progress = Callable[[int, int], None]
_NONE = Freedom()


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
    film = Film(path, grey=True)
    try:
        film.check(region.frame, region.box)
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
