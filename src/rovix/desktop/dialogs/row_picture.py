"""The picture of a row: drawn beside everything else, the newest asked for shown."""

from __future__ import annotations

from pathlib import Path

import numpy as np
from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QImage, QPixmap
from PySide6.QtWidgets import QLabel, QWidget

from rovix.engine.long_job import LongJob
from rovix.model import Project

_WORK = "rovix.engine.still_picture:still"
_PAUSE, _OFTEN = 120, 30  # ms until a hand rests, and from look to look


class RowPicture(QLabel):
    """Asked for a picture it shows it as soon as it is drawn; `said` in its place where there is none."""

    def __init__(self, parent: QWidget, width: int, height: int) -> None:
        super().__init__(parent, alignment=Qt.AlignmentFlag.AlignCenter, wordWrap=True)
        self.setFixedSize(width, height)
        self.setObjectName("preview")
        self._asked: tuple[Project, Path, int] | None = None
        self._job: LongJob | None = None
        self._pause = QTimer(self, interval=_PAUSE, singleShot=True)
        self._pause.timeout.connect(self._begin)
        self._timer = QTimer(self, interval=_OFTEN)
        self._timer.timeout.connect(self._look)

    def ask(self, project: Project, base: Path, frame: int) -> None:
        """Show a frame of a project, when it is drawn."""
        self._asked = project, base, frame
        self._pause.start()

    def say(self, text: str) -> None:
        """Show words, and no picture that was asked for before."""
        self._asked = None
        self._pause.stop()
        self.setPixmap(QPixmap())
        self.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.setText(text)

    def close_down(self) -> None:
        """End what is being drawn."""
        self._asked = None
        self._pause.stop()
        self._timer.stop()
        job, self._job = self._job, None
        if job is not None:
            job.close()

    def _begin(self) -> None:
        if self._asked is None or self._job is not None:
            return  # one at a time: what is asked for meanwhile comes next
        (project, base, frame), self._asked = self._asked, None
        own = project.sequence.size
        share = min(self.width() / own[0], self.height() / own[1]) * self.devicePixelRatioF()
        size = max(2, round(own[0] * share)), max(2, round(own[1] * share))
        self._job = LongJob(_WORK, project, base, frame, size)
        self._timer.start()

    def _look(self) -> None:
        job = self._job
        if job is None or not job.look():
            return
        self._timer.stop()
        self._job = None
        result, refused = job.result, job.refused
        job.close()
        if self._asked is not None:
            self._begin()
        elif refused:
            self.say(refused)
        elif result is not None:
            self._show(result)

    def _show(self, pixels: np.ndarray) -> None:
        kept = np.ascontiguousarray(pixels)
        height, width = kept.shape[:2]
        image = QImage(kept.data, width, height, 4 * width, QImage.Format.Format_ARGB32_Premultiplied).copy()
        image.setDevicePixelRatio(self.devicePixelRatioF())
        self.setText("")
        self.setAlignment(Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignTop)
        self.setPixmap(QPixmap.fromImage(image))
