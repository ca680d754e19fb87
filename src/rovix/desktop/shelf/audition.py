"""A move that is tried on plays in the picture, over the footage, while the mouse stays on its card."""

from __future__ import annotations

from PySide6.QtCore import QObject, QSettings, QTimer

from rovix.desktop.document import Document
from rovix.desktop.projector import Projector
from rovix.desktop.rehearsal import span_of_part

_STAY = 250  # ms that the mouse stays before it plays
KEY = "shelf/play_in_picture"


class Audition(QObject):
    """Plays the part of a role again and again after a short stay; ending it puts the playhead back."""

    def __init__(
        self, document: Document, projector: Projector, settings: QSettings, parent: QObject
    ) -> None:
        super().__init__(parent)
        self._document, self._projector, self._settings = document, projector, settings
        self._role = ""
        self._left_at: int | None = None
        self._stay = QTimer(self, interval=_STAY, singleShot=True)
        self._stay.timeout.connect(self._begin)

    @property
    def wanted(self) -> bool:
        """Whether hovered cards play in the picture at all."""
        return bool(self._settings.value(KEY, True, bool))

    def turn(self) -> None:
        """Let hovered cards play in the picture, or only on their cards."""
        self._settings.setValue(KEY, not self.wanted)
        self.end()

    def wait(self, role: str) -> None:
        """A move of a role is being tried on: play it if the mouse stays."""
        self.end()
        if self.wanted and not self._document.playing:
            self._role = role
            self._stay.start()

    @property
    def playing(self) -> bool:
        """Whether a move that is tried on plays in the picture."""
        return self._left_at is not None

    def _begin(self) -> None:
        document = self._document
        span = span_of_part(document, self._role)
        if span is None or not span.length or document.playing or not document.history.has_draft:
            return
        self._left_at = document.playhead
        document.seek(span.start)
        self._projector.play(span, loop=True)

    def end(self) -> None:
        """Stop, and put the playhead back where it was."""
        self._stay.stop()
        at, self._left_at = self._left_at, None
        if at is not None:
            self._projector.stop()
            self._document.seek(at)
