"""What files look and sound like, for the timeline and the bin: strips, waveforms, peak levels.

Each job is a plain function of plain data, done by one process of its own, one after the other, so
that the window never waits for a file.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable
from dataclasses import dataclass
from multiprocessing.connection import Connection
from multiprocessing.process import BaseProcess
from typing import Any, Protocol

from rovix.processes import started

STRIP_HEIGHT = 72
STRIP_MOST = 40
PEAK_SAMPLES = 480
"""Samples that one step of a waveform stands for: a hundredth of a second."""

Job = tuple[str, tuple[Any, ...]]


class ThumbnailMaker(Protocol):
    """What the window needs: answers come to `on_answer` by key, an array or why there is none."""

    on_answer: Callable[[Hashable, Any], None]
    on_watch: Callable[[Connection, bool], None] | None

    def ask(self, key: Hashable, job: Job) -> None: ...
    def receive(self) -> None: ...
    def rest(self) -> None: ...
    def close(self) -> None: ...


def _nobody(_key: Hashable, _answer: Any) -> None:
    """Stands in until someone listens."""


class LocalThumbnailMaker:
    """Does each job at once, in this process. For tests and tools."""

    def __init__(self) -> None:
        self.on_answer: Callable[[Hashable, Any], None] = _nobody
        self.on_watch: Callable[[Connection, bool], None] | None = None

    def ask(self, key: Hashable, job: Job) -> None:
        from rovix.engine.file_views import done  # which loads the codecs, as the window's process does not

        self.on_answer(key, done(job))

    def receive(self) -> None:
        """Nothing is ever under way."""

    def rest(self) -> None:
        """Nothing is ever kept."""

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

    def rest(self) -> None:
        """Let go of the process and all that it holds where it has nothing to do; the next job starts one."""
        if self._worker is not None and not self._busy and not self._waiting:
            self._end()

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
        process, ours = started("rovix.engine.file_views:work")
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
