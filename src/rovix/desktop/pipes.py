"""Pipes of other processes, heard in the event loop."""

from __future__ import annotations

from collections.abc import Callable
from multiprocessing.connection import Connection

from PySide6.QtCore import QObject, QSocketNotifier


class Pipes(QObject):
    """Calls `hear(connection)` whenever a watched pipe has something to say."""

    def __init__(self, hear: Callable[[Connection], object], parent: QObject) -> None:
        super().__init__(parent)
        self._hear = hear
        self._notifiers: dict[int, QSocketNotifier] = {}

    def watch(self, connection: Connection, on: bool) -> None:
        """Watch a pipe from now on, or no more."""
        number = connection.fileno()
        old = self._notifiers.pop(number, None)
        if old is not None:
            old.setEnabled(False)
            old.deleteLater()
        if on:
            notifier = QSocketNotifier(number, QSocketNotifier.Type.Read, self)
            notifier.activated.connect(lambda *_: self._hear(connection))
            self._notifiers[number] = notifier
