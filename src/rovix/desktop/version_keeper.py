"""Keeps what was saved among the earlier versions, beside the interface's own work."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from PySide6.QtCore import QObject, Signal

from rovix.engine.earlier_versions import keep_version
from rovix.errors import RovixError


class VersionKeeper(QObject):
    """One after the other, in a thread; what cannot be kept is said once for each folder."""

    refused = Signal(str)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._thread = ThreadPoolExecutor(1, thread_name_prefix="versions")
        self._told: set[Path] = set()

    def keep(self, path: Path, picture: bytes) -> None:
        """Keep what stands in a project file now, with a picture of it."""
        self._thread.submit(self._keep, path, picture)

    def _keep(self, path: Path, picture: bytes) -> None:
        try:
            kept = keep_version(path, path.read_bytes(), picture)
            said = "" if kept else f"{path.name} is too large for earlier versions to be kept."
        except (RovixError, OSError) as wrong:
            said = str(wrong)
        if said and path.parent not in self._told:
            self._told.add(path.parent)
            self.refused.emit(said)

    def wait(self) -> None:
        """Until all that was saved is kept; nothing more is kept from then on."""
        self._thread.shutdown(wait=True)
