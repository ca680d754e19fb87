"""A thing cut out of a video: a grey video of where it is, losslessly coded."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import av
from av import VideoFrame

from rovix.engine.film import Box, Film
from rovix.errors import RovixError
from rovix.formats import replacing
from rovix.vision.subject_matte import Patch, SubjectMatte

Progress = Callable[[int, int], None]
MATTE_SUFFIX = ".mkv"


def write_matte(path: Path, frame: int, box: Box, out: Path, progress: Progress | None = None) -> None:
    """Cut what is in a box (x, y, width, height in px) of a frame out of every frame of a video, and write
    where it is as grey: FFV1 in Matroska, as large and as fast as the video, whole or not at all.

    `progress` is called with (frames done, frames in all), and may raise to stop. RovixError for a file that
    is no video, a frame or a box that it does not have, and a place that cannot be written to.
    """
    if out.suffix.lower() != MATTE_SUFFIX:
        raise RovixError(f"{out.name} should end in {MATTE_SUFFIX}.")
    film = Film(path)
    try:
        film.check(frame, box)
        patches = _followed(film, frame, box, progress or (lambda done, total: None))
        with replacing(out) as part:
            _write(part, film, patches)
    except OSError as wrong:
        raise RovixError(
            f"{out} could not be written: {wrong.strerror or wrong}. Take another place."
        ) from wrong
    finally:
        film.close()


def _followed(film: Film, frame: int, box: Box, tell: Progress) -> list[Patch]:
    """The matte in each frame of a film."""
    found: dict[int, Patch] = {}
    for frames in (film.forwards(frame), film.backwards(frame)):
        _, first = next(frames)
        matte = SubjectMatte(first, box)
        found[frame] = matte.picked
        for number, picture in frames:
            found[number] = matte.follow(picture)
            tell(len(found), film.count)
    return [found[number] for number in range(film.count)]


def _write(part: Path, film: Film, patches: list[Patch]) -> None:
    with av.open(str(part), "w", format="matroska") as container:
        stream = container.add_stream("ffv1", rate=film.rate)
        stream.width, stream.height, stream.pix_fmt = *film.size, "gray"
        for number, patch in enumerate(patches):
            frame = VideoFrame.from_ndarray(patch.laid_out(film.size), format="gray")
            frame.pts, frame.time_base = number, 1 / film.rate
            container.mux(stream.encode(frame))
        container.mux(stream.encode(None))
