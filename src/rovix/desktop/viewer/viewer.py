"""The viewer: what the mouse and the keys do to the picture."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QEvent, QPoint, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import (
    QContextMenuEvent,
    QKeyEvent,
    QMouseEvent,
    QPolygonF,
    QWheelEvent,
)

from rovix.desktop.document import Document, Edit
from rovix.desktop.viewer.crossing_overlay import CrossingDrag
from rovix.desktop.viewer.dragging import begin_drag, guide_edit
from rovix.desktop.viewer.dropper import around, colour_at
from rovix.desktop.viewer.editing import Editing
from rovix.desktop.viewer.geometry import Grab, grab_at
from rovix.desktop.viewer.hand import Hand
from rovix.desktop.viewer.overlays import empty_marks
from rovix.desktop.viewer.path_overlay import PathDrag, PathGrab
from rovix.edit.keys import all_keys
from rovix.edit.paths import ADDRESS, add_point
from rovix.edit.tree import find_clip
from rovix.model import AreaClip
from rovix.model.clip_kinds import is_layer
from rovix.motion.motion_path import path_frames
from rovix.motion.quads import layer_at

_CURSORS = {"scale": Qt.CursorShape.SizeFDiagCursor, "pivot": Qt.CursorShape.CrossCursor}
_POSITION = frozenset({"transform.x", "transform.y", ADDRESS})


class Viewer(Editing):
    """Select by click, move, scale and turn by handles, double-click to edit the words in place."""

    wants_menu = Signal(str, QPoint)

    def __init__(self, document: Document) -> None:
        super().__init__(document)
        self._guide: Grab | None = None
        self._pan: QPointF | None = None
        self._path_drag: PathDrag | CrossingDrag | None = None
        self._dropper: Callable[[str | None], None] | None = None
        document.opened.connect(lambda: self._end_dropper(None))
        document.opened.connect(lambda: self.take_up(None))
        document.level_changed.connect(lambda: self.take_up(None))
        document.project_changed.connect(self._look_at_hand)
        document.selection_changed.connect(self._look_at_hand)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Viewer")
        self.setAccessibleDescription(
            "The picture at the playhead. Alt and an arrow move what is selected by 1 px, with Shift by 10."
        )

    def take_up(self, hand: Hand | None) -> None:
        """Let a hand have the mouse and the keys until it is put down, by Escape, Enter or another one."""
        self.finish_words()
        before, self.hand = self.hand, None
        if before is not None:
            before.put_down()
        self.hand = hand
        self.setCursor(hand.cursor if hand is not None else Qt.CursorShape.ArrowCursor)
        if hand is not None:
            self.setFocus()
        self.update()

    def _look_at_hand(self) -> None:
        """Put the hand down where what it was about is gone."""
        if self.hand is not None and (self.hand.is_over() or self._document.playing):
            self.take_up(None)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        point = event.position()
        if self.hand is not None and event.button() == Qt.MouseButton.LeftButton:
            self.hand.press(self.view, point, event.modifiers())
            self._after_hand()
            return
        if self._dropper is not None:
            self._end_dropper(point if event.button() == Qt.MouseButton.LeftButton else None)
            return
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

    def _after_hand(self) -> None:
        self._look_at_hand()
        self.update()

    def begin_dropper(self, take: Callable[[str | None], None]) -> None:
        """Give the colour of the next click, None when Escape leaves or there is none."""
        self._dropper = take
        self.setCursor(Qt.CursorShape.CrossCursor)
        self.setFocus()

    def _end_dropper(self, point: QPointF | None) -> None:
        take, self._dropper = self._dropper, None
        self.unsetCursor()
        if take is not None:
            take(None if point is None else self.colour_at(point))

    def _press(self, point: QPointF, modifiers: Qt.KeyboardModifier) -> None:
        """Take a handle, a guide, or the layer under a point; Ctrl adds it to the selection."""
        on_path = self._path.grab(self.view, point) if self._has_path() else None
        if on_path is not None:
            self._press_path(on_path, point, modifiers)
            return
        if self._press_crossing(point):
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

    def _press_crossing(self, point: QPointF) -> bool:
        """Take hold of an end of the selected layer's crawl or roll; False where there is none."""
        room = QRectF(self.rect())
        end = self._crossing.grab(self.view, room, point)
        if end is None or self._document.is_locked:
            return False
        self._path_drag = self._crossing.begin(self.view, room, end, point)
        return True

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
        box = self.words_box()
        return box is not None and box.adjusted(-20, -20, 20, 20).contains(point)

    def _hit(self, point: QPointF) -> str | None:
        quads = self._picture.quads if self._picture is not None else ()
        offered = tuple(q for q in quads if self._is_usable(q.id))
        return layer_at(offered, self.view.to_frame(point)) or self._empty_words_at(point)

    def _is_usable(self, identity: str) -> bool:
        """Whether a layer can be taken: what surrounds an open group is seen, but it is not here."""
        document = self._document
        spot = find_clip(document.project, identity)
        if spot is None or document.project.sequence.tracks[spot.track].locked:
            return False
        # An area lies over what it was followed in; it is taken where it is selected already.
        clip = document.project.sequence.tracks[spot.track].clips[spot.index]
        return not isinstance(clip, AreaClip) or identity == document.selected

    def layer_under(self, point: QPointF) -> str | None:
        """The layer under a point of the viewer that can be taken hold of."""
        return self._hit(point)

    def _empty_words_at(self, point: QPointF) -> str | None:
        marks = empty_marks(self.view, self._document, self._quads_of)
        return next((name for name, box in marks if self._is_usable(name) and box.contains(point)), None)

    def colour_at(self, point: QPointF) -> str | None:
        """The picture's colour under a point of the viewer."""
        if self._picture is None or self._picture.pixels is None:
            return None
        frame = self.view.frame
        across, down = point.x() - frame.left(), point.y() - frame.top()
        return colour_at(self._picture.pixels, across / frame.width(), down / frame.height())

    def around_words(self) -> NDArray[np.float64] | None:
        """(N, 3) code values of the picture around the selected layer."""
        quads = self._quads()
        if quads is None or self._picture is None or self._picture.pixels is None:
            return None
        low, high = quads.rest.min(axis=0) / self.view.size, quads.rest.max(axis=0) / self.view.size
        return around(self._picture.pixels, (*low.tolist(), *high.tolist()))

    def words_box(self) -> QRectF | None:
        """Where the selected layer is in the viewer; None where none is."""
        quads = self._quads()
        if quads is None or not np.all(np.isfinite(quads.rest)):
            return None
        return QPolygonF([self.view.to_view(*corner) for corner in quads.rest.tolist()]).boundingRect()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        point = event.position()
        if self._pan is not None:
            if self._zoom is None:
                self._zoom = self.view.scale
            self._offset = point - self._pan
            self._view_changed()
        elif self.hand is not None:
            held = bool(event.buttons() & Qt.MouseButton.LeftButton)
            self.hand.move(self.view, point, event.modifiers(), held)
            self._after_hand()
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
        if self.hand is not None and event.button() == Qt.MouseButton.LeftButton:
            self.hand.release(self.view, event.position(), event.modifiers())
            self._after_hand()
            return
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
        if self.hand is not None:
            self.hand.double(self.view, event.position(), event.modifiers())
            self._after_hand()
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
        if self._dropper is not None:
            return
        grab = self._grab_at(point, modifiers) if self.editor is None else None
        if self.editor is None and self._crossing.grab(self.view, QRectF(self.rect()), point):
            shape = Qt.CursorShape.PointingHandCursor
        elif grab is not None:
            shape = _CURSORS.get(grab.kind, Qt.CursorShape.PointingHandCursor)
        elif self.editor is not None:
            shape = Qt.CursorShape.IBeamCursor
        elif self._hit(point) is not None:
            shape = Qt.CursorShape.SizeAllCursor
        else:
            shape = Qt.CursorShape.ArrowCursor
        self.setCursor(shape)

    def event(self, event: QEvent) -> bool:
        # While words are typed, letters are words and not shortcuts.
        if event.type() == QEvent.Type.ShortcutOverride and self.editor is not None:
            event.accept()
            return True
        override = event.type() == QEvent.Type.ShortcutOverride
        if override and self.hand is not None and isinstance(event, QKeyEvent) and self.hand.owns(event):
            event.accept()
            return True
        # In columns a tab parts a role from a name; elsewhere Tab goes on to the next field.
        tab = event.type() == QEvent.Type.KeyPress and event.key() == Qt.Key.Key_Tab  # type: ignore[attr-defined]
        if tab and self.editor is not None and self.editor.in_columns and isinstance(event, QKeyEvent):
            self.keyPressEvent(event)
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self._escape()
        elif self.hand is not None and self._key_of_hand(event):
            self._after_hand()
        elif self.editor is not None:
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and _has_control(event):
                self.finish_words()
            elif self.editor.key(event):
                self._wake_caret()
        else:
            super().keyPressEvent(event)

    def _key_of_hand(self, event: QKeyEvent) -> bool:
        """Whether a key was the hand's; Enter puts down one that has no more use for it."""
        assert self.hand is not None
        if self.hand.key(event):
            return True
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.take_up(None)
            return True
        return False

    def _escape(self) -> None:
        if self._dropper is not None:
            self._end_dropper(None)
        elif self.hand is not None:
            if not self.hand.escape():
                self.take_up(None)
            self.update()
        elif self.editor is not None:
            self.finish_words()
        elif any(hand is not None for hand in (self._drag, self._guide, self._path_drag)):
            self._drag = self._guide = self._path_drag = None
            self._document.drop()
        elif self.comparison.on:
            self.comparison.end()
        else:
            self._document.select(None)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        if self.editor is not None or self._document.playing:
            return
        by_key = event.reason() == QContextMenuEvent.Reason.Keyboard
        hit = self._document.selected if by_key else self._hit(QPointF(event.pos()))
        if hit is not None and hit not in self._document.selection:
            self._document.select(hit)
        self.wants_menu.emit("picture" if hit is None else "layer", event.globalPos())


def _has_control(event: QKeyEvent) -> bool:
    return bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
