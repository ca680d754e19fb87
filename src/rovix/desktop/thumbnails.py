"""Strips, waveforms and levels for the views: asked for once, drawn when they are there."""

from __future__ import annotations

from collections.abc import Callable, Hashable
from typing import Any

import numpy as np
from PySide6.QtCore import QObject, QTimer, Signal
from PySide6.QtGui import QImage, QPixmap

from rovix.desktop.document import Document
from rovix.desktop.pipes import Pipes
from rovix.engine.thumbnails import ThumbnailMaker
from rovix.model import Media

_IDLE = 8000  # ms without an answer after which the process is let go
_CALM = 500  # ms without a change before levels are worked out anew


class Thumbnails(QObject):
    """`changed` when something asked for has come."""

    changed = Signal()
    levels_changed = Signal()

    def __init__(
        self, document: Document, service: ThumbnailMaker, is_early: Callable[[], bool] = lambda: False
    ) -> None:
        """`is_early` says whether something else is still waited for, which the sound's peaks come after."""
        super().__init__(document)
        self._document, self._service, self._is_early = document, service, is_early
        self._found: dict[Hashable, Any] = {}
        self._asked: set[Hashable] = set()
        self.version = 0
        """Counts what has come: what was drawn from an older one is out of date."""
        self._levels: np.ndarray = np.zeros((0, 2), np.float32)
        self._levels_of: object = None
        service.on_answer = self._answered
        self._pipes = Pipes(lambda _: service.receive(), self)
        service.on_watch = self._pipes.watch
        self._calm = QTimer(self, interval=_CALM, singleShot=True)
        self._calm.timeout.connect(self._ask_levels)
        self._idle = QTimer(self, interval=_IDLE, singleShot=True)
        self._idle.timeout.connect(service.rest)
        document.project_changed.connect(self._project_changed)
        document.opened.connect(self._forget_all)
        self._project_changed()

    def strip(self, media: Media) -> list[QPixmap]:
        """Small pictures along the file; none until they are there."""
        key = ("strip", media.id, media.digest, str(self._document.base / media.path))
        path = self._document.base / media.path
        return self._get(key, ("strip", (path, media.kind, media.length or 0.0))) or []

    def waveform(self, media: Media) -> np.ndarray | None:
        """(n, 2) lowest and highest samples per hundredth of a second, or None until they are there."""
        path = self._document.base / media.path
        found = self._get(("waveform", media.id, media.digest, str(path)), ("waveform", (path,)))
        return found if isinstance(found, np.ndarray) else None

    @property
    def levels(self) -> np.ndarray:
        """(frames, 2): the mix's peak per frame, as far as it is known."""
        return self._levels

    def forget(self, media: Media) -> None:
        """Look at a file anew: it may be another one now."""
        for key in [key for key in self._asked if isinstance(key, tuple) and media.id in key]:
            self._asked.discard(key)
            self._found.pop(key, None)
        self.version += 1
        self._levels_of = None
        self._project_changed()

    def _forget_all(self) -> None:
        """What was looked at belongs to another document."""
        self._found.clear()
        self._asked.clear()
        self.version += 1
        self._levels_of = None

    def close(self) -> None:
        self._calm.stop()
        self._idle.stop()
        self._service.close()

    def _get(self, key: Hashable, job: Any) -> Any:
        if key not in self._asked:
            self._asked.add(key)
            self._service.ask(key, job)
        return self._found.get(key)

    def _answered(self, key: Hashable, answer: Any) -> None:
        self._idle.start()
        name = key[0] if isinstance(key, tuple) else ""
        if isinstance(answer, str):
            answer = None  # the files' own list says what is missing; here it is only not drawn
        if name == "levels":
            self._levels = answer if answer is not None else np.zeros((0, 2), np.float32)
            self.levels_changed.emit()
            return
        if name == "strip" and answer is not None:
            answer = [_pixmap(picture) for picture in answer]
        self._found[key] = answer
        self.version += 1
        self.changed.emit()

    def _project_changed(self) -> None:
        if not self._document.history.has_draft and not self._calm.isActive():
            self._calm.start()

    def _ask_levels(self) -> None:
        if self._is_early():
            self._calm.start()
            return
        from rovix.media.mix import mix_dependencies  # the codecs: see `loaded_later`

        project = self._document.committed
        now = mix_dependencies(project)
        if now != self._levels_of:
            self._levels_of = now
            self._service.ask(("levels",), ("levels", (project, self._document.base)))


def _pixmap(pixels: np.ndarray) -> QPixmap:
    height, width = pixels.shape[:2]
    kept = np.ascontiguousarray(pixels)
    image = QImage(kept.data, width, height, width * 4, QImage.Format.Format_ARGB32_Premultiplied)
    return QPixmap.fromImage(image.copy())
