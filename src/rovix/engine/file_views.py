"""What files look and sound like, worked out: strips, waveforms, peak levels.

Each job is a plain function of plain data; a process of its own does them one after the other.
"""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from math import ceil
from multiprocessing.connection import Connection
from pathlib import Path
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from rovix.engine.ring import one_thread_each
from rovix.engine.thumbnails import PEAK_SAMPLES, STRIP_HEIGHT, STRIP_MOST, Job
from rovix.errors import RovixError
from rovix.media.library import MediaLibrary
from rovix.media.mix import Mixer
from rovix.media.samples import BLOCK, SAMPLE_RATE, Material
from rovix.media.sound import SoundFile
from rovix.media.stills import read_still
from rovix.media.video import VideoReader
from rovix.model import Project
from rovix.processes import Behind, give_way
from rovix.time import Span


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


def done(job: Job) -> Any:
    """What a job gives, or the sentence that says why it gives nothing."""
    name, arguments = job
    try:
        return _JOBS[name](*arguments)
    except RovixError as wrong:
        return str(wrong)
    except Exception as wrong:  # this process has no one to tell; the window can
        return f"{type(wrong).__name__}: {wrong}"


def work(connection: Connection) -> None:
    """Do what is asked until the pipe closes."""
    one_thread_each()
    give_way(Behind.FILES)
    try:
        while True:
            connection.send(done(connection.recv()))
    except (EOFError, OSError):
        pass
