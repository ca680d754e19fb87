"""Words edited in the picture: the caret, and when editing begins and ends."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QPointF, QRectF, Qt, QTimer
from PySide6.QtGui import (
    QInputMethodEvent,
)
from PySide6.QtWidgets import QApplication, QWidget

from rovix.desktop.document import Document
from rovix.desktop.viewer.screen import Screen
from rovix.desktop.viewer.words_editor import WordsEditor
from rovix.model.clip_kinds import has_words


class Editing(Screen):
    """A screen in which words can be typed."""

    def __init__(self, document: Document) -> None:
        super().__init__(document)
        self.styling_sheet: QWidget | None = None
        self.setAttribute(Qt.WidgetAttribute.WA_InputMethodEnabled)
        self._wink = QTimer(self, interval=530)
        self._wink.timeout.connect(self._turn_caret)
        document.selection_changed.connect(self._selection_changed)

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

    def focusOutEvent(self, event: Any) -> None:
        passing = (Qt.FocusReason.PopupFocusReason, Qt.FocusReason.ActiveWindowFocusReason)
        # Where the letters are set, the caret and what it selects stay.
        focus = QApplication.focusWidget()
        sheet = self.styling_sheet
        styling = sheet is not None and focus is not None and sheet.isAncestorOf(focus)
        if self.editor is not None and event.reason() not in passing and not styling:
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
