"""Processes that draw pictures into shared memory.

They are spawned, not forked: the parent has threads, and a child started any other way would unlink
the shared memory when it ends.
"""

from __future__ import annotations

import multiprocessing
import signal
from dataclasses import dataclass
from multiprocessing.connection import Connection, wait
from pathlib import Path
from types import TracebackType

from rovix.engine.ring import Ring, one_thread_each
from rovix.errors import RovixError
from rovix.media import MediaLibrary
from rovix.model import Project
from rovix.motion import picture_plan
from rovix.paint import LayerCache, Painter

_LAYER_CACHE = 64 << 20


@dataclass(frozen=True, slots=True)
class Drawn:
    """A picture that stands in a slot; `error` says why it does not."""

    frame: int
    slot: int
    error: str | None = None


class Crew:
    """A number of drawing processes for one project at one size; use it as a context."""

    def __init__(self, project: Project, base: Path, size: tuple[int, int], count: int, slots: int) -> None:
        context = multiprocessing.get_context("spawn")
        self.ring = Ring(slots, size)
        self._free_slots = list(range(slots))
        self._idle: list[Connection] = []
        self._workers: dict[Connection, multiprocessing.process.BaseProcess] = {}
        for _ in range(count):
            ours, theirs = context.Pipe()
            process = context.Process(target=_work, args=(theirs, project, base, self.ring.key), daemon=True)
            process.start()
            theirs.close()
            self._workers[ours] = process
            self._idle.append(ours)

    def __enter__(self) -> Crew:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        for connection, process in self._workers.items():
            connection.close()
            if kind is not None:
                process.terminate()
        for process in self._workers.values():
            process.join()
        self.ring.close()

    @property
    def has_room(self) -> bool:
        """Whether a process is idle and a slot is free."""
        return bool(self._idle and self._free_slots)

    def draw(self, frame: int) -> None:
        """Have a frame drawn; only while there is room."""
        connection, slot = self._idle.pop(), self._free_slots.pop()
        connection.send((frame, slot))

    def collect(self) -> list[Drawn]:
        """Wait until something is drawn. Raises RovixError when a process has died."""
        ready = wait([*self._workers, *(process.sentinel for process in self._workers.values())])
        drawn = []
        for connection in ready:
            if not isinstance(connection, Connection):
                raise RovixError("A drawing process ended unexpectedly. Start the export again.")
            drawn.append(self._received(connection))
            self._idle.append(connection)
        return drawn

    def release(self, slot: int) -> None:
        """A slot's picture is no longer needed."""
        self._free_slots.append(slot)

    def _received(self, connection: Connection) -> Drawn:
        try:
            drawn = connection.recv()
        except EOFError:
            raise RovixError("A drawing process ended unexpectedly. Start the export again.") from None
        assert isinstance(drawn, Drawn)
        if drawn.error is not None:
            raise RovixError(f"Frame {drawn.frame} could not be drawn. {drawn.error}")
        return drawn


def _work(
    connection: Connection, project: Project, base: Path, ring: tuple[int, tuple[int, int], str]
) -> None:
    """The child: draw what is asked for until the pipe closes."""
    # Ctrl+C goes to the whole group; the parent decides what ends.
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    one_thread_each()
    slots = Ring(*ring)
    painter = Painter(MediaLibrary(project, base), LayerCache(_LAYER_CACHE))
    try:
        while True:
            frame, slot = connection.recv()
            connection.send(_drawn(painter, project, frame, slot, slots))
    except (EOFError, BrokenPipeError, ConnectionResetError):
        pass
    finally:
        slots.close()


def _drawn(painter: Painter, project: Project, frame: int, slot: int, slots: Ring) -> Drawn:
    try:
        slots.slot(slot)[:] = painter.paint(picture_plan(project, frame), slots.size)
    except RovixError as wrong:
        return Drawn(frame, slot, str(wrong))
    except Exception as wrong:  # the parent tells the user; the child has no one to tell
        return Drawn(frame, slot, f"{type(wrong).__name__}: {wrong}")
    return Drawn(frame, slot)
