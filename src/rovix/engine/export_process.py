"""An export, or the estimate of one, in a process of its own, so that editing goes on."""

from __future__ import annotations

import os
from collections.abc import Callable
from dataclasses import dataclass
from multiprocessing.connection import Connection
from typing import Any

from rovix.engine.export_job import ExportJob
from rovix.errors import RovixError
from rovix.media.loudness import Loudness
from rovix.processes import started


@dataclass(frozen=True, slots=True)
class Progress:
    """Pictures written of all; at the end `finished`, with an `error` when it failed."""

    done: int
    total: int
    finished: bool = False
    error: str | None = None


class JobProcess:
    """Work on a job that goes on until it is done or told to stop."""

    def __init__(self, work: Callable[..., None], *arguments: Any) -> None:
        self._process, self.connection = started(work, *arguments)

    @property
    def is_alive(self) -> bool:
        return self._process.is_alive()

    def cancel(self) -> None:
        """Stop; what was under the final name before stays untouched."""
        try:
            self.connection.send("stop")
        except OSError:
            return

    def close(self) -> None:
        """Cancel if it still runs, and wait until it is gone."""
        self.cancel()
        self._process.join(10)
        if self._process.is_alive():
            self._process.kill()
            self._process.join()
        self._process.close()
        self.connection.close()


class ExportProcess(JobProcess):
    """Runs a job; poll :meth:`progress`, or :meth:`cancel` it."""

    def __init__(self, job: ExportJob, workers: int | None = None) -> None:
        super().__init__(_run, job, workers)
        self._last = Progress(0, job.span.length)

    def progress(self) -> Progress:
        """The newest state; never waits."""
        try:
            while not self._last.finished and self.connection.poll():
                self._last = self.connection.recv()
        except (EOFError, OSError):
            lost = "The export ended unexpectedly; nothing was written. Start it again."
            self._last = Progress(self._last.done, self._last.total, True, lost)
        return self._last


@dataclass(frozen=True, slots=True)
class Estimate:
    """About how many bytes a file will have, and how loud its sound is as it is; None until it is known."""

    size: int
    loudness: Loudness | None = None


class EstimateProcess(JobProcess):
    """Finds how large a job's file will be, and how loud; poll :meth:`found`."""

    def __init__(self, job: ExportJob) -> None:
        super().__init__(_estimate, job)
        self._found: Estimate | None = None

    def found(self) -> Estimate | None:
        """What is known; None until something is, and where the job cannot be done. Never waits."""
        try:
            while self.connection.poll():
                self._found = self.connection.recv()
        except (EOFError, OSError):
            return self._found
        return self._found


def _run(connection: Connection, job: ExportJob, workers: int | None) -> None:
    from rovix.engine.export import export  # the window's process never loads the encoder

    last: Any = Progress(0, job.span.length)

    def tell(done: int, total: int) -> None:
        nonlocal last
        if connection.poll():
            raise KeyboardInterrupt
        last = Progress(done, total)
        connection.send(last)

    try:
        export(job, workers, tell)
        last = Progress(job.span.length, job.span.length, True)
    except RovixError as wrong:
        last = Progress(last.done, last.total, True, str(wrong))
    except (KeyboardInterrupt, BrokenPipeError):
        last = Progress(last.done, last.total, True, "Stopped; nothing was written.")
    try:
        connection.send(last)
    except OSError:
        return  # the window is gone; there is no one to tell


def _estimate(connection: Connection, job: ExportJob) -> None:
    from rovix.engine.estimate import estimate  # the window's process never loads the encoder
    from rovix.engine.export_sound import loudness_of
    from rovix.media.encoders import encoder_for

    def check(done: int, total: int) -> None:
        if connection.poll():
            raise KeyboardInterrupt

    os.nice(10)  # the viewer goes first
    try:
        size = estimate(job, check)
        connection.send(Estimate(size))
        if encoder_for(job.out, job.how.codec).sound:
            connection.send(Estimate(size, loudness_of(job, lambda: check(0, 0))))
    except (RovixError, KeyboardInterrupt, OSError):
        return  # starting the export says what is wrong
