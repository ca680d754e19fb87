"""What takes the mouse and the keys of the viewer for a while: drawing a line, dragging out an area."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QKeyEvent, QPainter

from rovix.desktop.theme import colour, font
from rovix.desktop.viewer.geometry import View

Modifiers = Qt.KeyboardModifier


_KEYS = (
    Qt.Key.Key_Delete, Qt.Key.Key_Backspace, Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Escape,
)  # fmt: skip


class Hand:
    """Does nothing yet; each does what it is for. Points are px of the viewer."""

    cursor = Qt.CursorShape.CrossCursor

    @property
    def hint(self) -> str:
        """What can be done, in one line over the picture."""
        return ""

    def press(self, view: View, point: QPointF, modifiers: Modifiers) -> None:
        """The left button went down."""

    def move(self, view: View, point: QPointF, modifiers: Modifiers, held: bool) -> None:
        """The mouse moved, the button held or not."""

    def release(self, view: View, point: QPointF, modifiers: Modifiers) -> None:
        """The left button went up."""

    def double(self, view: View, point: QPointF, modifiers: Modifiers) -> None:
        """A double-click; its first click came as a press and a release."""

    def key(self, event: QKeyEvent) -> bool:
        """A key; False where it is none of the hand's."""
        return False

    def owns(self, event: QKeyEvent) -> bool:
        """Whether a key is the hand's while it has the viewer, whatever else it is a shortcut of."""
        return event.key() in _KEYS

    def escape(self) -> bool:
        """Drop what is being done; False where nothing is, so that the hand is put down."""
        return False

    def is_over(self) -> bool:
        """Whether there is nothing more for it to do, so that it is put down."""
        return False

    def put_down(self) -> None:
        """It is given up, or another is taken up."""

    def paint(self, painter: QPainter, view: View) -> None:
        """What it shows over the picture."""


def paint_hint(painter: QPainter, room: QRectF, said: str) -> None:
    """A line of words at the top of the viewer."""
    painter.setFont(font(0.95))
    width = min(room.width() - 24, painter.fontMetrics().horizontalAdvance(said) + 20.0)
    lines = 1 if width < room.width() - 24 else 2
    box = QRectF(room.center().x() - width / 2, room.top() + 10, width, 8 + 17.0 * lines)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(colour("ground", 0.86))
    painter.drawRoundedRect(box, 6, 6)
    painter.setPen(colour("text"))
    wrapped = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
    painter.drawText(box.adjusted(8, 0, -8, 0), wrapped, said)
