"""Autosave: unsaved work is kept beside the project, and offered after a crash."""

from __future__ import annotations

from pathlib import Path

from platformdirs import user_state_path
from PySide6.QtCore import QObject, QTimer

from rovix.desktop.document import Document
from rovix.edit.media_paths import with_base
from rovix.errors import RovixError
from rovix.formats import read_project, write_project
from rovix.model import Project

_AFTER = 1500  # ms after a change; a crash loses no more


def recovery_path(path: Path | None) -> Path:
    """Where unsaved work of a project is kept: beside it, or for one without a file in the user's
    state folder."""
    if path is not None:
        return path.with_name(f".{path.name}.recovery")
    return user_state_path("rovix", ensure_exists=True) / "untitled.recovery"


def unsaved_work(path: Path | None) -> Project | None:
    """The work a crash left for a project, or None; what cannot be read is no work."""
    kept = recovery_path(path)
    try:
        return read_project(kept) if kept.is_file() else None
    except RovixError:
        return None


class Recovery(QObject):
    """Writes the last step shortly after each change while there is unsaved work."""

    def __init__(self, document: Document) -> None:
        super().__init__()
        self._document = document
        self._timer = QTimer(self, singleShot=True, interval=_AFTER)
        self._timer.timeout.connect(self.write)
        self._written: Project | None = None
        document.file_changed.connect(self._changed)
        document.project_changed.connect(self._typed)
        document.opened.connect(self._forget)

    def write(self) -> None:
        """Keep the work now."""
        document = self._document
        project = document.work
        if project is self._written or not (document.history.is_changed or document.typing):
            return
        kept = recovery_path(document.path)
        try:
            write_project(kept, with_base(project, document.base, kept.parent))
            self._written = project
        except RovixError as wrong:
            document.problem.emit(f"Unsaved work could not be kept safe. {wrong}")

    def clear(self, path: Path | None) -> None:
        """The work of a project is saved or given up: nothing to recover."""
        self._timer.stop()
        recovery_path(path).unlink(missing_ok=True)

    def _changed(self) -> None:
        if self._document.history.is_changed:
            if not self._timer.isActive():
                self._timer.start()
        elif self._written is not None:
            # Undone back to what the file holds: what was kept is out of date.
            self._forget()
            self.clear(self._document.path)

    def _typed(self) -> None:
        if self._document.typing and not self._timer.isActive():
            self._timer.start()

    def _forget(self) -> None:
        """What was written belongs to another document, or is no longer needed."""
        self._written = None
        self._timer.stop()
