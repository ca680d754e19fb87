"""Cards of curves: each drawn, and moving the selected words by itself, all in step."""

from __future__ import annotations

import time
from math import ceil

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import (
    QFont,
    QFontMetricsF,
    QHideEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPixmap,
    QPolygonF,
)
from PySide6.QtWidgets import QGridLayout, QLabel, QWidget

from rovix.curve import Spring, easing
from rovix.curve.families import FAMILIES
from rovix.desktop.theme import colour, font
from rovix.desktop.timeline.clip_painter import words_font
from rovix.model import Clip
from rovix.model.clip_kinds import has_words

WAY, REST = 0.9, 0.6
"""Seconds that words take on a card, and rest then."""
_WORDS = 44.0  # px that words are wide at most
_MODES = ("in", "out", "in-out", "out-in")
ROWS: dict[str, tuple[str, ...]] = {
    "Plain": ("linear", "hold", "smooth", "smooth-loose", "tangents"),
    "CSS": ("ease", "ease-in", "ease-out", "ease-in-out", "step-start"),
    "Springs": tuple(Spring(*numbers).text for numbers in ((), (1, 145, 14), (1, 145, 7), (1, 290, 10))),
    **{name.capitalize(): tuple(f"{name}-{mode}" for mode in _MODES) for name in FAMILIES},
}


class Clockwork:
    """Where all cards are on their way, so that they can be compared."""

    def __init__(self) -> None:
        self.start = time.monotonic()

    def share(self) -> float:
        """The share of the way now; 1 while the words rest."""
        return min(1.0, (time.monotonic() - self.start) % (WAY + REST) / WAY)


class CurveCard(QWidget):
    """One curve; a click tries it, a double-click or Enter takes it on."""

    tried = Signal(str)
    taken = Signal(str)

    def __init__(self, text: str, words: QPixmap, clock: Clockwork) -> None:
        super().__init__()
        self.text, self._words, self._clock = text, words, clock
        self._easing = easing(text)
        self._values = self._easing(np.linspace(0.0, 1.0, 61))
        self.is_chosen = False
        self.setFixedSize(QSize(116, 92))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setAccessibleName(text)
        over = (float(self._values.max()) - 1) * 100
        beyond = f" Goes {over:.0f} % beyond." if over > 0.5 else ""
        self.setToolTip(f"{text}.{beyond} Click to try it on, double-click to take it on.")

    def choose(self, chosen: bool) -> None:
        if chosen != self.is_chosen:
            self.is_chosen = chosen
            self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5)
        lit = self.hasFocus() or self.is_chosen
        painter.setPen(
            QPen(colour("text" if self.is_chosen else "accent"), 1.4) if lit else Qt.PenStyle.NoPen
        )
        painter.setBrush(colour("lifted" if self.underMouse() else "raised"))
        painter.drawRoundedRect(box, 6, 6)
        paint_easing(painter, QRectF(12, 8, box.width() - 24, 38), self._values, self.is_chosen)
        self._paint_words(painter, QRectF(10, 52, box.width() - 20, 18))
        painter.setFont(font(0.8))
        painter.setPen(colour("text"))
        name = painter.fontMetrics().elidedText(self.text, Qt.TextElideMode.ElideRight, int(box.width()) - 10)
        painter.drawText(QRectF(4, 73, box.width() - 8, 16), Qt.AlignmentFlag.AlignCenter, name)
        painter.end()

    def _paint_words(self, painter: QPainter, room: QRectF) -> None:
        ratio = self._words.devicePixelRatio()
        width, height = self._words.width() / ratio, self._words.height() / ratio
        # A quarter of the way is left free at each end for what goes beyond.
        way = max(8.0, room.width() - width) * 0.66
        start = room.left() + (room.width() - width - way) / 2
        x = start + float(self._easing(self._clock.share())) * way
        painter.save()
        painter.setClipRect(QRectF(self.rect()).adjusted(3, 0, -3, 0))
        painter.drawPixmap(QPointF(x, room.top() + (room.height() - height) / 2), self._words)
        painter.restore()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.tried.emit(self.text)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        self.taken.emit(self.text)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Space:
            self.tried.emit(self.text)
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.taken.emit(self.text)
        else:
            super().keyPressEvent(event)


def paint_easing(painter: QPainter, box: QRectF, values: np.ndarray, lit: bool) -> None:
    """A curve fitted into a box, with lines at its start and end."""
    low, high = min(0.0, float(values.min())), max(1.0, float(values.max()))
    y = box.bottom() - (values - low) / (high - low) * box.height()
    x = np.linspace(box.left(), box.right(), len(values))
    painter.setPen(QPen(colour("line"), 1))
    for level in (0.0, 1.0):
        at = box.bottom() - (level - low) / (high - low) * box.height()
        painter.drawLine(QPointF(box.left(), at), QPointF(box.right(), at))
    painter.setPen(QPen(colour("accent" if lit else "text"), 1.7))
    painter.drawPolyline(QPolygonF([QPointF(*p) for p in zip(x.tolist(), y.tolist(), strict=True)]))


class CurveCards(QWidget):
    """All curves with a name, a row a family."""

    tried = Signal(str)
    taken = Signal(str)

    def __init__(self, words: QPixmap) -> None:
        super().__init__()
        self._clock = Clockwork()
        self.cards: dict[str, CurveCard] = {}
        grid = QGridLayout(self)
        grid.setContentsMargins(10, 6, 10, 10)
        grid.setSpacing(8)
        for row, (name, texts) in enumerate(ROWS.items()):
            grid.addWidget(QLabel(name, objectName="muted"), row, 0)
            for column, text in enumerate(texts):
                card = self.cards[text] = CurveCard(text, words, self._clock)
                card.tried.connect(self.tried)
                card.taken.connect(self.taken)
                grid.addWidget(card, row, column + 1)
        self._beat = QTimer(self, interval=33)
        self._beat.timeout.connect(self._play)
        self._beat.start()

    def show_chosen(self, text: str) -> None:
        for name, card in self.cards.items():
            card.choose(name == text)

    def _play(self) -> None:
        for card in self.cards.values():
            if not card.visibleRegion().isEmpty():
                card.update()

    def hideEvent(self, event: QHideEvent) -> None:
        self._beat.stop()


def words_picture(clip: Clip | None, ratio: float) -> QPixmap:
    """The selected words in their own face, as small as a card needs them."""
    text, face = "Words", font(1.0)
    if has_words(clip) and clip.text.content.strip():
        text = clip.text.content.split("\n")[0].split(" ")[0][:9]
        face = QFont(words_font(clip.text.family, clip.text.weight, 14))
    # As large as leaves half of a card to go through.
    wide = QFontMetricsF(face).horizontalAdvance(text)
    face.setPixelSize(max(6, int(face.pixelSize() * min(1.0, _WORDS / max(1.0, wide)))))
    metrics = QFontMetricsF(face)
    width, height = ceil(metrics.horizontalAdvance(text)) + 4, ceil(metrics.height())
    picture = QPixmap(round(width * ratio), round(height * ratio))
    picture.setDevicePixelRatio(ratio)
    picture.fill(Qt.GlobalColor.transparent)
    painter = QPainter(picture)
    painter.setFont(face)
    painter.setPen(colour("text"))
    painter.drawText(QRectF(0, 0, width, height), Qt.AlignmentFlag.AlignCenter, text)
    painter.end()
    return picture
