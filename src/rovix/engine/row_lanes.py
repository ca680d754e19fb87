"""Processes that make the files of a table's rows, each one after another: none is begun anew for a row."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from multiprocessing.connection import Connection, wait
from multiprocessing.process import BaseProcess
from pathlib import Path
from typing import Any

import msgspec

from rovix.edit.titles import filled, with_values
from rovix.engine.export import WriteRanges, export
from rovix.engine.export_job import ExportJob
from rovix.engine.lanes import join_all
from rovix.engine.ranges import Drawing, Range, write_range
from rovix.engine.ring import one_thread_each
from rovix.engine.standing_still import Stillness
from rovix.errors import RovixError
from rovix.media.probe import probe
from rovix.model import Media, Project
from rovix.model.delivery import Delivery
from rovix.model.title import Title
from rovix.processes import started
from rovix.time import Span

NAME = "file"
"""The column that names the file of a row, without its suffix."""
PICTURE = "picture"
"""The codec of which one frame is a file."""
_TRIES = 2
_OFTEN = 0.2  # s between two looks at whether to go on


@dataclass(frozen=True, slots=True)
class Row:
    """A row of a table, by its number (the head is row 1), with what it sets; `wrong` where it cannot be
    used."""

    number: int
    values: dict[str, str]
    wrong: str = ""


class Made(msgspec.Struct, frozen=True):
    """What became of a row: its file and the digest of all that it was made of, or what was wrong."""

    row: int
    file: str
    digest: str
    problem: str = ""


@dataclass(frozen=True, slots=True)
class Task:
    """A row to make, where, and the digest of all that it is made of."""

    row: Row
    out: Path
    digest: str


def row_project(title: Title, row: Row, like: tuple[int, int] | None = None) -> Project:
    """The title with what a row sets; empty fields leave it as it is. RovixError for what cannot be set."""
    return filled(title, row_values(row), _file, like).project


def row_values(row: Row) -> dict[str, str]:
    """What a row sets, by name. RovixError for one that cannot be used."""
    if row.wrong:
        raise RovixError(row.wrong[0].upper() + row.wrong[1:] + ".")
    return {column: value for column, value in row.values.items() if column != NAME and value != ""}


def row_problem(title: Title, row: Row) -> str:
    """Why a row cannot be made, '' if it can as far as is seen without making it."""
    try:
        with_values(title, row_values(row), _there)
    except RovixError as wrong:
        return str(wrong)
    return ""


def _there(path: str) -> Media:
    """A file by name alone; RovixError where it is not there."""
    if not Path(path).is_file():
        raise RovixError(f"There is no file {path}.")
    return Media(path=path, kind="still", digest="none:", width=1, height=1)


def _file(path: str) -> Media:
    return probe(Path(path).resolve(), Path("/"))


def make_row(
    title: Title, task: Task, how: Delivery, write: WriteRanges | None = None, workers: int | None = None,
    tick: Callable[[], None] = lambda: None,
) -> Made:  # fmt: skip
    """Write a row's file; what is wrong with it is in what is returned. `tick` is called now and then, and
    may raise to stop."""
    try:
        project = row_project(title, task.row, how.size)
        span = Span(0, project.sequence.length)
        if how.codec == PICTURE:
            # One picture shows what rests, between what comes and what goes.
            span = Span(span.length // 2, span.length // 2 + 1)
        job = ExportJob(project, Path("/"), task.out, span, how)
        export(job, workers, lambda *_: tick(), write=write)
    except RovixError as wrong:
        return Made(task.row.number, task.out.name, task.digest, str(wrong))
    return Made(task.row.number, task.out.name, task.digest)


def _here(job: ExportJob, ranges: list[Range], told: Callable[[int], None]) -> None:
    """Write ranges in this process."""
    done = 0
    with Drawing(job) as drawing:
        for wanted in ranges:
            before = done
            write_range(job, wanted, drawing, lambda n, before=before: told(before + n))  # type: ignore[misc]
            done += wanted.span.length


@dataclass(slots=True)
class _Lane:
    process: BaseProcess
    connection: Connection
    still: Stillness
    at: Task | None = None


@dataclass(slots=True)
class RowLanes:
    """Makes rows of a title in so many processes. One that dies, or stands still, costs the row that it was
    at one more try."""

    title: Title
    how: Delivery
    count: int
    _lanes: list[_Lane] = field(default_factory=list)
    _tries: dict[int, int] = field(default_factory=dict)

    def made(self, tasks: list[Task]) -> Iterator[Made | None]:
        """What became of each, as it is ready, and None now and then; given up half way, the processes end
        at once."""
        todo = deque(tasks)
        try:
            for _ in range(max(1, min(self.count, len(todo)))):
                self._begin()
            while todo or any(lane.at for lane in self._lanes):
                self._hand_out(todo)
                yield from self._hear(todo)
        finally:
            self._end()

    def _begin(self) -> None:
        process, ours = started(_work, self.title, self.how)
        assert process.pid is not None
        self._lanes.append(_Lane(process, ours, Stillness([process.pid])))

    def _hand_out(self, todo: deque[Task]) -> None:
        for lane in [lane for lane in self._lanes if lane.at is None][: len(todo)]:
            lane.at = todo.popleft()
            try:
                lane.connection.send(lane.at)
            except OSError:
                continue  # it is heard of at once

    def _hear(self, todo: deque[Task]) -> Iterator[Made | None]:
        busy: dict[Any, _Lane] = {lane.connection: lane for lane in self._lanes if lane.at is not None}
        busy |= {lane.process.sentinel: lane for lane in busy.values()}
        found = wait(list(busy), _OFTEN)
        if not found:
            yield None
        for ready in found:
            lane = busy[ready]
            if lane.at is None or all(lane is not other for other in self._lanes):
                continue  # heard of already in this round
            try:
                if ready is not lane.connection and not lane.connection.poll():
                    raise EOFError
                told, lane.at = lane.connection.recv(), None
                yield told
            except (EOFError, OSError):
                yield from self._lost(lane, todo)
        for lane in self._lanes:
            if lane.at is not None and lane.still.for_good():
                lane.still.end()  # which is heard of

    def _lost(self, lane: _Lane, todo: deque[Task]) -> Iterator[Made]:
        """Have another process try the row that a dead one was at."""
        task = lane.at
        assert task is not None
        self._lanes.remove(lane)
        lane.process.join()
        self._begin()
        number = task.row.number
        tries = self._tries[number] = self._tries.get(number, 0) + 1
        if tries < _TRIES:
            todo.appendleft(task)
            return
        said = f"The process that made it ended or stood still, {tries} times. Start it again."
        yield Made(number, task.out.name, task.digest, said)

    def _end(self) -> None:
        for lane in self._lanes:
            lane.connection.close()  # which ends it after its row
            lane.process.terminate()
        join_all(lane.process for lane in self._lanes)


def _work(connection: Connection, title: Title, how: Delivery) -> None:
    """The child: make the rows it is given until the pipe closes."""
    one_thread_each()
    try:
        while True:
            connection.send(make_row(title, connection.recv(), how, _here))
    except (EOFError, BrokenPipeError, ConnectionResetError):
        return
