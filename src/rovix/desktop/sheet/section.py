"""A page of the sheet under its head, which folds it away and says in short what is inside."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QEvent, QPoint, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QContextMenuEvent,
    QEnterEvent,
    QFont,
    QKeyEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
)
from PySide6.QtWidgets import QAbstractButton, QSizePolicy, QVBoxLayout, QWidget

from rovix.desktop.sheet.page import Page
from rovix.desktop.theme import colour, font


class Head(QAbstractButton):
    """Click it, or press Space or Enter, to open or close the page below."""

    asked = Signal(QPoint)

    def __init__(self, name: str) -> None:
        super().__init__()
        self._said = ""
        self.setText(name)
        self.setCheckable(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(name)
        self.setToolTip(f"{name}: click to open or close; more than one may be open.")

    def sizeHint(self) -> QSize:
        return QSize(160, round(font().pixelSize() * 2.25))

    def minimumSizeHint(self) -> QSize:
        return QSize(80, self.sizeHint().height())

    def say(self, text: str) -> None:
        """What is inside, in short."""
        if text != self._said:
            self._said = text
            self.setAccessibleDescription(text)
            self.update()

    @property
    def said(self) -> str:
        return self._said

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        self.asked.emit(event.globalPos())

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.click()
        else:
            super().keyPressEvent(event)

    def event(self, event: QEvent) -> bool:
        # Space is the head's own while it has the focus, whatever else it is a shortcut of.
        own = (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter)
        override = event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent)
        if override and event.key() in own:  # type: ignore[attr-defined]
            event.accept()
            return True
        return super().event(event)

    def enterEvent(self, event: QEnterEvent) -> None:
        self.update()
        super().enterEvent(event)

    def leaveEvent(self, event: object) -> None:
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(self.rect())
        if self.underMouse() or self.hasFocus():
            painter.setPen(QPen(colour("accent"), 1) if self.hasFocus() else Qt.PenStyle.NoPen)
            painter.setBrush(colour("raised") if self.underMouse() else Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(box.adjusted(4.5, 1.5, -4.5, -1.5), 5, 5)
        self._paint_mark(painter, box)
        painter.setPen(colour("text"))
        painter.setFont(font(1.0, QFont.Weight.DemiBold))
        width = painter.fontMetrics().horizontalAdvance(self.text())
        painter.drawText(box.adjusted(26, 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, self.text())
        painter.setPen(colour("muted"))
        painter.setFont(font(0.92))
        room = box.adjusted(26 + width + 12, 0, -12, 0)
        said = painter.fontMetrics().elidedText(self._said, Qt.TextElideMode.ElideRight, int(room.width()))
        right = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight
        painter.drawText(room, right, said)
        painter.end()

    def _paint_mark(self, painter: QPainter, box: QRectF) -> None:
        """An angle that points right while closed, down while open."""
        middle = QPointF(17, box.center().y())
        points = [(-3, -1.5), (0, 1.5), (3, -1.5)] if self.isChecked() else [(-1.5, -3), (1.5, 0), (-1.5, 3)]
        painter.setPen(QPen(colour("muted"), 1.6))
        painter.drawPolyline(QPolygonF([middle + QPointF(x, y) for x, y in points]))


class Section(QWidget):
    """A head, and the page below it, which is made when it is first wanted."""

    def __init__(self, name: str, make: Callable[[], Page]) -> None:
        super().__init__()
        self.head = Head(name)
        self._make = make
        self._page: Page | None = None
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(0)
        self._column.addWidget(self.head)

    @property
    def page(self) -> Page:
        """The page, made if there is none yet."""
        if self._page is None:
            self._page = self._make()
            # Put in before it is shown: without a parent it would be a window of its own.
            self._column.addWidget(self._page)
            self._page.setVisible(self.head.isChecked())
        return self._page

    @property
    def is_made(self) -> bool:
        """Whether there is a page yet."""
        return self._page is not None

    @property
    def is_open(self) -> bool:
        """Whether the page is shown below its head."""
        return self.head.isChecked()

    def open(self, there: bool = True) -> None:
        """Open or close it."""
        self.head.setChecked(there)
        if there or self._page is not None:
            self.page.setVisible(there)
