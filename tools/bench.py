"""`make bench`: costs as ratios to a calibration kernel of the same run.

The kernel is a fixed piece of NumPy arithmetic; a machine twice as slow doubles both sides.
"""

from __future__ import annotations

import os
import statistics
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
from measured import KEPT, measured
from numpy.typing import NDArray

from rovix.demo import DEMO_PROJECT
from rovix.edit.shutter import change_shutter
from rovix.engine.open_project import OpenProject, open_project
from rovix.formats import read_project
from rovix.formats.project_file import parse_project, project_bytes
from rovix.media.encoders import encoder_for
from rovix.media.library import MediaLibrary
from rovix.model import Project
from rovix.motion import picture_plan
from rovix.paint.painter import Painter
from rovix.time import Span

FRAMES = (20, 110, 236, 300, 410)
EXPORTED = Span(0, 240)
RUN, FOLLOWED = 24, 192  # frames
ROUNDS = 5


def median_ms(work: Callable[[], object], runs: int = 7) -> float:
    work()
    times = []
    for _ in range(runs):
        start = time.perf_counter()
        work()
        times.append((time.perf_counter() - start) * 1000)
    return statistics.median(times)


def calibration() -> Callable[[], object]:
    block = np.linspace(0, 1, 1_000_000, dtype=np.float32)
    return lambda: np.sqrt(block * 1.5 + 0.25).sum()


def main() -> None:
    kernel = median_ms(calibration(), 15)
    KEPT.unlink(missing_ok=True)
    measured("calibration kernel (1,000,000 float32)", kernel, "ms")
    for size in ((1920, 1080), (960, 540)):
        _stages(size, kernel)
    _runs()
    _export(kernel)


def _runs() -> None:
    """Evaluating frames one by one, and 24 at a time as playing and exporting do, in turn."""
    demo = read_project(DEMO_PROJECT)
    for name, project, limit in (("the demo", demo, 1.2), ("with blur", change_shutter(demo, on=True), 3.0)):
        costs = [(_evaluated(project, 1), _evaluated(project, RUN)) for _ in range(3)]
        together = statistics.median(run for _, run in costs)
        measured(f"evaluating {name} in runs, a frame", together, "ms", limit)
        beside = statistics.median(run / alone for alone, run in costs)
        measured(f"evaluating {name} in runs, beside one by one", beside, "x", 0.3)
    print()


def _evaluated(project: Project, run: int) -> float:
    """ms a frame for the first 192 of a project that nothing is known of but its layouts."""
    project = parse_project(DEMO_PROJECT, project_bytes(project))
    for frame in range(0, FOLLOWED, 60):
        picture_plan(project, frame)
    start = time.perf_counter()
    for frame in range(FOLLOWED):
        picture_plan(project, frame, run=run - frame % run)
    return (time.perf_counter() - start) * 1000 / FOLLOWED


def _stages(size: tuple[int, int], kernel: float) -> None:
    print(f"one picture at {size[0]} x {size[1]}, median over frames {FRAMES}")
    with open_project(DEMO_PROJECT) as project:
        library = MediaLibrary(project.tree, project.base)
        painter = Painter(library)
        plans = [picture_plan(project.tree, frame) for frame in FRAMES]
        evaluate = [median_ms(lambda f=frame: picture_plan(project.tree, f)) for frame in FRAMES]
        draw = [median_ms(lambda p=plan: painter.paint(p, size)) for plan in plans]
        clip = iter(range(10_000))
        decode = median_ms(
            lambda: library.picture(
                "hill-morning", project.tree.sequence.frame_rate.seconds(next(clip) % 200)
            )
        )
        library.close()
    for name, cost in (
        ("evaluate", statistics.median(evaluate)),
        ("decode, in order", decode),
        ("paint", statistics.median(draw)),
    ):
        measured(f"{name} at {size[0]} x {size[1]}", cost, "ms")
        measured(f"{name} at {size[0]} x {size[1]}, beside the kernel", cost / kernel, "x")
    print()


def _export(kernel: float) -> None:
    """In turn drawn alone, encoded alone, and exported, as machines get slower and faster meanwhile."""
    with open_project(DEMO_PROJECT) as project, tempfile.TemporaryDirectory() as folder:
        rounds = [_round(project, Path(folder)) for _ in range(ROUNDS)]
    alone, beside_alone, beside_processor, first = (
        statistics.median(column) for column in zip(*rounds, strict=True)
    )
    print(f"{EXPORTED.length} pictures at 1920 x 1080")
    measured("encoding alone", alone, "ms")
    measured("encoding alone, beside the kernel", alone / kernel, "x")
    measured("whole export, beside encoding alone", beside_alone, "x")
    measured("whole export, beside its processor time over cores", beside_processor, "x", 1.2)
    measured("an export's first progress", first, "ms", 1000)


def _round(project: OpenProject, folder: Path) -> tuple[float, float, float, float]:
    """Encoding alone in ms, the whole as so many times that and as so many times the processor time of both
    alone over cores, and ms until it first said how far it is."""
    begun = time.process_time()
    pictures = [project.picture(frame) for frame in range(EXPORTED.start, EXPORTED.end)]
    start = time.perf_counter()
    _encode_alone(project, pictures, folder / "alone.mp4")
    alone, processor = time.perf_counter() - start, time.process_time() - begun
    pictures.clear()
    start = time.perf_counter()
    first = _exported(project, folder / "whole.mp4")
    whole = time.perf_counter() - start
    return alone * 1000, whole / alone, whole / (processor / (os.cpu_count() or 1)), first * 1000


def _encode_alone(project: OpenProject, pictures: list[NDArray[np.uint8]], path: Path) -> None:
    writer = encoder_for(path).quality().begin(path, (1920, 1080), project.tree.sequence.frame_rate, False)
    for pixels in pictures:
        writer.add_picture(pixels)
    writer.close()


def _exported(project: OpenProject, path: Path) -> float:
    """Export; after how many seconds it first said how far it is."""
    begun, told = time.perf_counter(), []

    def hear(done: int, total: int) -> None:
        if done and not told:
            told.append(time.perf_counter() - begun)

    project.export(path, EXPORTED, progress=hear)
    return told[0]


if __name__ == "__main__":
    main()
