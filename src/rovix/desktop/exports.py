"""The queue of exports as a window sees it: what waits, how far it is, and a process that does it."""

from __future__ import annotations

from collections.abc import Callable
from multiprocessing.connection import Connection
from multiprocessing.process import BaseProcess
from pathlib import Path

from platformdirs import user_state_path
from PySide6.QtCore import QObject, QTimer, Signal

from rovix.engine.export_job import ExportJob
from rovix.engine.export_queue import AtWork, ExportQueue, Waiting
from rovix.errors import RovixError
from rovix.processes import started

_LOOK = 250
"""How often the folder is looked at, in ms, while anything is to be done or seen."""
_WORK = "rovix.engine.export_worker:work"  # by name: the window never loads an encoder for it
_TRIES = 3
_LOST = "The process that exports ended unexpectedly three times; all exports are paused."


def exports_folder() -> Path:
    """Where exports wait, those of all windows."""
    return user_state_path("rovix") / "exports"


class Exports(QObject):
    """Shows the queue of a folder, and has it worked on while this window is open."""

    changed = Signal()
    """The list is another one, or one of it has another state."""
    moved = Signal()
    """The one at work is further."""
    ended = Signal(Waiting)
    """One was done, or failed."""
    problem = Signal(str)

    def __init__(self, folder: Path, parent: QObject) -> None:
        super().__init__(parent)
        self._queue = ExportQueue(folder)
        self._process: BaseProcess | None = None
        self._deaths = 0
        self._connection: Connection | None = None
        self._seen = -1
        self.items: list[Waiting] = []
        self.at_work: AtWork | None = None
        self._tick = QTimer(self, interval=_LOOK)
        self._tick.timeout.connect(self.look)

    def begin(self) -> None:
        """Go on with what was left, if anything was."""
        self._changed_by(lambda: None)

    def add(self, job: ExportJob, name: str) -> bool:
        """Have a job done; whether it is in the list, where nothing is wrong with it."""
        from rovix.engine.export_check import check  # the window starts without encoders

        def change() -> None:
            check(job)
            self._queue.add(job, name)

        return self._changed_by(change)

    def pause(self, item: Waiting) -> None:
        """Leave one for later; what it has written is kept."""
        self._changed_by(lambda: self._queue.change(item.id, state="paused"))

    def go_on(self, item: Waiting) -> None:
        """Have one done that was paused, or failed."""
        self._changed_by(lambda: self._queue.change(item.id, state="waiting", said=""))

    def pause_all(self) -> None:
        """Leave all for later."""
        self._changed_by(lambda: self._queue.change_all("waiting", "paused"))

    def go_on_with_all(self) -> None:
        """Have all done that were paused."""
        self._changed_by(lambda: self._queue.change_all("paused", "waiting"))

    def move(self, item: Waiting, by: int) -> None:
        """Have one done so many places later, or earlier."""
        self._changed_by(lambda: self._queue.move(item.id, by))

    def remove(self, item: Waiting) -> None:
        """Stop it if it is at work, and forget it; a file that is written stays."""
        self._changed_by(lambda: self._queue.remove(item.id))

    def remove_done(self) -> None:
        """Forget all that are done."""
        for item in [item for item in self.items if item.state == "done"]:
            self.remove(item)

    @property
    def left(self) -> int:
        """How many are still to be done."""
        return sum(item.state == "waiting" for item in self.items)

    def look(self) -> None:
        """Take over what has changed, and see to it that somebody works; never waits."""
        before = {item.id: item.state for item in self.items}
        if self._queue.changed != self._seen:
            self._read()
        for item in self.items:
            if item.state in ("done", "failed") and before.get(item.id) == "waiting":
                self.ended.emit(item)
        at_work = self._queue.at_work()
        if at_work != self.at_work:
            self.at_work = at_work
            self.moved.emit()
        self._see_to_work()

    def close(self) -> None:
        """Stop; what waits goes on when Rovix is opened again."""
        self._tick.stop()
        process, self._process = self._process, None
        if process is None or self._connection is None:
            return
        self._connection.close()
        process.join(20)
        if process.is_alive():
            process.kill()
            process.join()

    def _read(self) -> None:
        seen = self._queue.changed
        try:
            self.items = self._queue.items()
        except RovixError as wrong:
            self.items = []
            self.problem.emit(str(wrong))
        self._seen = seen
        self.changed.emit()

    def _changed_by(self, change: Callable[[], object]) -> bool:
        try:
            change()
        except RovixError as wrong:
            self.problem.emit(str(wrong))
            return False
        except OSError as wrong:
            self.problem.emit(f"{self._queue.folder} could not be written to: {wrong.strerror}.")
            return False
        self.look()
        return True

    def _see_to_work(self) -> None:
        if self._process is not None and not self._process.is_alive():
            self._process.join()
            self._deaths += bool(self._process.exitcode)
            self._process = None
            if self._deaths >= _TRIES:
                self._deaths = 0
                self.problem.emit(_LOST)
                self.pause_all()
                return
        if self.left and self._process is None and not self._queue.is_worked_on:
            self._process, self._connection = started(_WORK, self._queue.folder)
        if self.left or self._process is not None or self.at_work is not None:
            self._tick.start()
        else:
            self._tick.stop()
