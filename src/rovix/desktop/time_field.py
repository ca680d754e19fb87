"""The playhead's timecode, which can be typed into."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtGui import QFocusEvent, QFont, QKeyEvent, QMouseEvent
from PySide6.QtWidgets import QLineEdit

from rovix.desktop.theme import font
from rovix.time import timecode
from rovix.time.timecode import frame_from

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame


class TimeField(QLineEdit):
    """Shows where the playhead is. Click it and type where it is to go; Enter goes, Escape leaves it."""

    def __init__(self, window: Frame) -> None:
        super().__init__(accessibleName="Timecode", objectName="time")
        self._window = window
        self._taking = False
        self.setToolTip(
            "Timecode of the playhead, HH:MM:SS:FF. Click and type where to go (Alt+G):"
            " 1:12 is 1 s and 12 frames, 350f, 2.5s, +15 on by 15 frames, -1:00 back by a second."
        )
        face = font(1.25, QFont.Weight.Bold)
        face.setItalic(True)
        self.setFont(face)
        self.setStyleSheet(f"font-size: {face.pixelSize()}px; font-weight: 700; font-style: italic;")
        # Of one width for every figure, so that a new frame does not lay the bar out anew.
        self.setFixedWidth(round(7.9 * face.pixelSize()))
        self.returnPressed.connect(self._go)

    def show_frame(self, frame: int) -> None:
        """Show a frame, unless another is being typed."""
        time = timecode(frame, self._window.document.rate)
        # The same text set again is painted again, and all that it stands on.
        if not self.hasFocus() and self.text() != time:
            self.setText(time)
            self.setCursorPosition(0)

    def begin_typing(self) -> None:
        """Take the keyboard, all of the timecode selected."""
        self.setFocus(Qt.FocusReason.ShortcutFocusReason)
        self.selectAll()

    def _go(self) -> None:
        document = self._window.document
        try:
            frame = frame_from(self.text(), document.rate.fraction, document.playhead)
        except ValueError as wrong:
            document.problem.emit(str(wrong))
            self.selectAll()
            return
        self._window.projector.stop()
        document.seek(frame)
        self._leave()

    def _leave(self) -> None:
        self._window.timeline.canvas.setFocus()
        self.show_frame(self._window.document.playhead)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self._leave()
        else:
            super().keyPressEvent(event)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._taking = not self.hasFocus() or self._taking
        super().mousePressEvent(event)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        super().mouseReleaseEvent(event)
        # The click that takes the keyboard takes the whole time; the next one sets the cursor.
        if self._taking:
            self._taking = False
            self.selectAll()

    def focusInEvent(self, event: QFocusEvent) -> None:
        super().focusInEvent(event)
        self._taking = event.reason() == Qt.FocusReason.MouseFocusReason
        self.selectAll()

    def focusOutEvent(self, event: QFocusEvent) -> None:
        super().focusOutEvent(event)
        self.deselect()
        self.show_frame(self._window.document.playhead)
