"""Processes that draw pictures into shared memory for an export."""

from __future__ import annotations

from dataclasses import dataclass
from multiprocessing.connection import Connection, wait
from multiprocessing.process import BaseProcess
from pathlib import Path
from types import TracebackType

from rovix.engine.ring import Ring, one_thread_each
from rovix.errors import RovixError
from rovix.media.library import MediaLibrary
from rovix.model import Project
from rovix.motion import picture_plan
from rovix.paint.cache import LayerCache
from rovix.paint.painter import Painter
from rovix.processes import started
from rovix.text.catalogue import use_project_fonts

_LAYER_CACHE = 64 << 20


class Lost(RovixError):
    """A process of a crew that has died."""

    def __init__(self) -> None:
        super().__init__("A drawing process ended unexpectedly; nothing was written. Start the export again.")


@dataclass(frozen=True, slots=True)
class Drawn:
    """A picture that stands in a slot; `error` says why it does not."""

    frame: int
    slot: int
    error: str | None = None


class Crew:
    """A number of drawing processes for one project at one size; use it as a context."""

    def __init__(self, project: Project, base: Path, size: tuple[int, int], count: int, slots: int) -> None:
        self.ring = Ring(slots, size)
        self._free_slots = list(range(slots))
        try:
            for slot in self._free_slots:
                self.ring.reserve(slot)
        except RovixError:
            self.ring.close()
            raise
        self._workers: dict[Connection, BaseProcess] = {}
        for _ in range(count):
            process, ours = started(_work, project, base, self.ring.key)
            self._workers[ours] = process
        self._idle = list(self._workers)

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
    def pids(self) -> list[int]:
        """The numbers of its processes."""
        return [process.pid for process in self._workers.values() if process.pid is not None]

    @property
    def has_room(self) -> bool:
        """Whether a process is idle and a slot is free."""
        return bool(self._idle and self._free_slots)

    def draw(self, frame: int) -> None:
        """Have a frame drawn; only while there is room."""
        connection, slot = self._idle.pop(), self._free_slots.pop()
        try:
            connection.send((frame, slot))
        except OSError:
            raise Lost from None

    def collect(self) -> list[Drawn]:
        """Wait until something is drawn. Raises Lost when a process has died."""
        ready = wait([*self._workers, *(process.sentinel for process in self._workers.values())])
        drawn = []
        for connection in ready:
            if not isinstance(connection, Connection):
                raise Lost
            drawn.append(self._received(connection))
            self._idle.append(connection)
        return drawn

    def release(self, slot: int) -> None:
        """A slot's picture is no longer needed."""
        self._free_slots.append(slot)

    def _received(self, connection: Connection) -> Drawn:
        try:
            drawn = connection.recv()
        except (EOFError, OSError):
            raise Lost from None
        assert isinstance(drawn, Drawn)
        if drawn.error is not None:
            raise RovixError(f"Frame {drawn.frame} could not be drawn. {drawn.error}")
        return drawn


def _work(
    connection: Connection, project: Project, base: Path, ring: tuple[int, tuple[int, int], str]
) -> None:
    """The child: draw what is asked for until the pipe closes."""
    one_thread_each()
    slots = Ring(*ring)
    use_project_fonts(base)
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
