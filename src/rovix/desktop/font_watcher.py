"""Notices fonts that come or go while the window is open."""

from __future__ import annotations

import os
from pathlib import Path

from PySide6.QtCore import QFileSystemWatcher, QObject, QTimer, Signal

from rovix.desktop.document import Document
from rovix.engine.project_fonts import user_fonts
from rovix.text.catalogue import BESIDE
from rovix.text.system_fonts import font_folders

_BEGIN = 4000  # ms after the window opened: asking for the system's folders can wait for the first picture
_REST = 700  # ms without a change, as several files come one after the other
_MOST_FOLDERS = 500


class FontWatcher(QObject):
    """Says `changed` once after each lot of changes in the system's, the user's and the project's folders."""

    changed = Signal()

    def __init__(self, document: Document) -> None:
        super().__init__(document)
        self._document = document
        self._watcher = QFileSystemWatcher(self)
        self._rest = QTimer(self, interval=_REST, singleShot=True)
        self._rest.timeout.connect(self._look)
        self._watcher.directoryChanged.connect(self._changed)
        self._begin = QTimer(self, interval=_BEGIN, singleShot=True)
        self._begin.timeout.connect(self._look)
        self._begin.start()
        document.opened.connect(self._opened)
        self._beside = document.base / BESIDE
        self._seen: frozenset[tuple[str, int, int]] | None = None

    def watch(self) -> None:
        """Watch the folders that there are now."""
        folders = self._folders()
        watched = set(self._watcher.directories())
        if watched - folders:
            self._watcher.removePaths(sorted(watched - folders))
        if folders - watched:
            self._watcher.addPaths(sorted(folders - watched))
        self._seen = self._files({*font_folders(), *map(str, self._own_folders())})

    def _opened(self) -> None:
        """The fonts beside the document were read as it opened: they have not come only now."""
        before, self._beside = self._beside, self._document.base / BESIDE
        if self._seen is not None:
            kept = {fact for fact in self._seen if Path(fact[0]).parent != before}
            self._seen = frozenset(kept | self._files({str(self._beside)}))
        self._begin.start()

    def _changed(self, folder: str) -> None:
        """A folder where fonts may only come to be is of interest once they do."""
        waited = [path for path in self._own_folders() if str(path.parent) == folder]
        if not waited or any(path.is_dir() for path in waited):
            self._rest.start()

    def _own_folders(self) -> tuple[Path, Path]:
        return self._document.base / BESIDE, user_fonts()

    def _folders(self) -> set[str]:
        own = self._own_folders()
        there = {name for name in (*font_folders()[:_MOST_FOLDERS], *map(str, own)) if Path(name).is_dir()}
        # A folder that is not there yet is noticed by the one that it will be in.
        return there | {str(path.parent) for path in own if not path.is_dir() and path.parent.is_dir()}

    def _files(self, folders: set[str]) -> frozenset[tuple[str, int, int]]:
        """The files in the folders of fonts; what else changes beside a project is not of interest."""
        found = set()
        for folder in folders:
            try:
                with os.scandir(folder) as entries:
                    facts = [(entry.path, entry.stat()) for entry in entries if entry.is_file()]
                found |= {(path, fact.st_mtime_ns, fact.st_size) for path, fact in facts}
            except OSError:
                continue
        return frozenset(found)

    def _look(self) -> None:
        before = self._seen
        self.watch()
        if before is not None and before != self._seen:
            self.changed.emit()
