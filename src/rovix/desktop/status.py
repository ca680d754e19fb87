"""The status line: what pictures cost, how many are ready, how many came late."""

from __future__ import annotations

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import QHBoxLayout, QLabel, QWidget

from rovix.check.legibility import is_read, reading
from rovix.desktop.document import Document
from rovix.desktop.projector import Projector
from rovix.desktop.shown_proxies import ShownProxies
from rovix.engine.picture_service import Picture
from rovix.engine.quality import FULL
from rovix.model.clip_kinds import has_words

_EDGE = 14


class Status(QWidget):
    """Looks again a few times a second, never at each picture."""

    def __init__(self, document: Document, projector: Projector, proxies: ShownProxies) -> None:
        super().__init__()
        self._document, self._projector, self._proxies = document, projector, proxies
        self._cost, self._stands_in = 0.0, False
        self._said = QLabel("", objectName="muted")
        self._facts = QLabel("", objectName="muted")
        self._facts.setToolTip(
            "Drawing time of the last picture in ms; pictures ready; frames late since play; what stands in "
            "for footage in the picture."
        )
        row = QHBoxLayout(self)
        row.setContentsMargins(_EDGE, 1, _EDGE, 4)
        # What has no room is left out; it asks for none.
        self._facts.setMinimumWidth(1)
        self._facts.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        row.addWidget(self._said, 1)
        row.addWidget(self._facts)
        projector.picture_shown.connect(self._shown)
        self._timer = QTimer(self, interval=250)
        self._timer.timeout.connect(self._look)
        self._timer.start()
        self._forget = QTimer(self, interval=6000, singleShot=True)
        self._forget.timeout.connect(lambda: self._said.setText(""))

    def say(self, text: str) -> None:
        """A short note that goes by itself."""
        self._said.setText(text)
        self._forget.start()

    def _shown(self, picture: Picture | None) -> None:
        if picture is not None:
            self._cost, self._stands_in = picture.cost, picture.stands_in

    def _look(self) -> None:
        player = self._projector.player
        late = f"   late {player.late} of {player.played}" if player.played else ""
        count = 0 if self._document.playing else len(self._projector.ready())
        ready = "" if self._document.playing else f"   cached {count} of {self._document.length}"
        shown = self._proxies.said
        near = "nearest picture   " if self._stands_in else ""
        cost = f"{near}{self._pace()}{shown}{'   ' if shown else ''}picture {self._cost:.0f} ms{late}"
        stands = self._reading()
        self._facts.setText(self._fitting(f"{stands}{cost}{ready}", f"{stands}{cost}", stands or cost))

    def _fitting(self, *texts: str) -> str:
        """The longest that has room; the last where none has."""
        room = self.width() - 2 * _EDGE - 6
        metrics = self._facts.fontMetrics()
        return next((text for text in texts if metrics.horizontalAdvance(text) <= room), texts[-1])

    def _reading(self) -> str:
        """How long the selected words stand, and how long they take to be read."""
        clip = self._document.clip
        if not has_words(clip) or not is_read(clip):
            return ""
        found = reading(clip, self._document.rate)
        return f"stands {found.coming + found.shown:.1f} s, read in {found.needed:.1f} s   "

    def _pace(self) -> str:
        """How well pictures are drawn while playing, where that is not at their best."""
        quality = self._projector.quality
        if quality == FULL:
            return ""
        blur = "" if quality.samples > 64 else f", blur of {quality.samples} samples"
        return f"playing at {quality.scale * 100:.0f} %{blur}   "
