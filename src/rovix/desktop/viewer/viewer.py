"""The viewer: shows the picture that the service drew, and lets hands work on it."""

from __future__ import annotations

from typing import Any

import numpy as np
from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import (
    QImage,
    QInputMethodEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QApplication, QWidget

from rovix.desktop.document import Document, Edit
from rovix.desktop.theme import colour, font
from rovix.desktop.viewer.compare_view import CompareNames
from rovix.desktop.viewer.comparison import Comparison
from rovix.desktop.viewer.dragging import LayerDrag, begin_drag, guide_edit
from rovix.desktop.viewer.geometry import Grab, View, fitted_view, grab_at
from rovix.desktop.viewer.overlays import Overlays, empty_marks
from rovix.desktop.viewer.path_overlay import PathDrag, PathGrab, PathPicture
from rovix.desktop.viewer.words_editor import WordsEditor
from rovix.edit.arrange import move_in_frame
from rovix.edit.keys import all_keys
from rovix.edit.paths import ADDRESS, add_point
from rovix.engine.picture_service import Picture
from rovix.model.clip_kinds import has_words, is_layer
from rovix.motion.motion_path import path_frames
from rovix.motion.quads import LayerQuads, layer_at

_CURSORS = {"scale": Qt.CursorShape.SizeFDiagCursor, "pivot": Qt.CursorShape.CrossCursor}
_POSITION = frozenset({"transform.x", "transform.y", ADDRESS})
_ZOOMS = (0.1, 8.0)
_NUDGES = {
    Qt.Key.Key_Left: (-1, 0),
    Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Up: (0, -1),
    Qt.Key.Key_Down: (0, 1),
}


class Viewer(QWidget):
    """Select by click, move, scale and turn by handles, double-click to edit the words in place."""

    zoom_changed = Signal(float)
    wants_size = Signal(int, int)
    editing_changed = Signal(bool)

    def __init__(self, document: Document) -> None:
        super().__init__()
        self._document = document
        self._picture: Picture | None = None
        self._image: QImage | None = None
        self._zoom: float | None = None
        self._offset = QPointF(0, 0)
        self._drag: LayerDrag | None = None
        self._guide: Grab | None = None
        self._pan: QPointF | None = None
        self.line_up = Comparison(document)
        self._names = CompareNames(self.line_up, document, self, lambda: self.view)
        self.editor: WordsEditor | None = None
        self.styling_sheet: QWidget | None = None
        self.show_safe, self.show_ghost, self.show_guides, self.snaps = True, True, True, True
        self.show_path, self.show_neighbours = False, False
        self._path = PathPicture(document)
        self._path_drag: PathDrag | None = None
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAttribute(Qt.WidgetAttribute.WA_InputMethodEnabled)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.setMinimumSize(320, 180)
        self.setAccessibleName("Viewer")
        self.setAccessibleDescription(
            "The picture at the playhead. Arrow keys move the selected layer by 1 px."
        )
        self._wink = QTimer(self, interval=530)
        self._wink.timeout.connect(self._turn_caret)
        self._caret_on = True
        document.selection_changed.connect(self._selection_changed)
        document.keys.changed.connect(self.update)
        document.project_changed.connect(self.update)

    def sizeHint(self) -> QSize:
        return QSize(680, 380)

    # What is shown

    def show_picture(self, picture: Picture | None) -> None:
        """Put a picture up; its pixels are wrapped, not copied. None lets go of the last."""
        self._picture, self._image = picture, None
        if picture is not None and picture.pixels is not None:
            height, width = picture.pixels.shape[:2]
            self._image = QImage(
                picture.pixels.data, width, height, width * 4, QImage.Format.Format_ARGB32_Premultiplied
            )
        self.update()

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
        self.wants_size.emit(width, height)

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._view_changed()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), colour("surround"))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        view = self.view
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, self._is_scaled(view))
        if self._image is not None:
            painter.drawImage(view.frame, self._image)
        elif self._picture is not None and self._picture.error:
            self._paint_error(painter, view, self._picture.error)
        painter.setPen(QPen(colour("frame_edge"), 1))
        painter.drawRect(view.frame)
        if self.line_up.on:
            self._names.place(view)
            self._names.paint(painter, view)
        elif not self._document.playing:
            self._paint_overlays(painter, view)
        painter.end()

    def _is_scaled(self, view: View) -> bool:
        return (
            self._image is None
            or abs(self._image.width() - view.frame.width() * self.devicePixelRatioF()) > 1
        )

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
        quads = self._quads()
        if quads is not None:
            overlays.selection(quads, handles=self.editor is None)
        if self.show_neighbours and self.editor is None:
            overlays.neighbours()
        if self._has_path():
            self._path.paint(painter, view)
        if self._drag is not None:
            overlays.caught(self._drag.caught)
        if self.editor is not None:
            overlays.editor(self.editor, self._caret_on)

    def _quads_of(self, identity: str | None) -> LayerQuads | None:
        quads = self._picture.quads if self._picture is not None else ()
        return next((layer for layer in quads if layer.id == identity), None)

    def _quads(self) -> LayerQuads | None:
        return self._quads_of(self._document.selected)

    # Hands

    def mousePressEvent(self, event: QMouseEvent) -> None:
        point = event.position()
        if event.button() == Qt.MouseButton.MiddleButton:
            self._pan = point - self._offset
            return
        if event.button() != Qt.MouseButton.LeftButton or self._document.playing:
            return
        if self.editor is not None:
            if self._hit(point) == self.editor.clip_id or self._near_editor(point):
                self.editor.press(
                    self.view.to_frame(point), bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
                )
                self._wake_caret()
                return
            self.finish_words()
        self._press(point, event.modifiers())

    def _press(self, point: QPointF, modifiers: Qt.KeyboardModifier) -> None:
        """Take a handle, a guide, or the layer under a point; Ctrl adds it to the selection."""
        on_path = self._path.grab(self.view, point) if self._has_path() else None
        if on_path is not None:
            self._press_path(on_path, point, modifiers)
            return
        grab = self._grab_at(point, modifiers)
        if grab is not None and grab.kind == "guide":
            self._guide = grab
            return
        if grab is None:
            hit = self._hit(point)
            if hit is not None and modifiers & Qt.KeyboardModifier.ControlModifier:
                self._document.select_also(hit)
                return
            if hit is None or hit not in self._document.selection:
                self._document.select(hit)
            elif hit != self._document.selected:
                self._document.select(*(i for i in self._document.selection if i != hit), hit)
            grab = Grab("move") if hit is not None else None
        if grab is not None:
            quads = self._picture.quads if self._picture is not None else ()
            self._drag = begin_drag(self._document, grab, point, self.view, quads, self.snaps)

    def _has_path(self) -> bool:
        """Whether the selected layer's way is shown, and can be taken."""
        document = self._document
        return (
            self.show_path and self.editor is None and self._path.layer is not None and not document.playing
        )

    def _press_path(self, grab: PathGrab, point: QPointF, modifiers: Qt.KeyboardModifier) -> None:
        """Select a point of the path, and begin to drag it or its tangent."""
        clip, keys = self._document.clip, self._document.keys
        assert clip is not None
        spots = [(clip.id, name, grab.frame) for name, own in all_keys(clip).items()
                 if name in _POSITION and grab.frame in own]  # fmt: skip
        if not grab.side and not any(spot in keys for spot in spots):
            adding = modifiers & Qt.KeyboardModifier.ControlModifier
            keys.set([*(keys if adding else ()), *spots])
        if not self._document.is_locked:
            self._path_drag = self._path.begin(self.view, grab, point)
        self.update()

    def _grab_at(self, point: QPointF, modifiers: Qt.KeyboardModifier) -> Grab | None:
        quads = self._quads()
        pivots = bool(modifiers & Qt.KeyboardModifier.ControlModifier)
        grab = grab_at(self.view, quads, point, pivots) if quads is not None else None
        return grab or (self._guide_at(point) if self.show_guides else None)

    def _guide_at(self, point: QPointF) -> Grab | None:
        view, sequence = self.view, self._document.project.sequence
        for guide in sequence.guides:
            axis = 0 if guide.upright else 1
            spot = view.to_view(*[side / 2 + guide.at for side in sequence.size])
            away = point.x() - spot.x() if axis == 0 else point.y() - spot.y()
            if abs(away) <= 3:
                return Grab("guide", guide=guide.id)
        return None

    def _near_editor(self, point: QPointF) -> bool:
        quads = self._quads()
        if quads is None or not np.all(np.isfinite(quads.rest)):
            return False
        corners = QPolygonF([self.view.to_view(*corner) for corner in quads.rest.tolist()])
        return corners.boundingRect().adjusted(-20, -20, 20, 20).contains(point)

    def _hit(self, point: QPointF) -> str | None:
        quads = self._picture.quads if self._picture is not None else ()
        # What surrounds an open group is seen, but it is not here to be taken.
        usable = {
            clip.id
            for track in self._document.project.sequence.tracks
            if not track.locked
            for clip in track.clips
        }
        offered = tuple(q for q in quads if q.id in usable)
        return layer_at(offered, self.view.to_frame(point)) or self._empty_words_at(point, usable)

    def _empty_words_at(self, point: QPointF, usable: set[str]) -> str | None:
        marks = empty_marks(self.view, self._document, self._quads_of)
        return next((name for name, box in marks if name in usable and box.contains(point)), None)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        point = event.position()
        if self._pan is not None:
            if self._zoom is None:
                self._zoom = self.view.scale
            self._offset = point - self._pan
            self._view_changed()
        elif self.editor is not None and event.buttons() & Qt.MouseButton.LeftButton:
            self.editor.press(self.view.to_frame(point), True)
            self.update()
        elif self._guide is not None:
            self._document.try_on(self._guide_edit(point))
        elif self._path_drag is not None:
            self._path_drag.moved |= (point - self._path_drag.start).manhattanLength() >= 3
            if self._path_drag.moved:
                self._document.try_on(self._path_drag.edit(point, event.modifiers()))
        elif self._drag is not None:
            self._dragged(point, event.modifiers())
        else:
            self._show_cursor(point, event.modifiers())

    def _guide_edit(self, point: QPointF) -> Edit:
        assert self._guide is not None
        identity = self._guide.guide
        guides = {guide.id: guide for guide in self._document.committed.sequence.guides}
        return guide_edit(self.view, guides[identity].upright, identity, point)

    def _dragged(self, point: QPointF, modifiers: Qt.KeyboardModifier) -> None:
        drag = self._drag
        assert drag is not None
        if not drag.moved and (point - drag.start).manhattanLength() < 3:
            return
        drag.moved = True
        self._document.try_on(drag.edit(point, modifiers))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._pan = None
        drag, self._drag = self._drag, None
        along, self._path_drag = self._path_drag, None
        if along is not None and along.moved:
            self._document.keep(along.title)
        if self._guide is not None:
            self._guide = None
            self._document.keep("Move a guide")
        if drag is not None and drag.moved:
            self._document.keep(drag.title)
        self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        if event.button() != Qt.MouseButton.LeftButton:
            return
        if self.editor is not None:
            self.editor.select_word()
            self.update()
            return
        if self._has_path() and self._put_point(event.position()):
            return
        hit = self._hit(event.position())
        if hit is not None:
            self._document.select(hit)
            self.edit_words(event.position())

    def _put_point(self, point: QPointF) -> bool:
        """Put a point on the path under the mouse; False when there is no path there."""
        clip = self._document.clip
        frame = self._path.nearest_frame(self.view, point)
        if clip is None or frame is None or not is_layer(clip) or clip.transform.path is None:
            return False
        if frame in path_frames(clip):
            return False
        if self._document.do("Put a point on the path", lambda p: add_point(p, clip.id, frame)):
            self._document.keys.set([(clip.id, ADDRESS, frame)])
        return True

    def wheelEvent(self, event: QWheelEvent) -> None:
        turns = event.angleDelta().y() / 120
        self.zoom_to(self.view.scale * 1.15**turns, event.position())

    def _show_cursor(self, point: QPointF, modifiers: Qt.KeyboardModifier) -> None:
        grab = self._grab_at(point, modifiers) if self.editor is None else None
        if grab is not None:
            shape = _CURSORS.get(grab.kind, Qt.CursorShape.PointingHandCursor)
        elif self.editor is not None:
            shape = Qt.CursorShape.IBeamCursor
        elif self._hit(point) is not None:
            shape = Qt.CursorShape.SizeAllCursor
        else:
            shape = Qt.CursorShape.ArrowCursor
        self.setCursor(shape)

    # Words

    def edit_words(self, at: QPointF | None = None) -> None:
        """Edit the selected text layer's words in place."""
        clip = self._document.clip
        if not has_words(clip) or self.editor is not None:
            return
        if self._document.is_locked:
            self._document.problem.emit("The words' track is locked; unlock it first.")
            return
        if self._document.playhead not in clip.span:
            self._document.seek(clip.start)
        self.editor = WordsEditor(self._document, clip)
        if at is not None:
            self.editor.press(self.view.to_frame(at), False)
        else:
            self.editor.anchor = 0
        self.setFocus()
        self._wake_caret()
        self._wink.start()
        self.editing_changed.emit(True)

    def finish_words(self) -> None:
        """Keep the words and stop editing."""
        editor, self.editor = self.editor, None
        if editor is None:
            return
        self._wink.stop()
        editor.finish()
        self.editing_changed.emit(False)
        self.update()

    def _selection_changed(self) -> None:
        if self.editor is not None and self._document.selected != self.editor.clip_id:
            self.finish_words()
        self.update()

    def _turn_caret(self) -> None:
        self._caret_on = not self._caret_on
        self.update()

    def _wake_caret(self) -> None:
        self._caret_on = True
        self._wink.start()
        self.update()

    def event(self, event: QEvent) -> bool:
        # While words are typed, letters are words and not shortcuts; arrows move the selection.
        if event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent):
            moving = event.key() in _NUDGES and self._document.clip is not None and not _has_control(event)
            if self.editor is not None or (moving and is_layer(self._document.clip)):
                event.accept()
                return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self._escape()
        elif self.editor is not None:
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and _has_control(event):
                self.finish_words()
            elif self.editor.key(event):
                self._wake_caret()
        elif event.key() in _NUDGES and not _has_control(event):
            self._nudge(event)
        else:
            super().keyPressEvent(event)

    def _escape(self) -> None:
        if self.editor is not None:
            self.finish_words()
        elif any(hand is not None for hand in (self._drag, self._guide, self._path_drag)):
            self._drag = self._guide = self._path_drag = None
            self._document.drop()
        else:
            self._document.select(None)

    def _nudge(self, event: QKeyEvent) -> None:
        clip, frame = self._document.clip, self._document.playhead
        if not is_layer(clip):
            event.ignore()
            return
        step = 10 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
        dx, dy = _NUDGES[Qt.Key(event.key())]
        identity = clip.id
        self._document.do(
            f"Move {clip.name}", lambda p: move_in_frame(p, identity, frame, dx * step, dy * step)
        )

    def focusOutEvent(self, event: Any) -> None:
        passing = (Qt.FocusReason.PopupFocusReason, Qt.FocusReason.ActiveWindowFocusReason)
        # Where the letters are dressed, the caret and what it selects stay.
        dressing = self.styling_sheet is not None and self.styling_sheet.isAncestorOf(
            QApplication.focusWidget()
        )
        if self.editor is not None and event.reason() not in passing and not dressing:
            self.finish_words()
        super().focusOutEvent(event)

    def inputMethodEvent(self, event: QInputMethodEvent) -> None:
        if self.editor is not None:
            self.editor.commit_text(event)
            self._wake_caret()

    def inputMethodQuery(self, query: Qt.InputMethodQuery) -> Any:
        if self.editor is not None and query == Qt.InputMethodQuery.ImCursorRectangle:
            line = self.editor.caret_line()
            if line is not None:
                return QRectF(*(self.view.to_view(p.x(), p.y()) for p in line)).toRect()
        return super().inputMethodQuery(query)


def _has_control(event: QKeyEvent) -> bool:
    return bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
