"""What the viewer shows: the picture that the service drew, at a zoom, and what lies over it."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRect, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QImage,
    QPainter,
    QPaintEvent,
    QPen,
    QRegion,
    QResizeEvent,
)
from PySide6.QtWidgets import QWidget

from rovix.desktop.document import Document
from rovix.desktop.theme import colour, font
from rovix.desktop.viewer.compare_view import CompareNames
from rovix.desktop.viewer.comparison import Comparison
from rovix.desktop.viewer.contrast_marks import ContrastMarks
from rovix.desktop.viewer.crossing_overlay import CrossingPicture
from rovix.desktop.viewer.dragging import LayerDrag
from rovix.desktop.viewer.geometry import View, fitted_view
from rovix.desktop.viewer.hand import Hand, paint_hint
from rovix.desktop.viewer.matte_shade import MatteShade
from rovix.desktop.viewer.overlays import Overlays
from rovix.desktop.viewer.path_overlay import PathPicture
from rovix.desktop.viewer.words_editor import WordsEditor
from rovix.engine.picture_service import Picture
from rovix.motion.quads import LayerQuads

_ZOOMS = (0.1, 8.0)


class Screen(QWidget):
    """Shows pictures; what takes hold of them builds on it."""

    zoom_changed = Signal(float)
    wants_size = Signal(int, int)
    editing_changed = Signal(bool)

    def __init__(self, document: Document) -> None:
        super().__init__()
        self._document = document
        self._picture: Picture | None = None
        self._image: QImage | None = None
        self._asked = 0, 0
        self._room = np.empty((0, 0, 4), dtype=np.uint8)
        self._zoom: float | None = None
        self._offset = QPointF(0, 0)
        self._caret_on = True
        self._drag: LayerDrag | None = None
        self.editor: WordsEditor | None = None
        self.comparison = Comparison(document)
        self._names = CompareNames(self.comparison, document, self, lambda: self.view)
        self.show_safe, self.show_ghost, self.show_guides, self.snaps = True, True, True, True
        self.show_path, self.show_neighbours = False, False
        self.hand: Hand | None = None
        """What has the mouse and the keys for a while."""
        self.shade: MatteShade | None = None
        """A matte that is shown over the picture."""
        self.contrast = ContrastMarks(document)
        self.contrast.changed.connect(self.update)
        self._path = PathPicture(document)
        self._crossing = CrossingPicture(document)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.setMinimumSize(320, 180)
        document.keys.changed.connect(self.update)
        document.project_changed.connect(self.update)

    def show_shade(self, shade: MatteShade | None, only: MatteShade | None = None) -> None:
        """Show a matte over the picture; None ends that, with `only` if that one is shown."""
        if only is None or self.shade is only:
            self.shade = shade
            self.update()

    def sizeHint(self) -> QSize:
        return QSize(680, 380)

    def show_picture(self, picture: Picture | None) -> None:
        """Put a picture up; its pixels are wrapped, not copied. None lets go of the last."""
        self._picture, self._image = picture, None
        if picture is not None and picture.pixels is not None:
            smaller = picture.quality.scale < 1 and not self._is_scaled(self.view, self._asked[0])
            pixels = self._enlarged(picture.pixels) if smaller else picture.pixels
            height, width = pixels.shape[:2]
            self._image = QImage(
                pixels.data, width, height, width * 4, QImage.Format.Format_ARGB32_Premultiplied
            )
        self.update()

    def _enlarged(self, pixels: NDArray[np.uint8]) -> NDArray[np.uint8]:
        """A picture that was drawn smaller, for playing in time, at the size that was asked for: in half of
        the time that a painter takes for it."""
        import cv2  # is there by then: it is loaded behind the first picture, which is never a smaller one

        if self._room.shape[1::-1] != self._asked:
            self._room = np.empty((*self._asked[::-1], 4), dtype=np.uint8)
        cv2.resize(pixels, self._asked, dst=self._room, interpolation=cv2.INTER_LINEAR)
        return self._room

    @property
    def image(self) -> QImage | None:
        """The picture that is up."""
        return self._image

    @property
    def view(self) -> View:
        size = self._document.project.sequence.size
        if self._zoom is None:
            return fitted_view(size, self.width(), self.height())
        left = (self.width() - size[0] * self._zoom) / 2 + self._offset.x()
        top = (self.height() - size[1] * self._zoom) / 2 + self._offset.y()
        return View(size, self._zoom, left, top)

    def fit(self) -> None:
        """Show the whole frame."""
        self._zoom, self._offset = None, QPointF(0, 0)
        self._view_changed()

    def zoom_to(self, scale: float, at: QPointF | None = None) -> None:
        """Show the frame at a scale (1 is a px for a px), keeping the point under the mouse."""
        scale = min(max(scale, _ZOOMS[0]), _ZOOMS[1])
        at = at or QPointF(self.width() / 2, self.height() / 2)
        under = self.view.to_frame(at)
        self._zoom = scale
        self._offset = QPointF(0, 0)
        self._offset = at - self.view.to_view(*under)
        self._view_changed()

    def _view_changed(self) -> None:
        self.zoom_changed.emit(self.view.scale)
        self._ask_size()
        self.update()

    def _ask_size(self) -> None:
        """The picture is drawn as large as it is shown, never larger than the sequence."""
        size = self._document.project.sequence.size
        share = min(1.0, self.view.scale * self.devicePixelRatioF())
        width, height = (max(16, round(side * share / 2) * 2) for side in size)
        self._asked = width, height
        self.wants_size.emit(width, height)

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._view_changed()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        view = self.view
        self._paint_surround(painter, view)
        scaled = self._image is not None and self._is_scaled(view, self._image.width())
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, scaled)
        if self._image is not None:
            painter.drawImage(view.frame, self._image)
        elif self._picture is not None and self._picture.error:
            self._paint_error(painter, view, self._picture.error)
        painter.setPen(QPen(colour("frame_edge"), 1))
        painter.drawRect(view.frame)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.comparison.on:
            self._names.place(view)
            self._names.paint(painter, view)
        elif not self._document.playing:
            self._paint_overlays(painter, view)
        painter.end()

    def _paint_surround(self, painter: QPainter, view: View) -> None:
        """All around the picture, which hides what is under it; its edges may lie within a px."""
        hidden = QRect() if self._image is None else view.frame.toRect().adjusted(1, 1, -1, -1)
        for part in QRegion(self.rect()).subtracted(hidden):  # type: ignore[attr-defined]  # it can be
            painter.fillRect(part, colour("surround"))

    def _is_scaled(self, view: View, width: int) -> bool:
        """Whether a picture so many px wide is not shown px for px."""
        return abs(width - view.frame.width() * self.devicePixelRatioF()) > 1

    def _paint_error(self, painter: QPainter, view: View, error: str) -> None:
        painter.fillRect(view.frame, colour("panel"))
        painter.setPen(colour("problem"))
        painter.setFont(font(1.0))
        inside = view.frame.adjusted(20, 20, -20, -20)
        painter.drawText(inside, Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap, error)

    def _paint_overlays(self, painter: QPainter, view: View) -> None:
        overlays = Overlays(painter, view, self._document, self._quads_of)
        if self.show_safe:
            overlays.safe_areas()
        if self.editor is None:
            overlays.parked_words(QRectF(self.rect()), self.show_ghost)
        if self.show_guides:
            overlays.guides()
        overlays.empty_words()
        if self.shade is not None:
            self.shade.paint(painter, view)
        self.contrast.paint(painter, view)
        if self.hand is not None:
            self.hand.paint(painter, view)
            paint_hint(painter, QRectF(self.rect()), self.hand.hint)
        else:
            self._paint_selected(overlays, painter, view)

    def _paint_selected(self, overlays: Overlays, painter: QPainter, view: View) -> None:
        """The selected layer's marks, and what is being done to it."""
        quads = self._quads()
        if quads is not None:
            overlays.selection(quads, handles=self.editor is None)
        if self.show_neighbours and self.editor is None:
            overlays.neighbours()
        if self._has_path():
            self._path.paint(painter, view)
        if self.editor is None:
            self._crossing.paint(painter, view, QRectF(self.rect()))
        if self._drag is not None:
            overlays.caught(self._drag.caught)
        if self.editor is not None:
            overlays.editor(self.editor, self._caret_on)

    def _quads_of(self, identity: str | None) -> LayerQuads | None:
        quads = self._picture.quads if self._picture is not None else ()
        return next((layer for layer in quads if layer.id == identity), None)

    def _quads(self) -> LayerQuads | None:
        return self._quads_of(self._document.selected)

    def _has_path(self) -> bool:
        """Whether the selected layer's way is shown, and can be taken."""
        document = self._document
        return (
            self.show_path and self.editor is None and self._path.layer is not None and not document.playing
        )
