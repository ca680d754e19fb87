"""What moves in a video, followed through it from one frame on, forwards and backwards."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Literal

from rovix.engine.film import Box, Film, Pixels
from rovix.vision.alignment import Freedom
from rovix.vision.region_tracker import Place, RegionTracker

Progress = Callable[[int, int], None]
Way = Literal["both", "forwards", "backwards"]
_NONE = Freedom()
PATIENCE = 15
"""Frames in a row in which a region is not found, after which it is given up where someone can be asked."""


@dataclass(frozen=True, slots=True)
class Region:
    """A box (x, y, width, height in px, from the left top corner) in a frame of a video; what it may do.

    It is followed one `way` or both, from frame `first` to `last`, None being the video's last.
    """

    frame: int
    box: Box
    freedom: Freedom = _NONE
    way: Way = "both"
    first: int = 0
    last: int | None = None


def follow(path: Path, region: Region, progress: Progress | None = None) -> list[Place]:
    """Where a region is in each frame of a video, from the first on.

    `progress` is called with (frames done, frames in all), and may raise to stop. RovixError for a file that
    is no video, a frame that it does not have, and a box that is outside of the picture or too small.
    """
    found = followed(path, region, progress or (lambda done, total: None))
    return [found[number] for number in sorted(found)]


def followed(
    path: Path, region: Region, progress: Progress, part: Callable[[tuple[int, Place]], None] | None = None,
    patience: int | None = None,
) -> dict[int, Place]:  # fmt: skip
    """Where a region is, by the frame of the video; `part` gets each place when it is known.

    With a `patience` a way ends where the region is not found in so many frames in a row, and those are left
    out. Else as :func:`follow`.
    """
    film = Film(path, grey=True)
    try:
        film.check(region.frame, region.box)
        last = film.count - 1 if region.last is None else min(region.last, film.count - 1)
        first = min(region.first, region.frame)
        found = {region.frame: _picked(region)}
        # Each way begins with the picked frame itself.
        ways = {
            "forwards": film.forwards(region.frame, last), "backwards": film.backwards(region.frame, first),
        }  # fmt: skip
        total = 1 + (region.way != "backwards") * (last - region.frame)
        total += (region.way != "forwards") * (region.frame - first)
        for name, frames in ways.items():
            if region.way in ("both", name):
                for number, place in _along(frames, region, patience):
                    found[number] = place
                    if part is not None:
                        part((number, place))
                    progress(len(found), total)
        return found
    finally:
        film.close()


def follow_for_the_window(
    path: Path, region: Region, progress: Progress, part: Callable[..., None]
) -> dict[int, Place]:
    """What a job of the window does: it stops where the region is lost, as there is someone to ask."""
    return followed(path, region, progress, part, PATIENCE)


def _along(
    frames: Iterator[tuple[int, Pixels]], region: Region, patience: int | None
) -> Iterator[tuple[int, Place]]:
    """The places in frames that follow each other, those in which it is lost held back until it is found."""
    _, first = next(frames)
    tracker = RegionTracker(first, region.box, region.freedom)
    unsure: list[tuple[int, Place]] = []
    for number, picture in frames:
        place = tracker.follow(picture)
        unsure.append((number, place))
        if not place.is_lost or patience is None:
            yield from unsure
            unsure = []
        elif len(unsure) >= patience:
            return


def _picked(region: Region) -> Place:
    x, y, width, height = region.box
    return Place(x + width / 2, y + height / 2, 1.0, 0.0, 1.0)
