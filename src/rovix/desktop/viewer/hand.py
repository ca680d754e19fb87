"""What takes the mouse and the keys of the viewer for a while: drawing a line, dragging out an area."""

from __future__ import annotations

from functools import lru_cache

from PySide6.QtCore import QPointF, QRect, QRectF, Qt
from PySide6.QtGui import QFont, QFontMetrics, QImage, QKeyEvent, QPainter

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
    device = painter.device()
    picture = _hint(said, round(room.width()), device.devicePixelRatioF(), font(0.95).toString())
    width = picture.width() / picture.devicePixelRatio()
    painter.drawImage(QPointF(round(room.center().x() - width / 2), round(room.top() + 10)), picture)


@lru_cache(maxsize=8)
def _hint(said: str, room: int, ratio: float, face: str) -> QImage:
    """The words on their ground, kept: they are painted again at each step of a hand."""
    words = QFont()
    words.fromString(face)
    metrics = QFontMetrics(words)
    width = min(room - 24, metrics.horizontalAdvance(said) + 20)
    box = QRect(0, 0, width, 8 + 17 * (1 if width < room - 24 else 2))
    image = QImage(box.size() * ratio, QImage.Format.Format_ARGB32_Premultiplied)
    image.setDevicePixelRatio(ratio)
    image.fill(Qt.GlobalColor.transparent)
    painter = QPainter(image)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setFont(words)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(colour("ground", 0.86))
    painter.drawRoundedRect(box, 6, 6)
    painter.setPen(colour("text"))
    wrapped = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
    painter.drawText(box.adjusted(8, 0, -8, 0), wrapped, said)
    painter.end()
    return image
