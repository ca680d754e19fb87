"""A picture placed within what it is cut to: dragged, and made larger or smaller."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QPolygonF

from rovix.desktop.document import Document
from rovix.desktop.theme import colour
from rovix.desktop.viewer.geometry import View
from rovix.desktop.viewer.hand import Hand, Modifiers
from rovix.edit.values import set_channels
from rovix.model import Cut, FootageClip, StillClip
from rovix.motion import Scene
from rovix.motion.at_frame import at_frame
from rovix.motion.effects.affected import rest_world
from rovix.motion.subject import shown_size
from rovix.motion.transform import mapped

_STEP = 0.005
"""How much larger a picture is for each px of the viewer that it is dragged up with Shift, as a share."""


class CutHand(Hand):
    """Drags the picture of a layer within its cut; with Shift up and down it grows and shrinks."""

    def __init__(self, document: Document, clip: str) -> None:
        self._document, self._clip = document, clip
        self._start: tuple[QPointF, Cut] | None = None
        self._moved = False

    @property
    def hint(self) -> str:
        return "Drag the picture; with Shift up or down it grows or shrinks. Enter ends."

    cursor = Qt.CursorShape.SizeAllCursor

    @property
    def _layer(self) -> FootageClip | StillClip | None:
        found = self._document.clip
        usable = isinstance(found, FootageClip | StillClip) and found.id == self._clip
        return found if usable and found.cut is not None else None  # type: ignore[union-attr, return-value]

    def _cut(self) -> Cut | None:
        layer = self._layer
        return None if layer is None or layer.cut is None else at_frame(layer.cut, self._document.clip_frame)

    def is_over(self) -> bool:
        return self._layer is None

    def press(self, view: View, point: QPointF, modifiers: Modifiers) -> None:
        cut = self._cut()
        if self._document.is_locked:
            self._document.problem.emit("The layer's track is locked; unlock it first.")
        elif cut is not None:
            self._start, self._moved = (point, cut), False

    def move(self, view: View, point: QPointF, modifiers: Modifiers, held: bool) -> None:
        matrix = self._matrix()
        if not held or self._start is None or matrix is None:
            return
        start, cut = self._start
        self._moved = True
        if modifiers & Modifiers.ShiftModifier:
            grown = cut.zoom * float(np.exp((start.y() - point.y()) * _STEP))
            self._try(zoom=round(min(max(grown, 0.01), 100.0), 4))
            return
        back = np.asarray(np.linalg.pinv(matrix), dtype=np.float64)
        ends = mapped(back, np.array([view.to_frame(start), view.to_frame(point)], dtype=np.float64))
        if np.isfinite(ends).all():
            dx, dy = (ends[1] - ends[0]).tolist()
            self._try(x=round(cut.x + dx, 2), y=round(cut.y + dy, 2))

    def _try(self, **values: float) -> None:
        clip, frame = self._clip, self._document.clip_frame
        made = {f"cut.{name}": value for name, value in values.items()}
        self._document.try_on(lambda project: set_channels(project, clip, frame, made))

    def release(self, view: View, point: QPointF, modifiers: Modifiers) -> None:
        begun, self._start = self._start, None
        if begun is not None and self._moved:
            self._document.keep("Place the picture within its form")

    def escape(self) -> bool:
        begun, self._start = self._start is not None, None
        if begun:
            self._document.drop()
        return begun

    def _matrix(self) -> np.ndarray | None:
        layer = self._layer
        if layer is None:
            return None
        scene = Scene.of(self._document.picture_project)
        return scene.project(
            rest_world(scene, layer, np.eye(4), float(layer.start + self._document.clip_frame))
        )

    def paint(self, painter: QPainter, view: View) -> None:
        """The whole picture's edge, where it is cut away too."""
        layer, cut, matrix = self._layer, self._cut(), self._matrix()
        if layer is None or cut is None or matrix is None:
            return
        scene = Scene.of(self._document.picture_project)
        width, height = shown_size(layer, scene.size, scene.file_of(layer))
        box = QRectF(-width / 2, -height / 2, width, height)
        corners = np.array([
            [cut.x + cut.zoom * x, cut.y + cut.zoom * y]
            for x, y in ((box.left(), box.top()), (box.right(), box.top()), (box.right(), box.bottom()),
                         (box.left(), box.bottom()))
        ])  # fmt: skip
        found = mapped(matrix, corners)
        if not np.isfinite(found).all():
            return
        painter.setBrush(Qt.BrushStyle.NoBrush)
        polygon = QPolygonF([view.to_view(*spot) for spot in found.tolist()])
        for width_, role, share in ((3.4, "ground", 0.7), (1.4, "text", 1.0)):
            painter.setPen(QPen(colour(role, share), width_))
            painter.drawPolygon(polygon)
