"""Cards: the selected words under each move, as a still of several exposures; they play on hover."""

from __future__ import annotations

from collections.abc import Sequence
from multiprocessing.connection import Connection
from pathlib import Path

import numpy as np
from PySide6.QtCore import QEvent, QMimeData, QObject, QPoint, QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import (
    QContextMenuEvent,
    QDrag,
    QEnterEvent,
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QPixmap,
)
from PySide6.QtWidgets import QApplication, QWidget

from rovix.desktop.pipes import Pipes
from rovix.desktop.theme import colour, font
from rovix.engine.card_project import SIZE, Card
from rovix.engine.picture_service import Picture, Pictures
from rovix.engine.player import Player
from rovix.model import Project
from rovix.time import Rate, Span

_PIXELS = (260, 112)


class CardPictures(QObject):
    """Has the cards drawn by a service of its own, one after the other, and plays one of them."""

    drawn = Signal(int, QImage)

    def __init__(self, service: Pictures, parent: QObject) -> None:
        super().__init__(parent)
        self._service = service
        self._pipes = Pipes(self._hear, self)
        self._service.on_watch = self._pipes.watch
        self._cards: list[Card] = []
        self._waiting: list[int] = []
        self._playing: int | None = None
        self._player = Player()
        self._rate = Rate(30)
        self._ready = False
        self._tick = QTimer(self, interval=12)
        self._tick.timeout.connect(self._advance)

    def show(
        self, project: Project, cards: list[Card], rate: Rate, base: Path, first: Sequence[int] = ()
    ) -> None:
        """Draw the stills of these cards anew, some `first`; they are frames of the project."""
        self.stop()
        self._cards, self._rate = cards, rate
        if not self._ready:
            self._service.resize(_PIXELS)
            self._ready = True
        self._service.show(project, base)
        self._waiting = list(dict.fromkeys((*first, *range(len(self._cards)))))
        self._next_still()

    def play(self, number: int) -> None:
        """Play a card again and again until :meth:`stop`."""
        if number >= len(self._cards) or self._cards[number].length < 2:
            return
        card = self._cards[number]
        self._playing = number
        self._player.start(card.start, Span(card.start, card.start + card.length), self._rate, loop=True)
        self._service.fill(range(card.start, card.start + card.length))
        self._tick.start()

    def stop(self) -> None:
        """Back to the stills."""
        number, self._playing = self._playing, None
        self._tick.stop()
        self._player.stop()
        if number is not None and number < len(self._cards):
            self._waiting.insert(0, number)
            self._next_still()

    def close(self) -> None:
        self._tick.stop()
        self._service.close()

    def _next_still(self) -> None:
        while self._waiting and self._playing is None:
            picture = self._service.want(self._cards[self._waiting[0]].still)
            if picture is None:
                return
            self._give(self._waiting.pop(0), picture)

    def _advance(self) -> None:
        if self._playing is None:
            return
        picture = self._service.want(self._player.due())
        if picture is not None:
            self._give(self._playing, picture)

    def _give(self, number: int, picture: Picture) -> None:
        if picture.pixels is None:
            return
        pixels = np.ascontiguousarray(picture.pixels)
        height, width = pixels.shape[:2]
        image = QImage(pixels.data, width, height, width * 4, QImage.Format.Format_ARGB32_Premultiplied)
        self.drawn.emit(number, image.copy())

    def _hear(self, connection: Connection) -> None:
        picture = self._service.receive(connection)
        if picture is None:
            return
        if self._playing is not None:
            self._give(self._playing, picture)
        else:
            self._next_still()


class MoveCard(QWidget):
    """One card. Hovering tries it on, leaving drops it, a click takes it on."""

    entered = Signal()
    left = Signal()
    taken = Signal(bool)
    """With whether it goes on top of what the layer has."""
    asked = Signal(QPoint)
    starred = Signal()
    removed = Signal()

    def __init__(self, name: str, role: str, removable: bool = False) -> None:
        super().__init__()
        self._name, self._role = name, role
        self._image: QImage | None = None
        self._chosen = self._star = False
        self._removable = removable
        self.carries: QMimeData | None = None
        """What a drag of the card takes along."""
        self._pressed: QPointF | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setAccessibleName(f"{role}: {name}")
        self.setToolTip(
            f"{name}: hover to try it on the selected words, click or press Enter to take it on,"
            " with Shift on top of what is there; its cross, or Delete, takes it off; its star or"
            " Ctrl+B makes it a favourite."
        )
        self.setFixedHeight(self.sizeHint().height())

    def sizeHint(self) -> QSize:
        return QSize(100, 40 + round(1.5 * font(0.9).pixelSize()))

    def show_image(self, image: QImage) -> None:
        self._image = image
        self.update()

    def show_chosen(self, chosen: bool) -> None:
        if chosen != self._chosen:
            self._chosen = chosen
            self.update()

    def show_star(self, star: bool) -> None:
        self._star = star
        self.update()

    def star_box(self) -> QRectF:
        """Where the star is, right of the name: to be clicked."""
        side = 1.3 * font(0.9).pixelSize()
        return QRectF(self.width() - side - 6, self.height() - side - 3, side, side)

    def cross_box(self) -> QRectF:
        """Where the cross of a card that is applied is, at the upper right."""
        side = 1.3 * font(0.9).pixelSize()
        return QRectF(self.width() - side - 5, 4, side, side)

    @property
    def has_cross(self) -> bool:
        """Whether the card is applied, and can be taken off by its cross."""
        return self._chosen and self._removable

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        box = QRectF(self.rect()).adjusted(1, 1, -1, -1)
        shape = QPainterPath()
        shape.addRoundedRect(box, 6, 6)
        painter.fillPath(shape, colour("lifted" if self.underMouse() else "raised"))
        if self._image is not None:
            painter.setClipPath(shape)
            height = box.width() * SIZE[1] / SIZE[0]
            above = (box.height() - 1.2 * font(0.9).pixelSize() - height) / 2
            painter.drawImage(QRectF(box.left(), box.top() + above, box.width(), height), self._image)
            # Whatever the picture shows, the name below stands on an even ground.
            strip = QRectF(box)
            strip.setTop(box.bottom() - 1.5 * font(0.9).pixelSize())
            painter.fillRect(strip, colour("raised", 0.85))
            painter.setClipping(False)
        painter.setFont(font(0.9))
        painter.setPen(colour("text" if self._chosen else "muted"))
        painter.drawText(
            box.adjusted(8, 0, -6, -4), Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignBottom, self._name
        )
        if self._star or self.underMouse() or self.hasFocus():
            painter.setPen(colour("accent" if self._star else "muted"))
            painter.drawText(self.star_box(), Qt.AlignmentFlag.AlignCenter, "★" if self._star else "☆")
        if self.has_cross:
            box_of_cross = self.cross_box()
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(colour("raised", 0.9))
            painter.drawEllipse(box_of_cross)
            painter.setPen(QPen(colour("text"), 1.3))
            inner = box_of_cross.adjusted(5, 5, -5, -5)
            painter.drawLine(inner.topLeft(), inner.bottomRight())
            painter.drawLine(inner.topRight(), inner.bottomLeft())
            painter.setBrush(Qt.BrushStyle.NoBrush)
        edge = "accent" if self.hasFocus() else ("text" if self._chosen else None)
        if edge is not None:
            painter.setPen(QPen(colour(edge), 1.3))
            painter.drawPath(shape)
        painter.end()

    def enterEvent(self, event: QEnterEvent) -> None:
        self.entered.emit()
        self.update()

    def leaveEvent(self, event: object) -> None:
        self.left.emit()
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._pressed = event.position() if event.button() == Qt.MouseButton.LeftButton else None

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self.carries is None or self._pressed is None:
            return
        if (event.position() - self._pressed).manhattanLength() >= QApplication.startDragDistance():
            self._pressed = None
            self.left.emit()
            self.begin_drag()

    def begin_drag(self) -> None:
        """Let a hand carry it elsewhere, until it lets go."""
        assert self.carries is not None
        taken = QMimeData()
        for kind in self.carries.formats():
            taken.setData(kind, self.carries.data(kind))
        drag = QDrag(self)
        drag.setMimeData(taken)
        if self._image is not None:
            drag.setPixmap(QPixmap.fromImage(self._image.scaledToWidth(self.width())))
        drag.exec(Qt.DropAction.CopyAction)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self.carries is not None and self._pressed is None:
            return  # it was dragged
        if event.button() == Qt.MouseButton.LeftButton and self.rect().contains(event.position().toPoint()):
            if self.star_box().contains(event.position()):
                self.starred.emit()
            elif self.has_cross and self.cross_box().contains(event.position()):
                self.removed.emit()
            else:
                self.taken.emit(bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier))

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        self.asked.emit(event.globalPos())

    def event(self, event: QEvent) -> bool:
        # Delete takes the card off while it has the focus, not the clip.
        override = event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent)
        if override and self.has_cross and event.key() == Qt.Key.Key_Delete:  # type: ignore[attr-defined]
            event.accept()
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.taken.emit(bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier))
        elif event.key() == Qt.Key.Key_Escape:
            self.left.emit()
        elif event.key() == Qt.Key.Key_Delete and self.has_cross:
            self.removed.emit()
        elif event.key() == Qt.Key.Key_B and event.modifiers() == Qt.KeyboardModifier.ControlModifier:
            self.starred.emit()
        else:
            super().keyPressEvent(event)
