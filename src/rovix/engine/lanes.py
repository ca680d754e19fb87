"""Processes of this machine that take ranges of an export, each one after another."""

from __future__ import annotations

import os
from collections import deque
from collections.abc import Callable, Iterable
from dataclasses import dataclass, field
from multiprocessing.connection import Connection, wait
from multiprocessing.process import BaseProcess
from typing import Any

import av

from rovix.engine.crew import Lost
from rovix.engine.export_job import ExportJob
from rovix.engine.ranges import CrewDrawing, Drawing, Range, write_range
from rovix.engine.ring import one_thread_each
from rovix.engine.standing_still import LOOK, Stillness
from rovix.errors import RovixError
from rovix.processes import started

Done = Callable[[int], None]
_TRIES = 3
"""How often a range is begun before it is given up: a process may be killed for want of memory."""
_PATIENCE = 10.0
_LOST = (
    "A process that exports ended or stood still, {tries} times at frames {first} to {last}. Start it again."
)


@dataclass(slots=True)
class _Lane:
    """A process, what it is at, and how far; `still` watches it and those that draw for it."""

    process: BaseProcess
    connection: Connection
    still: Stillness
    at: Range | None = None
    done: int = 0


@dataclass(slots=True)
class Lanes:
    """Writes ranges of a job in `workers` processes; `told` hears now and then how many pictures are written,
    and may raise to stop. A process that dies, or stands still, costs the range it was at."""

    job: ExportJob
    workers: int
    told: Done
    _lanes: list[_Lane] = field(default_factory=list)
    _tries: dict[Range, int] = field(default_factory=dict)
    _finished: int = 0

    def write(self, ranges: list[Range]) -> None:
        """Until all are there. RovixError for what cannot be drawn, encoded or written."""
        todo = deque(ranges)
        count = max(1, min(self.workers, len(todo)))
        try:
            for number in range(count):
                self._begin(self._drawers(number, count))
            while todo or any(lane.at for lane in self._lanes):
                self._hand_out(todo)
                self._hear(todo)
        finally:
            self._end()

    def _drawers(self, number: int, count: int) -> int:
        """How many processes draw for one lane, where there are fewer ranges than workers."""
        return self.workers // count + (number < self.workers % count)

    def _begin(self, drawers: int) -> None:
        process, ours = started(_work, self.job, drawers)
        assert process.pid is not None
        self._lanes.append(_Lane(process, ours, Stillness([process.pid])))

    def _hand_out(self, todo: deque[Range]) -> None:
        for lane in [lane for lane in self._lanes if lane.at is None][: len(todo)]:
            lane.at, lane.done = todo.popleft(), 0
            try:
                lane.connection.send(lane.at)
            except OSError:
                continue  # it is heard of at once

    def _hear(self, todo: deque[Range]) -> None:
        busy: dict[Any, _Lane] = {lane.connection: lane for lane in self._lanes if lane.at is not None}
        # The end of a pipe does not tell of a dead process while another one happens to hold it, too.
        busy |= {lane.process.sentinel: lane for lane in busy.values()}
        for ready in wait(list(busy), LOOK):
            lane = busy[ready]
            if lane.at is None or all(lane is not other for other in self._lanes):
                continue  # heard of already in this round
            try:
                if ready is lane.connection or lane.connection.poll():
                    self._take(lane, lane.connection.recv())
                else:
                    self._lost(lane, todo)
            except (EOFError, OSError):
                self._lost(lane, todo)
        for lane in self._lanes:
            if lane.at is not None and lane.still.for_good():
                lane.still.end()  # which is heard of
        self.told(self._finished + sum(lane.done for lane in self._lanes))

    def _take(self, lane: _Lane, told: Any) -> None:
        if isinstance(told, str):
            raise RovixError(told)
        if isinstance(told, list):
            lane.still.pids += told
            return
        if told is not None:
            lane.done = told
            return
        self._finished += lane.done
        lane.at, lane.done = None, 0

    def _lost(self, lane: _Lane, todo: deque[Range]) -> None:
        """Have another process do what a dead one was at."""
        assert lane.at is not None
        self._lanes.remove(lane)
        lane.process.join()
        tries = self._tries[lane.at] = self._tries.get(lane.at, 0) + 1
        if tries >= _TRIES:
            span = lane.at.span
            raise RovixError(_LOST.format(tries=tries, first=span.start, last=span.end - 1))
        todo.appendleft(lane.at)
        self._begin(1)

    def _end(self) -> None:
        for lane in self._lanes:
            lane.connection.close()  # which ends it at its next picture
        join_all(lane.process for lane in self._lanes)


def join_all(processes: Iterable[BaseProcess]) -> None:
    """Wait until processes that were told to end have ended; what does not is killed."""
    for process in processes:
        process.join(_PATIENCE)
        if process.is_alive():
            process.kill()
            process.join()


def _work(connection: Connection, job: ExportJob, drawers: int) -> None:
    """The child: write what it is given until the pipe closes. It says the numbers of the processes that
    draw for it, how many pictures are done, None when a range is written, and a sentence when nothing more
    can be done."""
    one_thread_each()
    try:
        with Drawing(job) if drawers == 1 else CrewDrawing(job, drawers) as drawing:
            connection.send(drawing.pids)
            while True:
                wanted = connection.recv()
                write_range(job, wanted, drawing, connection.send)
                connection.send(None)
    except (EOFError, BrokenPipeError, ConnectionResetError, Lost):
        return  # without a word: another process takes the range
    except Exception as wrong:  # the parent tells the user; the child has no one to tell
        _tell(connection, said(wrong, job))


def said(wrong: Exception, job: ExportJob) -> str:
    """What went wrong, in a sentence with the way on."""
    if isinstance(wrong, RovixError):
        return str(wrong)
    if isinstance(wrong, av.FFmpegError):
        return f"{job.out.name} could not be encoded: {wrong.strerror}."
    if isinstance(wrong, OSError):
        return f"{job.out} could not be written: {wrong.strerror or wrong}. Take another place."
    return f"{job.out.name} could not be exported. {type(wrong).__name__}: {wrong}"


def _tell(connection: Connection, what: str) -> None:
    try:
        connection.send(what)
    except OSError:
        return  # no one is left to tell


def default_workers() -> int:
    """One process per core, at most sixteen: beyond that memory is what they want for."""
    return max(1, min(16, os.cpu_count() or 1))
