"""Costs of checks and of titles by the row, beside what they cannot do without, in one run."""

from __future__ import annotations

import resource
import tempfile
import time
from collections.abc import Callable
from itertools import islice
from pathlib import Path

import av
from measured import measured

from rovix.check.asked import Asked
from rovix.demo import DATA, DEMO_PROJECT
from rovix.engine.bulk import make_rows
from rovix.engine.checking import Gallery, checked
from rovix.engine.row_lanes import Row, row_project
from rovix.engine.titles import TitleShelf, title_for
from rovix.formats import read_project
from rovix.media.library import MediaLibrary
from rovix.model.delivery import Delivery
from rovix.model.title import Title
from rovix.motion import picture_plan
from rovix.paint.painter import Painter

_ROWS, _SIZE = 24, (640, 360)
_USED = (("hill-morning.mp4", 219), ("kite-crossing.mp4", 189))
"""The demo's footage, and how many frames of it are shown, joins counted twice."""


def main() -> None:
    """Print and keep each ratio."""
    _checks()
    _rows()


def _checks() -> None:
    project, gallery = read_project(DEMO_PROJECT), Gallery()
    checked(project, DATA, Asked(pictures=False, flashes=False), gallery=gallery)  # what is loaded once
    seconds, spent = _timed(lambda: checked(project, DATA, gallery=gallery))
    film = float(project.sequence.frame_rate.seconds(project.sequence.length))
    _, decoding = _timed(lambda: [_decoded(*used) for used in _USED])
    measured("checks of the demo, time over playing it", seconds / film, "x", 0.5)
    measured("checks of the demo, processor over decoding and scaling", spent / decoding, "x", 2.0)
    gallery.close()


def _decoded(name: str, frames: int) -> None:
    with av.open(str(DATA / name)) as video:
        for picture in islice(video.decode(video=0), frames):
            picture.reformat(width=960, height=540, format="bgra").to_ndarray()


def _rows() -> None:
    title = title_for(TitleShelf().named("Name on a line"), Path("/"))
    rows = [Row(n + 2, {"Name": f"Person {n}", "length": "2"}) for n in range(_ROWS)]
    with tempfile.TemporaryDirectory() as folder:
        how = Delivery(_SIZE, None, None)
        seconds, _ = _timed(lambda: make_rows(title, "T", rows, Path(folder), ".mp4", how, workers=1))
    alone, _ = _timed(lambda: [_drawn(title, row) for row in rows[:6]])
    measured("a row of a title over its pictures drawn", seconds / _ROWS / (alone / 6), "x")


def _drawn(title: Title, row: Row) -> None:
    project = row_project(title, row, _SIZE)
    painter = Painter(MediaLibrary(project, Path("/")))
    for frame in range(project.sequence.length):
        painter.paint(picture_plan(project, frame), _SIZE)


def _timed(work: Callable[[], object]) -> tuple[float, float]:
    """Seconds by the clock, and of all processors."""
    start, before = time.perf_counter(), _spent()
    work()
    return time.perf_counter() - start, _spent() - before


def _spent() -> float:
    used = resource.getrusage(resource.RUSAGE_SELF)
    return used.ru_utime + used.ru_stime


if __name__ == "__main__":
    main()
