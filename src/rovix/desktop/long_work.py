"""Work beside editing that takes a while: its progress and Cancel over the picture, and what it ends with."""

from __future__ import annotations

import time
from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject, QTimer, Signal

from rovix.desktop.frame import Frame
from rovix.desktop.messages import Message
from rovix.engine.long_job import LongJob

_OFTEN = 60  # ms from look to look
_SOON = 1.5  # seconds after which it can be said how long it takes


class LongWork(QObject):
    """One job of a session; `done` gets its result, `shown` what there is of it so far, where it is wanted.
    What is `counted` goes to its message.

    What was begun for a document does nothing to another: the session cancels it.
    """

    ended = Signal()

    def __init__(
        self,
        window: Frame,
        title: str,
        work: tuple[Any, ...],
        done: Callable[[Any], None],
        shown: Callable[[list[Any]], None] | None = None,
        counted: str = "frames",
    ) -> None:
        super().__init__(window)
        self._counted = counted
        self._window, self.title = window, title
        self._work, self._done, self._shown = work, done, shown
        self._job: LongJob | None = None
        self._message: Message | None = None
        self._began = 0.0
        self._timer = QTimer(self, interval=_OFTEN)
        self._timer.timeout.connect(self._look)

    def begin(self) -> None:
        self._job = LongJob(*self._work)
        self._began = time.monotonic()
        self._message = self._window.offer(self.title, "Begins…", {"Cancel": self.cancel})
        self._timer.start()

    def cancel(self) -> None:
        """Give it up; what there is of it goes."""
        if self._job is not None:
            self._end()

    def wait(self) -> None:
        self.cancel()

    def _look(self) -> None:
        job = self._job
        if job is None:
            return
        over = job.look()
        if self._shown is not None and job.parts:
            self._shown(job.parts)
            job.parts = []
        if not over:
            self._say(job)
            return
        result, refused = job.result, job.refused
        self._end()
        if refused:
            self._window.document.problem.emit(refused)
        else:
            self._done(result)

    def _say(self, job: LongJob) -> None:
        if self._message is not None and job.total:
            spent = time.monotonic() - self._began
            left = spent / max(1, job.done) * (job.total - job.done)
            said = f", {_lasting(left)} left" if spent > _SOON else ""
            self._message.say(f"{job.done} of {job.total} {self._counted}{said}. Editing goes on meanwhile.")

    def _end(self) -> None:
        self._timer.stop()
        job, self._job = self._job, None
        if job is not None:
            job.close()
        if self._message is not None:
            self._window.messages.remove(self._message)
            self._message = None
        self.ended.emit()


def _lasting(seconds: float) -> str:
    return f"{seconds:.0f} s" if seconds < 90 else f"{seconds / 60:.0f} min"
