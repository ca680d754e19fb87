"""The process that does the exports of a queue, one after another, while someone wants it to."""

from __future__ import annotations

import time
from contextlib import suppress
from multiprocessing.connection import Connection
from pathlib import Path

from rovix.engine.export import export, weight_of, written_by
from rovix.engine.export_queue import AtWork, ExportQueue, Waiting
from rovix.errors import RovixError
from rovix.formats.whole_file import remove
from rovix.processes import Behind, give_way

_OFTEN = 0.2
"""Seconds between two looks at what is wanted."""


class _NotWanted(Exception):
    """What is at work is not wanted any more, now or at all."""


def work(connection: Connection, folder: Path, workers: int | None = None) -> None:
    """Do what waits in the queue of a folder, until nothing does or the other end of the pipe is closed."""
    give_way(Behind.JOBS)
    queue = ExportQueue(folder)
    with queue.working() as alone:
        while alone and (item := queue.next()) is not None:
            if not _Doing(queue, item, connection, workers).do():
                return


class _Doing:
    """One export, and how far it is."""

    def __init__(
        self, queue: ExportQueue, item: Waiting, connection: Connection, workers: int | None
    ) -> None:
        self._queue, self._item, self._connection, self._workers = queue, item, connection, workers
        self._began = self._looked = time.monotonic()
        self._known = queue.changed
        self._found: int | None = None

    def do(self) -> bool:
        """Whether to go on with the next."""
        queue, item = self._queue, self._item
        queue.tell(AtWork(item.id, 0, item.end - item.first, None))
        try:
            job = queue.job(item)
            said = export(job, self._workers, self._tell, item.ranges)
        except _NotWanted:
            queue.change(item.id, seconds=self._seconds)
            return not self._is_left()
        except RovixError as wrong:
            queue.change(item.id, state="failed", said=str(wrong))
        else:
            weight = weight_of(written_by(job))
            queue.change(item.id, state="done", said=said, weight=weight, seconds=self._seconds)
        finally:
            queue.tell(None)
            self._clear_up()
        return True

    @property
    def _seconds(self) -> float:
        """How long it has been worked on, before a pause, too."""
        return self._item.seconds + time.monotonic() - self._began

    def _tell(self, done: int, total: int) -> None:
        now = time.monotonic()
        if self._found is None:
            self._found = done
        if now - self._looked < _OFTEN and 0 < done < total:
            return
        self._looked = now
        fresh = done - self._found
        left = (now - self._began) / fresh * (total - done) if fresh >= 5 else None
        self._queue.tell(AtWork(self._item.id, done, total, left))
        self._look()

    def _look(self) -> None:
        if self._is_left():
            raise _NotWanted
        if self._queue.changed != self._known:
            self._known = self._queue.changed
            if self._state() != "waiting":
                raise _NotWanted

    def _is_left(self) -> bool:
        """Whether nobody is left who wants anything done."""
        try:
            if self._connection.poll():
                self._connection.recv()  # which only its end can be
        except (EOFError, OSError):
            return True
        return False

    def _state(self) -> str | None:
        return next((one.state for one in self._queue.items() if one.id == self._item.id), None)

    def _clear_up(self) -> None:
        """What is left of one that was removed, or cannot be done, meanwhile."""
        if self._state() in (None, "failed"):
            with suppress(OSError):
                remove(self._item.ranges)
