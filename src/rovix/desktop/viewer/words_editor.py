"""Editing words in the picture: the caret, the selection, typing. Qt draws only these."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QGuiApplication, QInputMethodEvent, QKeyEvent, QKeySequence, QTransform

from rovix.desktop.document import Document
from rovix.desktop.viewer.typing_steps import Typed, TypingSteps
from rovix.edit import change_text
from rovix.model import TextClip
from rovix.model.clip_kinds import has_words
from rovix.motion import Scene
from rovix.motion.scene import world_of
from rovix.motion.transform import projected
from rovix.text import Layout, lay_out
from rovix.text.caret import (
    caret_at,
    index_at,
    line_of,
    rises_at,
    selection_boxes,
    step,
    step_line,
)
from rovix.text.segments import starts, words


class WordsEditor:
    """One text layer under the caret. Its moves are suspended; typing is a draft until :meth:`finish`."""

    def __init__(self, document: Document, clip: TextClip) -> None:
        self._document, self._id = document, clip.id
        self.text = clip.text.content
        self.caret = self.anchor = len(self.text)
        self.preedit = ""
        self._steps = TypingSteps()
        document.suspend(clip.id)

    @property
    def clip_id(self) -> str:
        return self._id

    def finish(self) -> None:
        """Keep what was typed as one step."""
        if self.preedit:
            self.preedit = ""
            self._show()
        self._document.select_letters(None)
        self._document.keep_typed()
        self._document.suspend(None)

    def _say_letters(self) -> None:
        low, high = sorted((self.caret, self.anchor))
        self._document.select_letters((low, high))

    def layout(self) -> Layout | None:
        clip = self._document.clip
        return lay_out(clip.text) if has_words(clip) else None

    @property
    def in_columns(self) -> bool:
        """Whether a tab parts what stands left and right of the middle."""
        clip = self._document.clip
        return has_words(clip) and clip.text.align == "columns"

    def caret_line(self) -> tuple[QPointF, QPointF] | None:
        """Both ends of the caret in px of the frame."""
        layout = self.layout()
        if layout is None:
            return None
        x, top, _, bottom = caret_at(layout, min(self.caret + len(self.preedit), len(layout.text)))
        to_frame = self._to_frame()
        return to_frame.map(QPointF(x, top)), to_frame.map(QPointF(x, bottom))

    def selected_shapes(self) -> list[object]:
        """The selected letters' boxes as polygons in px of the frame."""
        layout = self.layout()
        if layout is None or self.caret == self.anchor:
            return []
        low, high = sorted((self.caret, self.anchor))
        to_frame = self._to_frame()
        return [to_frame.map(_polygon(box)) for box in selection_boxes(layout, low, high)]

    def press(self, point: tuple[float, float], extend: bool) -> None:
        """Put the caret at a point of the frame."""
        layout = self.layout()
        inverse, usable = self._to_frame().inverted()
        if layout is None or not usable:
            return
        place = inverse.map(QPointF(*point))
        self.caret = index_at(layout, place.x(), place.y())
        if not extend:
            self.anchor = self.caret
        self._say_letters()

    def select_word(self) -> None:
        """Select the word at the caret."""
        parts = words(self.text)
        for start, part in zip(starts(parts), parts, strict=True):
            if start <= self.caret < start + len(part) or start + len(part) == len(self.text):
                self.anchor, self.caret = start, start + len(part)
                self._say_letters()
                return

    def key(self, event: QKeyEvent) -> bool:
        """Handle a key; False when it is none of the editor's."""
        taken = self._key(event)
        self._say_letters()
        return taken

    def _key(self, event: QKeyEvent) -> bool:
        if event.matches(QKeySequence.StandardKey.SelectAll):
            self.anchor, self.caret = 0, len(self.text)
        elif event.matches(QKeySequence.StandardKey.Copy):
            self._copy()
        elif event.matches(QKeySequence.StandardKey.Cut):
            self._copy()
            self._replace("")
        elif event.matches(QKeySequence.StandardKey.Paste):
            self._replace(QGuiApplication.clipboard().text().replace("\r\n", "\n"))
        elif event.matches(QKeySequence.StandardKey.Undo):
            self._back(self._steps.undo, self._document.undo)
        elif event.matches(QKeySequence.StandardKey.Redo):
            self._back(self._steps.redo, self._document.redo)
        else:
            return self._plain_key(event)
        return True

    def commit_text(self, event: QInputMethodEvent) -> None:
        """Take what an input method has composed, and show what it is composing."""
        if event.commitString():
            self.preedit = ""
            self._replace(event.commitString())
        self.preedit = event.preeditString()
        self._show()

    def _plain_key(self, event: QKeyEvent) -> bool:
        extend = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        by_word = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
        key = event.key()
        if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._replace("\n")
        elif key == Qt.Key.Key_Tab and not by_word:
            self._replace("\t")
        elif key in (Qt.Key.Key_Backspace, Qt.Key.Key_Delete):
            self._erase(-1 if key == Qt.Key.Key_Backspace else 1, by_word)
        elif key in _WAYS:
            self._go(Qt.Key(key), extend, by_word)
        elif event.text() and event.text().isprintable() and not by_word:
            self._replace(event.text())
        else:
            return False
        return True

    def _go(self, key: Qt.Key, extend: bool, by_word: bool) -> None:
        layout = self.layout()
        if layout is None:
            return
        line = layout.lines[line_of(layout, self.caret)]
        if key == Qt.Key.Key_Home:
            self.caret = 0 if by_word else line.start
        elif key == Qt.Key.Key_End:
            self.caret = len(self.text) if by_word else line.end
        elif key in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self.caret = step_line(layout, self.caret, -1 if key == Qt.Key.Key_Up else 1)
        else:
            # The arrow goes where it points, also where words run to the left.
            way = (-1 if key == Qt.Key.Key_Left else 1) * (1 if rises_at(layout, self.caret) else -1)
            self.caret = self._next_word(way) if by_word else step(layout, self.caret, way)
        if not extend:
            self.anchor = self.caret

    def _next_word(self, way: int) -> int:
        edges = [*starts(words(self.text)), len(self.text)]
        if way > 0:
            return next((edge for edge in edges if edge > self.caret), edges[-1])
        return next((edge for edge in reversed(edges) if edge < self.caret), 0)

    def _erase(self, way: int, by_word: bool) -> None:
        layout = self.layout()
        if self.caret == self.anchor and layout is not None:
            self.anchor = self._next_word(way) if by_word else step(layout, self.caret, way)
        self._replace("")

    def _replace(self, text: str) -> None:
        low, high = sorted((self.caret, self.anchor))
        if not self._document.typing:
            # What was typed before has become a step of the project, which now undoes it.
            self._steps.clear()
        self._steps.before(self.text, self.caret, typed=text if low == high else "")
        self.text = self.text[:low] + text + self.text[high:]
        self.caret = self.anchor = low + len(text)
        self._show()

    def _back(self, own: Callable[[str, int], Typed | None], project: Callable[[], None]) -> None:
        """Undo or redo what was typed, word by word; beyond it, the project's steps."""
        found = own(self.text, self.caret) if self._document.typing else None
        if found is not None:
            self.text, self.caret = found
        else:
            project()
            clip = self._document.clip
            self.text = clip.text.content if has_words(clip) else self.text
            self.caret = min(self.caret, len(self.text))
        self.anchor = self.caret
        if found is not None:
            self._show()

    def _copy(self) -> None:
        low, high = sorted((self.caret, self.anchor))
        if low < high:
            QGuiApplication.clipboard().setText(self.text[low:high])

    def _show(self) -> None:
        shown = self.text[: self.caret] + self.preedit + self.text[self.caret :]
        self._document.type_words(lambda project: change_text(project, self._id, content=shown))

    def _to_frame(self) -> QTransform:
        document = self._document
        clip = document.clip
        assert has_words(clip)
        project = document.picture_project
        scene = Scene.of(project)
        state = scene.state(clip, np.array([float(document.clip_frame)]))
        world = world_of(scene, clip, document.playhead)
        matrix = projected(world @ state.layer[0], scene.size)
        return QTransform(*(float(value) for value in matrix.T.reshape(9)))


_WAYS = (
    Qt.Key.Key_Left,
    Qt.Key.Key_Right,
    Qt.Key.Key_Up,
    Qt.Key.Key_Down,
    Qt.Key.Key_Home,
    Qt.Key.Key_End,
)


def _polygon(box: tuple[float, float, float, float]):  # type: ignore[no-untyped-def]
    from PySide6.QtGui import QPolygonF

    left, top, right, bottom = box
    return QPolygonF(QRectF(left, top, right - left, bottom - top))
