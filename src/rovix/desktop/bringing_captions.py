"""A file of captions on its way in: read on a thread, then the user says how its words are set."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QThread, Signal

from rovix.desktop.dialogs.captions_window import CaptionsWindow
from rovix.errors import RovixError
from rovix.exchange import CAPTION_FORMATS
from rovix.exchange.captions import Captions, read_captions

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame


class _Reader(QThread):
    def __init__(self, path: Path) -> None:
        super().__init__()
        self._path = path
        self.found: Captions | None = None
        self.wrong = ""

    def run(self) -> None:
        try:
            self.found = read_captions(self._path, CAPTION_FORMATS)
        except (RovixError, OSError, ValueError) as wrong:
            self.wrong = str(wrong)


class BringingCaptions(QObject):
    """A job of the open document: `ended` when the file is read, or it was cancelled."""

    ended = Signal()

    def __init__(self, window: Frame, path: Path) -> None:
        super().__init__(window)
        self._window, self._path = window, path
        self._reader = _Reader(path)
        self._reader.finished.connect(self._ask)
        self._stopped = False
        self.title = f"Reading {path.name}"

    def begin(self) -> None:
        self._window.say(f"{self.title}…")
        self._reader.start()

    def cancel(self) -> None:
        """What is read is not asked about any more."""
        self._stopped = True

    def wait(self) -> None:
        """Cancel, and wait until the thread has ended."""
        self.cancel()
        self._reader.wait()

    def _ask(self) -> None:
        found = self._reader.found
        if not self._stopped and found is None:
            self._window.document.problem.emit(self._reader.wrong)
        elif not self._stopped and found is not None:
            dialog = CaptionsWindow(self._window, self._path, found)
            dialog.finished.connect(dialog.deleteLater)
            dialog.open()
        self.ended.emit()
