"""What belongs to the document that is open: its jobs and its offers. It ends when another is shown."""

from __future__ import annotations

from collections.abc import Callable
from typing import Protocol

from PySide6.QtCore import QObject, SignalInstance

from rovix.desktop.messages import Message, Messages


class Job(Protocol):
    """Work that goes on beside editing, for one document."""

    ended: SignalInstance
    title: str

    def begin(self) -> None: ...
    def cancel(self) -> None: ...
    def wait(self) -> None: ...


class Session(QObject):
    """Jobs are cancelled and offers taken away when the session ends; neither reaches the next document."""

    def __init__(self, messages: Messages, parent: QObject) -> None:
        super().__init__(parent)
        self._messages = messages
        self._jobs: list[Job] = []
        self._offers: list[Message] = []
        self.is_open = True

    def run(self, job: Job) -> None:
        """Begin a job."""
        self._jobs.append(job)
        job.ended.connect(lambda: self._jobs.remove(job))
        job.begin()

    def offer(self, title: str, text: str, choices: dict[str, Callable[[], None]]) -> Message:
        """Offer choices over the viewer for as long as this document is open."""
        message = self._messages.offer(title, text, choices)
        self._offers.append(message)
        message.destroyed.connect(lambda: self._offers.remove(message) if message in self._offers else None)
        return message

    @property
    def is_busy(self) -> bool:
        """Whether a job goes on, be it only until it notices that it was cancelled."""
        return bool(self._jobs)

    def end(self) -> list[str]:
        """Another document comes: cancel what goes on. Gives what was given up, by name."""
        self.is_open = False
        for message in list(self._offers):
            self._messages.remove(message)
        self._offers.clear()
        given_up = [job.title for job in self._jobs]
        for job in list(self._jobs):
            job.cancel()
        return given_up

    def wait(self) -> None:
        """Cancel what goes on, and wait until it is gone."""
        for job in list(self._jobs):
            job.wait()
