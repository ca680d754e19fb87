"""What a matte covers, hatched over the picture while it grows and while it is corrected."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QBrush, QPainter, QPainterPath, QPen, QPolygonF

from rovix.desktop.document import Document
from rovix.desktop.footage_shown import FootageShown
from rovix.desktop.theme import colour
from rovix.desktop.viewer.geometry import View
from rovix.motion.transform import seen_part

Outlines = tuple[tuple[tuple[int, int], ...], ...]


class MatteShade:
    """The outlines of a matte by the frame of the footage's file, as far as they are known."""

    def __init__(self, document: Document, shown: FootageShown) -> None:
        self._document, self._shown = document, shown
        self._outlines: dict[int, Outlines] = {}

    def add(self, parts: list[tuple[int, Outlines]]) -> None:
        self._outlines.update(parts)

    def knows(self, frame: int) -> bool:
        return frame in self._outlines

    def paint(self, painter: QPainter, view: View) -> None:
        frame = self._document.playhead - self._shown.clip.start
        if not 0 <= frame < self._shown.clip.length:
            return
        outlines = self._outlines.get(self._shown.files[frame])
        if outlines is None:
            return
        matrix, path = self._shown.matrix(frame), QPainterPath()
        path.setFillRule(Qt.FillRule.OddEvenFill)
        for line in outlines:
            points = seen_part(matrix, np.array(line, dtype=np.float64))
            path.addPolygon(QPolygonF([QPointF(view.to_view(*spot)) for spot in points.tolist()]))
            path.closeSubpath()
        painter.setPen(QPen(colour("ground", 0.8), 2.4))
        painter.setBrush(QBrush(colour("text", 0.6), Qt.BrushStyle.BDiagPattern))
        painter.drawPath(path)
        painter.setPen(QPen(colour("text"), 1.1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(path)
