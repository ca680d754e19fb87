"""Two hours with 4,000 text clips: what a frame, opening, an edit, an undo, keeping it and scrubbing cost.

Each beside the same of the demo, or of the frame's own clips alone, in the same run; medians.
"""

from __future__ import annotations

import os
import random
import statistics
import tempfile
import time
from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
# Work that is left unsaved here is offered to nobody.
os.environ["XDG_STATE_HOME"] = tempfile.mkdtemp(prefix="rovix-bench-")

import msgspec
from event_loop import wait
from measured import measured

from rovix.desktop.app import make_application, make_window
from rovix.desktop.recovery import work_folder
from rovix.desktop.window import Window
from rovix.edit import change_transform
from rovix.formats import SUFFIX, read_project, write_project
from rovix.formats.whole_file import write_whole
from rovix.model import Project, Sequence, Text, TextClip, Track
from rovix.motion import picture_plan
from rovix.motion.ready_moves import READY_MOVES

HOURS, CLIPS, TRACKS, RATE = 2, 4000, 4, 30
LENGTH = HOURS * 3600 * RATE
ASKED = 40  # frames, and places that are gone to
EDITS, RUNS = 12, 5
SETTLING = 25_000  # ms in which what an open project is prepared for is done


def long_project(clips: int = CLIPS) -> Project:
    """Words with an entrance and an exit, spread evenly over two hours and four tracks."""
    each = clips // TRACKS
    apart = LENGTH // each
    tracks = tuple(
        Track(name=f"Text {row + 1}", clips=tuple(_words(row, place, apart) for place in range(each)))
        for row in range(TRACKS)
    )
    return Project(sequences=(Sequence(tracks=tracks),))


def _words(row: int, place: int, apart: int) -> TextClip:
    moves = (READY_MOVES["Pop"]("entrance"), READY_MOVES["Rise and fade"]("exit"))
    words = Text(content=f"Kite {row}.{place}", size=60.0)
    return TextClip(
        name=words.content, start=place * apart + row * 7, length=max(20, apart - 40), text=words, moves=moves
    )


def alone(project: Project, frame: int) -> Project:
    """What a frame shows, and nothing else."""
    sequence = project.sequence
    tracks = tuple(
        msgspec.structs.replace(track, clips=tuple(clip for clip in track.clips if frame in clip.span))
        for track in sequence.tracks
    )
    return msgspec.structs.replace(project, sequences=(msgspec.structs.replace(sequence, tracks=tracks),))


def main() -> None:
    long = long_project()
    with tempfile.TemporaryDirectory() as folder:
        _working(Path(folder), long)
        _opening(Path(folder))
    _planning(long)


def _planning(long: Project) -> None:
    chance = random.Random(4)
    ratios = []
    for _ in range(ASKED):
        frame = chance.randrange(LENGTH - 300)
        whole, few = [], []
        for _ in range(5):
            for project, times in ((long, whole), (alone(long, frame), few)):
                # Neighbours are asked first, as when it plays: what is laid out once stays.
                picture_plan(project, frame)
                times.append(_taken(lambda p=project, f=frame: [picture_plan(p, f + n) for n in range(1, 9)]))
        ratios.append(statistics.median(whole) / statistics.median(few))
    measured("planning a frame of 4,000 clips, beside its own alone", statistics.median(ratios), "x", 1.15)


def _opening(folder: Path) -> None:
    runs: dict[int, list[float]] = {1000: [], 20_000: []}
    for clips in runs:
        write_project(folder / f"{clips}.rovix", long_project(clips))
    for _ in range(RUNS):
        for clips, taken in runs.items():
            taken.append(_taken(lambda n=clips: read_project(folder / f"{n}.rovix")))
    times = {clips: statistics.median(taken) for clips, taken in runs.items()}
    measured("a clip of 20,000 read, beside one of 1,000", times[20_000] / 20 / times[1000], "x", 1.2)


def _working(folder: Path, long: Project) -> None:
    make_application()
    window = _shown()
    path = folder / "long.rovix"
    write_project(path, long)
    measured("two hours of 4,000 clips open", _opened(window, path) * 1000, "ms", 1500)
    beside = _shown()
    middle = long.sequence.tracks[1].clips[500]
    _choose(window, middle.id, middle.start + 30)
    _choose(beside, "title", 60)
    wait(SETTLING)
    for name, ratio in _costs(window, middle.id, beside, "title").items():
        measured(f"{name} in 4,000 clips, beside the demo's", ratio, "x", 1.2)
    measured("a place gone to in two hours, until its picture is there", _scrubbing(window), "ms", 80)
    for one in (window, beside):
        one.shut_down()


def _shown() -> Window:
    window = make_window()
    window.resize(1280, 800)
    window.show()
    wait(6000)
    return window


def _opened(window: Window, path: Path) -> float:
    """Seconds until the first picture of a project stands."""
    times = []
    for _ in range(3):
        window.files.open_demo()
        wait(2500)
        begun = time.perf_counter()
        window.files.open_path(path)
        while window.projector.picture is None:
            wait(0)
        times.append(time.perf_counter() - begun)
    return statistics.median(times)


def _choose(window: Window, clip: str, frame: int) -> None:
    window.document.select(clip)
    window.document.seek(frame)


def _costs(window: Window, clip: str, beside: Window, other: str) -> dict[str, float]:
    """What an edit, its undo and keeping unsaved work take of the window's thread, with all that it does
    about them until it rests, as a multiple of what they take in another window in turn."""
    taken: dict[str, tuple[list[float], list[float]]] = {}
    for number in range(2 * EDITS):
        turn = number % 2
        one, moved = (beside, other) if turn else (window, clip)
        for name, cost in _cost(one, moved, number).items():
            taken.setdefault(name, ([], []))[turn].append(cost)
    return {name: statistics.median(own) / statistics.median(its) for name, (own, its) in taken.items()}


def _cost(window: Window, clip: str, number: int) -> dict[str, float]:
    document = window.document
    move = partial(change_transform, identity=clip, frame=0, x=float(number + 1))
    return {
        "an edit": _settled(lambda: document.do("Move", move)),
        "keeping unsaved work, but for writing,": _taken(window.files.recovery.write) - _written(),
        "an undo": _settled(document.undo),
    }


def _written() -> float:
    """Seconds that writing the bytes of kept work takes."""
    (path,) = work_folder().glob(f"*{SUFFIX}")
    content = path.read_bytes()
    return _taken(lambda: write_whole(path.with_suffix(".again"), content))


def _settled(work: Callable[[], Any]) -> float:
    """Seconds of this thread until the loop is idle after some work; waiting for pictures does not count."""
    begun = time.thread_time()
    work()
    wait(120)
    return time.thread_time() - begun


def _scrubbing(window: Window) -> float:
    chance, times = random.Random(5), []
    for _ in range(ASKED):
        frame = chance.randrange(LENGTH - 300)
        begun = time.perf_counter()
        window.document.seek(frame)
        while (window.projector.picture is None or window.projector.picture.frame != frame) and (
            time.perf_counter() - begun < 5
        ):
            wait(0)
        times.append((time.perf_counter() - begun) * 1000)
        wait(60)
    return statistics.median(times)


def _taken(work: Callable[[], Any]) -> float:
    begun = time.perf_counter()
    work()
    return time.perf_counter() - begun


if __name__ == "__main__":
    main()
