"""A colour as a swatch with its text, and what opens from it."""

from __future__ import annotations

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from rovix.desktop.sheet.colour_picker import ColourPicker
from rovix.desktop.sheet.colour_plane import OPAQUE_WHITE
from rovix.desktop.sheet.mixed import Mixed
from rovix.desktop.theme import colour, font


class ColourButton(QWidget):
    """Click to choose another colour: `tried` while it is looked for, then `chosen`, or `dropped`."""

    tried = Signal(str)
    chosen = Signal(str)
    dropped = Signal()

    def __init__(self, name: str) -> None:
        super().__init__()
        self._name, self._colour = name, OPAQUE_WHITE
        self._mixed = False
        self._picker: ColourPicker | None = None
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(name)

    def sizeHint(self) -> QSize:
        return QSize(98, round(font().pixelSize() * 1.85))

    def minimumSizeHint(self) -> QSize:
        return self.sizeHint()

    def show_colour(self, text: str | Mixed) -> None:
        """Show a colour; where several differ, the one shown before is where choosing begins."""
        self._mixed = isinstance(text, Mixed)
        self._colour = self._colour if isinstance(text, Mixed) else text
        self.setToolTip(f"{self._name}: {text}. Click to choose another.")
        self.setAccessibleDescription("mixed" if self._mixed else self._colour)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5)
        painter.setPen(QPen(colour("accent"), 1) if self.hasFocus() else Qt.PenStyle.NoPen)
        painter.setBrush(colour("raised"))
        painter.drawRoundedRect(box, 5, 5)
        painter.setPen(QPen(colour("line"), 1))
        painter.setBrush(Qt.BrushStyle.NoBrush if self._mixed else QColor(self._colour[:7]))
        painter.drawRoundedRect(QRectF(5, 4, 20, box.height() - 7), 3, 3)
        painter.setPen(colour("muted" if self._mixed else "text"))
        painter.setFont(font(0.92))
        said = "mixed" if self._mixed else self._colour[:7]
        painter.drawText(box.adjusted(32, 0, -4, 0), Qt.AlignmentFlag.AlignVCenter, said)
        painter.end()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self.choose()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Space, Qt.Key.Key_Return):
            self.choose()
        else:
            super().keyPressEvent(event)

    def choose(self) -> ColourPicker:
        """Open the picker below the button; there is one at a time."""
        if self._picker is None:
            self._picker = ColourPicker(self._name, self)
            self._picker.tried.connect(self.tried)
            self._picker.chosen.connect(self.chosen)
            self._picker.dropped.connect(self.dropped)
        self._picker.open_on(self._colour, self)
        return self._picker
