"""The peak meter: how loud the mix is on the playhead's frame."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from rovix.desktop.document import Document
from rovix.desktop.theme import colour
from rovix.desktop.thumbnails import Thumbnails

FLOOR = -48.0
"""dB at the meter's foot; its head is full scale, 0 dB."""
_FALL = 2.0  # dB that a bar falls per frame once the sound is gone


class Meter(QWidget):
    """Two bars, left and right; a brick head stays lit where the mix has clipped, until it is clicked."""

    def __init__(self, document: Document, thumbnails: Thumbnails) -> None:
        super().__init__()
        self._document, self._thumbnails = document, thumbnails
        self._shown = np.full(2, FLOOR)
        self.clipped = np.zeros(2, dtype=bool)
        self.setFixedWidth(22)
        self.setAccessibleName("Peak meter")
        document.playhead_moved.connect(self._look)
        thumbnails.levels_changed.connect(self._levels_changed)
        document.level_changed.connect(self.reset)

    def sizeHint(self) -> QSize:
        return QSize(22, 120)

    def decibels(self) -> np.ndarray:
        """(2,): the peak of the playhead's frame, left and right, in dB; the floor where it is silent."""
        levels, frame = self._thumbnails.levels, self._document.playhead
        if frame >= len(levels):
            return np.full(2, FLOOR)
        return np.maximum(FLOOR, 20 * np.log10(np.maximum(levels[frame], 1e-6)))

    def reset(self) -> None:
        """Put out the clipping marks."""
        self.clipped[:] = False
        self._look()

    def _levels_changed(self) -> None:
        self.reset()

    def _look(self, _frame: int = 0) -> None:
        now = self.decibels()
        fallen = self._shown - _FALL if self._document.playing else now
        self._shown = np.maximum(now, fallen)
        self.clipped |= now > 0
        if not self._document.playing:
            self._say(now)
        self.update()

    def _say(self, now: np.ndarray) -> None:
        said = " and ".join(f"{value:.1f} dB" if value > FLOOR else "silent" for value in now)
        self.setToolTip(
            f"The mix's peak on this frame, left and right: {said}. Click puts out the clipping marks."
        )

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.reset()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), colour("panel"))
        painter.setPen(Qt.PenStyle.NoPen)
        for side in (0, 1):
            self._paint_bar(painter, QRectF(4 + side * 8, 8, 6, self.height() - 14), side)
        painter.end()

    def _paint_bar(self, painter: QPainter, box: QRectF, side: int) -> None:
        painter.fillRect(box, colour("ground"))
        share = float(np.clip((self._shown[side] - FLOOR) / -FLOOR, 0.0, 1.0))
        loud = self._shown[side] > -6
        height = box.height() * share
        lit = QRectF(box.left(), box.bottom() - height, box.width(), height)
        painter.fillRect(lit, colour("accent") if loud else colour("loop"))
        head = QRectF(box.left(), box.top() - 6, box.width(), 4)
        painter.fillRect(head, colour("problem") if self.clipped[side] else colour("ground"))
