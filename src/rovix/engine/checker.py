"""A process that checks whatever it was asked last, its files open and its layouts kept from one time to the
next."""

from __future__ import annotations

from multiprocessing.connection import Connection
from multiprocessing.process import BaseProcess
from pathlib import Path
from typing import TYPE_CHECKING, Any

from rovix.check.asked import Asked, Step
from rovix.engine.delta import Delta, Known, Unreadable, apply_delta, make_delta
from rovix.errors import RovixError
from rovix.model import Project
from rovix.processes import Behind, give_back_memory, give_way, started

if TYPE_CHECKING:
    from rovix.engine.checking import Gallery

_PATIENCE = 3.0
_RESTS = 6.0  # seconds without anything to check
Order = tuple[int, Delta, Path, Asked] | None
"""What is asked, by a number; None for nothing any more."""


class Checker:
    """Our end of it. Ask :meth:`look` now and then; it never waits."""

    def __init__(self) -> None:
        self._process: BaseProcess | None = None
        self._connection: Connection | None = None
        self._known, self._packs = Known(), True
        self._asked: tuple[Project, Path, Asked] | None = None
        self._turn = 0
        self.done, self.total = 0, 0
        self.is_at_work = False
        self.refused = ""

    def ask(self, project: Project, base: Path, asked: Asked) -> None:
        """Check a project, in place of what it is at."""
        self._turn += 1
        self._asked = project, base, asked
        self.done, self.total, self.refused, self.is_at_work = 0, 0, "", True
        for _ in range(2):
            if self._process is None or self._connection is None:
                self._process, self._connection = started("rovix.engine.checker:work")
                self._known = Known()
            try:
                self._connection.send(
                    (self._turn, make_delta(project, self._known, self._packs), base, asked)
                )
            except OSError:
                self._lost()
                continue
            return

    def stop(self) -> None:
        """Have it rest."""
        self._turn += 1
        self.is_at_work = False
        if self._connection is not None:
            try:
                self._connection.send(None)
            except OSError:
                self._lost()

    def leave(self) -> None:
        """End it without waiting for that, where it is at nothing: what it keeps is of no use for now. What
        is asked next begins one anew."""
        if not self.is_at_work and self._connection is not None:
            self._connection.close()
            self._process = self._connection = None

    def look(self) -> list[Step]:
        """What it has found since of what it was asked last."""
        steps: list[Step] = []
        connection, process = self._connection, self._process
        if connection is None or process is None:
            return steps
        lives = process.is_alive()
        try:
            while connection.poll():
                turn, kind, value = connection.recv()
                if turn == self._turn:
                    self._take(kind, value, steps)
            if not lives:
                raise EOFError
        except (EOFError, OSError):
            if self.is_at_work:
                self.refused = "The process that checks ended before its time."
            self.is_at_work = False
            self._lost()
        return steps

    def _take(self, kind: str, value: Any, steps: list[Step]) -> None:
        if kind == "far":
            self.done, self.total = value
        elif kind == "step":
            steps.append(value)
        elif kind == "unreadable" and self._asked is not None:
            self._known, self._packs = Known(), False
            self.ask(*self._asked)
        else:
            self.is_at_work, self.refused = False, value

    def _lost(self) -> None:
        process, connection = self._process, self._connection
        self._process = self._connection = None
        if connection is not None:
            connection.close()
        if process is not None:
            process.join(_PATIENCE)
            if process.is_alive():
                process.kill()
                process.join()

    def close(self) -> None:
        """End it."""
        self.stop()
        self._lost()


class _Newer(BaseException):
    """Something else is asked, or who asked is gone; nothing on the way takes it for an error of its own."""


def _next_order(connection: Connection, gallery: Gallery) -> Order:
    """What is asked next; while nothing is, a gallery rests."""
    if not connection.poll(_RESTS):
        gallery.rest()
        give_back_memory()
    order: Order = connection.recv()
    return order


def work(connection: Connection) -> None:
    """The child: check what is asked, until the pipe closes; what is newer comes at once."""
    from rovix.engine.checking import Gallery, checked
    from rovix.engine.ring import one_thread_each

    one_thread_each()
    give_way(Behind.FINDINGS)
    known, gallery = Known(), Gallery()
    try:
        while True:
            order = _next_order(connection, gallery)
            if order is None:
                continue
            turn, delta, base, asked = order
            try:
                project = apply_delta(delta, known)
            except Unreadable:
                connection.send((turn, "unreadable", None))
                continue

            def tell(done: int, total: int, turn: int = turn) -> None:
                if connection.poll():
                    raise _Newer
                connection.send((turn, "far", (done, total)))

            def part(step: Step, turn: int = turn) -> None:
                connection.send((turn, "step", step))

            try:
                checked(project, base, asked, tell, part, gallery)
                connection.send((turn, "over", ""))
            except RovixError as wrong:
                connection.send((turn, "over", str(wrong)))
            except _Newer:
                continue
    except (EOFError, BrokenPipeError, ConnectionResetError):
        gallery.close()
