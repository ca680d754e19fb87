"""Work that takes a while, in a process of its own: how far it is, what it has found, how it ended."""

from __future__ import annotations

from collections.abc import Callable
from multiprocessing.connection import Connection
from typing import Any

from rovix.errors import RovixError
from rovix.processes import Behind, give_way, started

Progress = Callable[[int, int], None]
Part = Callable[[Any], None]


class LongJob:
    """Does what `work` names, 'module:function', beside everything else; ask :meth:`look` now and then.

    The function gets the arguments, then `progress(done, total)`, which ends it when it was cancelled, and
    `part(value)`, which hands over what there is so far; what it returns is the result.
    """

    def __init__(self, work: str, *arguments: Any, far: int = Behind.JOBS) -> None:
        self._process, self._connection = started("rovix.engine.long_job:do", work, arguments, far)
        self.done, self.total = 0, 0
        self.parts: list[Any] = []
        self.result: Any = None
        self.refused = ""
        self.has_ended = False

    def look(self) -> bool:
        """Take what has come; whether it has ended. Never waits."""
        try:
            # Asked before what it may have said last is taken; another process may hold its pipe open.
            lives = self._process.is_alive()
            while not self.has_ended and self._connection.poll():
                self._take(*self._connection.recv())
            if not lives and not self.has_ended:
                raise EOFError
        except (EOFError, OSError):
            self.refused = self.refused or "The process that did it ended before its time; try it again."
            self.has_ended = True
        return self.has_ended

    def _take(self, kind: str, value: Any) -> None:
        if kind == "far":
            self.done, self.total = value
        elif kind == "part":
            self.parts.append(value)
        else:
            self.has_ended = True
            if kind == "result":
                self.result = value
            else:
                self.refused = value

    def cancel(self) -> None:
        """Have it stop; never waits."""
        try:
            self._connection.send("stop")
        except OSError:
            return

    def close(self) -> None:
        """Cancel it where it still runs, and wait until it is gone."""
        self.cancel()
        self._process.join(3)
        if self._process.is_alive():
            self._process.kill()
            self._process.join()
        self._process.close()
        self._connection.close()


class _Stopped(BaseException):
    """It was cancelled, or who asked for it is gone; nothing on the way takes it for an error of its own."""


def do(connection: Connection, work: str, arguments: tuple[Any, ...], far: int = Behind.JOBS) -> None:
    """What the process does."""
    from rovix.processes import named

    def progress(done: int, total: int) -> None:
        if connection.poll():  # a word to stop, or the end of the pipe
            raise _Stopped
        connection.send(("far", (done, total)))

    give_way(far)
    try:
        result = named(work)(*arguments, progress, lambda value: connection.send(("part", value)))
        connection.send(("result", result))
    except RovixError as wrong:
        connection.send(("refused", str(wrong)))
    except (_Stopped, BrokenPipeError):
        return
