"""What files look and sound like, for the timeline and the bin: strips, waveforms, peak levels.

Each job is a plain function of plain data, done by one process of its own, one after the other, so
that the window never waits for a file.
"""

from __future__ import annotations

import os
from collections import OrderedDict
from collections.abc import Callable, Hashable
from dataclasses import dataclass
from fractions import Fraction
from math import ceil
from multiprocessing.connection import Connection
from multiprocessing.process import BaseProcess
from pathlib import Path
from typing import Any, Protocol

import cv2
import numpy as np
from numpy.typing import NDArray

from rovix.engine.ring import one_thread_each
from rovix.errors import RovixError
from rovix.media import MediaLibrary, Mixer
from rovix.media.samples import BLOCK, SAMPLE_RATE, Material
from rovix.media.sound import SoundFile
from rovix.media.stills import read_still
from rovix.media.video import VideoReader
from rovix.model import Project
from rovix.processes import started
from rovix.time import Span

STRIP_HEIGHT = 72
STRIP_MOST = 40
PEAK_SAMPLES = 480
"""Samples that one step of a waveform stands for: a hundredth of a second."""

Job = tuple[str, tuple[Any, ...]]


def strip(path: Path, kind: str, length: float) -> NDArray[np.uint8]:
    """(n, STRIP_HEIGHT, w, 4) premultiplied BGRA: pictures evenly spread over a video, or the one still."""
    if kind == "still":
        return _small(read_still(path))[None]
    count = max(1, min(STRIP_MOST, ceil(length)))
    reader = VideoReader(path)
    try:
        times = (Fraction(length).limit_denominator(1000) * number / count for number in range(count))
        return np.stack([_small(reader.picture(time)) for time in times])
    finally:
        reader.close()


def _small(pixels: NDArray[np.uint8]) -> NDArray[np.uint8]:
    height, width = pixels.shape[:2]
    across = min(STRIP_HEIGHT * 6, max(1, round(STRIP_HEIGHT * width / height)))
    return cv2.resize(pixels, (across, STRIP_HEIGHT), interpolation=cv2.INTER_AREA)


def waveform(path: Path) -> NDArray[np.float32]:
    """(n, 2): the lowest and highest sample of both sides in each hundredth of a second."""
    file = SoundFile(path)
    count, step = max(1, ceil(len(file) / PEAK_SAMPLES)), BLOCK // PEAK_SAMPLES
    found = np.zeros((count, 2), dtype=np.float32)
    try:
        for first in range(0, count, step):
            last = min(count, first + step)
            steps = file.read(first * PEAK_SAMPLES, last * PEAK_SAMPLES).reshape(last - first, -1)
            found[first:last] = np.stack([steps.min(axis=1), steps.max(axis=1)], axis=1)
    finally:
        file.close()
    return found


def levels(project: Project, base: Path) -> NDArray[np.float32]:
    """(frames, 2): the highest sample, left and right, of each frame of the first sequence's mix.

    1 is full scale; files that cannot be read are silent.
    """
    library = MediaLibrary(project, base)

    def sound_of(identity: str) -> Material | None:
        try:
            return library.sound(identity)
        except RovixError:
            return None

    sequence = project.sequence
    mixer, rate = Mixer(sequence, sound_of, project.sequences), sequence.frame_rate
    found = np.zeros((sequence.length, 2), dtype=np.float32)
    step = max(1, rate.nominal * 4)
    for start in range(0, sequence.length, step):
        end = min(sequence.length, start + step)
        samples = np.abs(mixer.mix(Span(start, end)))
        edges = [round(float(rate.seconds(f - start)) * SAMPLE_RATE) for f in range(start, end)]
        if len(samples):
            found[start:end] = np.maximum.reduceat(samples, edges, axis=0)
    library.close()
    return found


_JOBS: dict[str, Callable[..., Any]] = {"strip": strip, "waveform": waveform, "levels": levels}


def _done(job: Job) -> Any:
    """What a job gives, or the sentence that says why it gives nothing."""
    name, arguments = job
    try:
        return _JOBS[name](*arguments)
    except RovixError as wrong:
        return str(wrong)
    except Exception as wrong:  # this process has no one to tell; the window can
        return f"{type(wrong).__name__}: {wrong}"


class ThumbnailMaker(Protocol):
    """What the window needs: answers come to `on_answer` by key, an array or why there is none."""

    on_answer: Callable[[Hashable, Any], None]
    on_watch: Callable[[Connection, bool], None] | None

    def ask(self, key: Hashable, job: Job) -> None: ...
    def receive(self) -> None: ...
    def close(self) -> None: ...


def _nobody(_key: Hashable, _answer: Any) -> None:
    """Stands in until someone listens."""


class LocalThumbnailMaker:
    """Does each job at once, in this process. For tests and tools."""

    def __init__(self) -> None:
        self.on_answer: Callable[[Hashable, Any], None] = _nobody
        self.on_watch: Callable[[Connection, bool], None] | None = None

    def ask(self, key: Hashable, job: Job) -> None:
        self.on_answer(key, _done(job))

    def receive(self) -> None:
        """Nothing is ever under way."""

    def close(self) -> None:
        """There is nothing to end."""


@dataclass(eq=False)
class _Worker:
    process: BaseProcess
    connection: Connection


class ThumbnailProcess:
    """Does the jobs in one process, started at the first; a later job of the same key replaces one
    that still waits. A process that dies is started anew for the next job."""

    def __init__(self) -> None:
        self.on_answer: Callable[[Hashable, Any], None] = _nobody
        self.on_watch: Callable[[Connection, bool], None] | None = None
        self._waiting: OrderedDict[Hashable, Job] = OrderedDict()
        self._under_way: Hashable | None = None
        self._worker: _Worker | None = None
        self._busy = False

    @property
    def process(self) -> BaseProcess | None:
        return self._worker.process if self._worker else None

    def ask(self, key: Hashable, job: Job) -> None:
        """Have a job done; its answer comes by :meth:`receive`."""
        self._waiting[key] = job
        self._next()

    def receive(self) -> None:
        """Take the answer that has come, and go on with the next job."""
        worker = self._worker
        if worker is None:
            return
        key, answer = self._under_way, None
        try:
            if not worker.connection.poll():
                return
            answer = worker.connection.recv()
        except (EOFError, OSError):
            answer = "The process that read it ended."
            self._end()
        was_busy, self._busy, self._under_way = self._busy, False, None
        if was_busy:
            self.on_answer(key, answer)
        self._next()

    def close(self) -> None:
        """End the process, whatever it does."""
        self._waiting.clear()
        if self._worker is not None:
            self._end()

    def _next(self) -> None:
        if self._busy or not self._waiting:
            return
        if self._worker is None:
            self._worker = self._started()
        key, job = self._waiting.popitem(last=False)
        self._under_way, self._busy = key, True
        try:
            self._worker.connection.send(job)
        except OSError:
            # It died; its pipe says so next, and the job counts as failed.
            return

    def _started(self) -> _Worker:
        process, ours = started(_work)
        if self.on_watch is not None:
            self.on_watch(ours, True)
        return _Worker(process, ours)

    def _end(self) -> None:
        worker, self._worker = self._worker, None
        assert worker is not None
        if self.on_watch is not None:
            self.on_watch(worker.connection, False)
        worker.connection.close()
        worker.process.kill()
        worker.process.join()
        worker.process.close()


def _work(connection: Connection) -> None:
    """Do what is asked until the pipe closes."""
    one_thread_each()
    os.nice(5)
    try:
        while True:
            connection.send(_done(connection.recv()))
    except (EOFError, OSError):
        pass
