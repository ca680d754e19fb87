"""Autosave: the last step is kept shortly after each change while there is unsaved work."""

from __future__ import annotations

import time
from collections.abc import Iterator
from contextlib import suppress
from pathlib import Path

from platformdirs import user_state_path
from PySide6.QtCore import QObject, QTimer

from rovix.desktop.document import Document
from rovix.engine.unsaved_work import WorkKeeper
from rovix.errors import RovixError
from rovix.formats.project_file import preparing
from rovix.model import Project

AFTER = 1500  # ms after a change; a crash loses no more
_CALM = 600  # ms after a change before the work is prepared to be kept
_BIT, _APART = 0.003, 15  # seconds of it at a time, and the ms between two


def work_folder() -> Path:
    """Where unsaved work is kept until someone answers for it."""
    return user_state_path("rovix") / "unsaved"


class Recovery(QObject):
    """Keeps the work on the document that is open; each document has a keeper of its own."""

    def __init__(self, document: Document) -> None:
        super().__init__(document)
        self._document = document
        self._timer = QTimer(self, singleShot=True, interval=AFTER)
        self._timer.timeout.connect(self.write)
        self._keeper: WorkKeeper | None = None
        self._written: Project | None = None
        self._failed = False
        document.file_changed.connect(self._changed)
        document.project_changed.connect(self._typed)
        document.opened.connect(self._begin_anew)
        self._steps: Iterator[None] | None = None
        self._prepared: Project | None = None
        self._bits = QTimer(self, singleShot=True)
        self._bits.timeout.connect(self._prepare)
        document.project_changed.connect(lambda: self._bits.start(_CALM))
        self._bits.start(_CALM)

    def _prepare(self) -> None:
        """Do bit by bit, while hands rest, what keeping the work of thousands of clips would take at once."""
        document = self._document
        if document.playing or document.history.has_draft:
            self._bits.start(_CALM)
        elif self._steps is None or self._prepared is not document.history.committed:
            self._prepared = document.history.committed
            self._steps = preparing(self._prepared)
            self._bits.start(_APART)
        else:
            until = time.perf_counter() + _BIT
            with suppress(RovixError, ValueError):  # what cannot be written is said when it is to be
                if any(time.perf_counter() > until for _ in self._steps):
                    self._bits.start(_APART)

    def write(self) -> bool:
        """Keep the work now; False, with a message, when it cannot be kept."""
        document = self._document
        project = document.work
        if project is self._written or not (document.history.is_changed or document.typing):
            return True
        if self._keeper is None:
            self._keeper = WorkKeeper(work_folder(), document.name, document.path)
        try:
            self._keeper.write(project, document.base)
        except RovixError as wrong:
            if not self._failed:  # once is enough to say, until it works again
                document.problem.emit(f"{wrong}\nUnsaved work cannot be kept safe; save the project now.")
            self._failed = True
            return False
        self._written, self._failed = project, False
        return True

    def clear(self) -> None:
        """The work is saved or given up: nothing is left of it."""
        self._timer.stop()
        if self._keeper is not None:
            self._keeper.clear()
        self._begin_anew()

    def _changed(self) -> None:
        if self._document.history.is_changed:
            if not self._timer.isActive():
                self._timer.start()
        elif self._written is not None:
            # Undone back to what the file holds: what was kept is out of date.
            self.clear()

    def _typed(self) -> None:
        if self._document.typing and not self._timer.isActive():
            self._timer.start()

    def _begin_anew(self) -> None:
        """What is kept from now on is other work."""
        self._timer.stop()
        self._keeper = self._written = None
        self._failed = False
