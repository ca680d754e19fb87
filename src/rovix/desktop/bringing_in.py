"""Bringing files in without holding the window up: they are read on a thread, then placed as one step."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QThread, QTimer, Signal

from rovix.edit import bring_in
from rovix.errors import RovixError
from rovix.media import probe
from rovix.model import Media, Project

if TYPE_CHECKING:
    from rovix.desktop.window import Window

_SOON = 400  # ms after which it is worth saying that files are being read


@dataclass
class Found:
    """What the thread has read so far."""

    media: list[Media] = field(default_factory=list)
    refused: list[str] = field(default_factory=list)


class _Reader(QThread):
    """Reads the facts of files, one after the other; large ones take time for their digest."""

    def __init__(self, paths: list[Path], base: Path) -> None:
        super().__init__()
        self._paths, self._base = paths, base
        self.found = Found()
        self.stopped = False

    def run(self) -> None:
        for path in self._paths:
            if self.stopped:
                return
            try:
                self.found.media.append(probe(path, self._base))
            except (RovixError, OSError, ValueError) as wrong:
                self.found.refused.append(str(wrong))


class BringingIn(QObject):
    """One lot of files on its way in; `ended` when they are placed or it was cancelled."""

    ended = Signal()

    def __init__(self, window: Window, paths: list[Path]) -> None:
        super().__init__(window)
        self._window, self._count = window, len(paths)
        self._start = window.document.playhead
        self._reader = _Reader(paths, window.document.base)
        self._reader.finished.connect(self._place)
        self._notice = QTimer(self, interval=_SOON, singleShot=True)
        self._notice.timeout.connect(self._say)
        self._message: QObject | None = None

    def begin(self) -> None:
        self._notice.start()
        self._reader.start()

    def cancel(self) -> None:
        """Leave the rest; what was read is not placed either."""
        self._reader.stopped = True

    def wait(self) -> None:
        """Cancel, and wait until the thread has ended."""
        self.cancel()
        self._notice.stop()
        self._reader.wait()

    def _say(self) -> None:
        said = "one file" if self._count == 1 else f"{self._count} files"
        choices: dict[str, Callable[[], None]] = {"Cancel": self.cancel}
        self._message = self._window.offer(f"Bringing in {said}", "Editing goes on meanwhile.", choices)

    def _place(self) -> None:
        self._notice.stop()
        if self._message is not None:
            self._window.messages.remove(self._message)
        found = self._reader.found
        if not self._reader.stopped:
            self._edit(found.media)
            for reason in found.refused:
                self._window.document.problem.emit(reason)
        self.ended.emit()

    def _edit(self, media: list[Media]) -> None:
        made: list[str] = []

        def edit(project: Project) -> Project:
            for item in media:
                project, clip = bring_in(project, item, self._start)
                made.append(clip)
            return project

        document = self._window.document
        names = media[0].path.rsplit("/", 1)[-1] if len(media) == 1 else f"{len(media)} files"
        if media and document.do(f"Bring in {names}", edit):
            document.select(made[-1])
