"""Which proxies there are for the open document's footage, and whether the picture shows them."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QObject, QSettings, Signal

from rovix.desktop.document import Document
from rovix.desktop.projector import Projector
from rovix.engine.proxy_files import SHARES, Found, proxies_there

SHOW_PROXIES = "play/proxies"
"""The setting that has the picture show proxies where there are some."""


class ShownProxies(QObject):
    """Looks on the disk when the list of files or the project's place changes, and when told to."""

    changed = Signal()

    def __init__(self, document: Document, projector: Projector, settings: QSettings) -> None:
        super().__init__(document)
        self._document, self._projector, self._settings = document, projector, settings
        self.on = settings.value(SHOW_PROXIES, True, bool) is True
        self._there: dict[str, Found] = {}
        self._known: object = None
        document.project_changed.connect(self._look_if_needed)
        document.file_changed.connect(self._look_if_needed)
        self.look()

    def __bool__(self) -> bool:
        return bool(self._there)

    def share_of(self, identity: str) -> int | None:
        """By what the sides of footage are divided in its proxy; None where it has none."""
        found = self._there.get(identity)
        return None if found is None else found[0]

    def turn(self) -> None:
        """Show proxies, or the footage itself."""
        self.on = not self.on
        self._settings.setValue(SHOW_PROXIES, self.on)
        self._show()

    def look(self) -> None:
        """Proxies may have come or gone."""
        document = self._document
        self._known = self._state()
        self._there = proxies_there(document.whole.media, document.base, document.path)
        self._show()

    @property
    def said(self) -> str:
        """What is shown in place of footage, in a few words; nothing where nothing is."""
        shares = sorted({share for share, _ in self._there.values()}) if self.on else []
        return f"proxies at {' and '.join(SHARES[share] for share in shares)} size" if shares else ""

    def _look_if_needed(self) -> None:
        if self._state() != self._known:
            self.look()

    def _state(self) -> object:
        document = self._document
        return document.whole.media, document.base, document.path

    def _show(self) -> None:
        shown: dict[str, Path] = {i: path for i, (_, path) in self._there.items()} if self.on else {}
        self._projector.use_proxies(shown)
        self.changed.emit()
