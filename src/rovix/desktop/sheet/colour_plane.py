"""Choosing two parts of a colour in a plane and its hue on a line, in HSV or OKLCH."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from rovix.curve.colour_spaces import (
    MOST_CHROMA,
    Triple,
    hsv_from_srgb,
    light_of_oklch,
    oklch_from_srgb,
    shows,
    srgb_from_hsv,
    srgb_from_oklch,
)
from rovix.curve.transfer import light_to_srgb
from rovix.desktop.theme import colour

OPAQUE_WHITE = "#ffffff"
"""Where choosing begins without a colour."""
_STEP, _COARSE = 0.01, 0.1
Pixels = NDArray[np.uint8]


@dataclass(frozen=True, slots=True)
class Part:
    """One number of a space: its name, unit, and the number shown for its whole range."""

    name: str
    unit: str
    whole: float
    decimals: int = 0


@dataclass(frozen=True, slots=True)
class Space:
    """`across` and `up` are the parts of the plane, `hue` the one of the line; all go from 0 to `whole`."""

    parts: tuple[Part, Part, Part]
    across: int
    up: int
    hue: int

    def shares(self, values: Triple) -> tuple[float, float, float]:
        """Where the parts stand in their ranges, 0 to 1."""
        across, up, hue = (min(max(value / self.most(n), 0.0), 1.0) for n, value in enumerate(values))
        return across, up, hue

    def most(self, number: int) -> float:
        """The value of a part at the end of its range."""
        part = self.parts[number]
        return part.whole / 100 if part.unit == "%" else part.whole


HSV = Space((Part("Hue", "°", 360), Part("Saturation", "%", 100), Part("Value", "%", 100)), 1, 2, 0)
OKLCH = Space(
    (Part("Lightness", "%", 100), Part("Chroma", "", MOST_CHROMA, 3), Part("Hue", "°", 360)), 1, 0, 2
)
SPACES = {"hsv": HSV, "oklch": OKLCH}


def to_space(space: Space, rgb: Triple) -> Triple:
    """A colour of code values 0 to 1 in a space."""
    return hsv_from_srgb(rgb) if space is HSV else oklch_from_srgb(rgb)


def from_space(space: Space, values: Triple) -> Triple:
    """The code values 0 to 1 of a colour in a space, or the nearest that sRGB has."""
    return srgb_from_hsv(values) if space is HSV else srgb_from_oklch(values)


class ColourPlane(QWidget):
    """The parts beside the hue; `moved` gives the three values while it is dragged or stepped."""

    moved = Signal(object)

    def __init__(self) -> None:
        super().__init__(accessibleName="Plane of the colour")
        self.setToolTip("Drag, or step with the arrows (Shift in larger steps).")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self._space, self._values = HSV, (0.0, 0.0, 1.0)

    def sizeHint(self) -> QSize:
        return QSize(232, 140)

    def show_values(self, space: Space, values: Triple) -> None:
        self._space, self._values = space, values
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        space = self._space
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        pixels = _plane(space is HSV, round(self._values[space.hue]) % 360)
        painter.drawImage(QRectF(self.rect()), _image(pixels))
        shares = space.shares(self._values)
        _ring(painter, QPointF(shares[space.across] * self.width(), (1 - shares[space.up]) * self.height()))
        if self.hasFocus():
            painter.setPen(QPen(colour("accent"), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5))
        painter.end()

    def _go(self, across: float, up: float) -> None:
        space, values = self._space, list(self._values)
        values[space.across] = min(max(across, 0.0), 1.0) * space.most(space.across)
        values[space.up] = min(max(up, 0.0), 1.0) * space.most(space.up)
        self._values = (values[0], values[1], values[2])
        self.update()
        self.moved.emit(self._values)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.mouseMoveEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if event.buttons() & Qt.MouseButton.LeftButton:
            at = event.position()
            self._go(at.x() / max(1, self.width()), 1 - at.y() / max(1, self.height()))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        ways = {
            Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0),
            Qt.Key.Key_Up: (0, 1), Qt.Key.Key_Down: (0, -1),
        }  # fmt: skip
        way = ways.get(Qt.Key(event.key()))
        if way is None:
            super().keyPressEvent(event)
            return
        step = _COARSE if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else _STEP
        shares = self._space.shares(self._values)
        self._go(shares[self._space.across] + way[0] * step, shares[self._space.up] + way[1] * step)


class HueLine(QWidget):
    """The hue from 0 to 360 degrees; `moved` gives it while it is dragged or stepped."""

    moved = Signal(float)

    def __init__(self) -> None:
        super().__init__(accessibleName="Hue")
        self.setToolTip("Hue. Drag, or step by a degree with the arrows (Shift by ten).")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setFixedHeight(16)
        self._space, self._hue = HSV, 0.0

    def show_hue(self, space: Space, hue: float) -> None:
        self._space, self._hue = space, hue
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.drawImage(QRectF(self.rect()).adjusted(0, 3, 0, -3), _image(_hues(self._space is HSV)))
        _ring(painter, QPointF(self._hue / 360 * self.width(), self.height() / 2))
        if self.hasFocus():
            painter.setPen(QPen(colour("accent"), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5))
        painter.end()

    def _go(self, hue: float) -> None:
        self._hue = min(max(hue, 0.0), 359.9)
        self.update()
        self.moved.emit(self._hue)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.mouseMoveEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if event.buttons() & Qt.MouseButton.LeftButton:
            self._go(event.position().x() / max(1, self.width()) * 360)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        way = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()))
        if way is None:
            super().keyPressEvent(event)
        else:
            coarse = event.modifiers() & Qt.KeyboardModifier.ShiftModifier
            self._go(self._hue + way * (10 if coarse else 1))


def _ring(painter: QPainter, at: QPointF) -> None:
    """A mark that is seen on every colour."""
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for width, shade in ((3.5, "#000000"), (1.5, "#ffffff")):
        painter.setPen(QPen(QColor(shade), width))
        painter.drawEllipse(at, 5, 5)


def _image(pixels: Pixels) -> QImage:
    height, width = pixels.shape[:2]
    return QImage(pixels.data, width, height, width * 4, QImage.Format.Format_RGB32).copy()


@lru_cache(maxsize=8)
def _plane(hsv: bool, hue: int) -> Pixels:
    """(140, 240, 4) BGRX; colours that sRGB lacks are left as dark as the panel."""
    across, up = np.meshgrid(np.linspace(0, 1, 240), np.linspace(1, 0, 140))
    if hsv:
        pure = np.array(srgb_from_hsv((float(hue), 1.0, 1.0)))
        return _pixels(up[..., None] * (1 - across[..., None] * (1 - pure)))
    light = light_of_oklch(up, across * MOST_CHROMA, float(hue))
    panel = colour("panel")
    lacking = np.array([panel.redF(), panel.greenF(), panel.blueF()])
    return _pixels(np.where(shows(light)[..., None], light_to_srgb(np.clip(light, 0, 1)), lacking))


@lru_cache(maxsize=2)
def _hues(hsv: bool) -> Pixels:
    made = [
        srgb_from_hsv((h, 1.0, 1.0)) if hsv else srgb_from_oklch((0.72, 0.13, h)) for h in range(0, 361, 3)
    ]
    return _pixels(np.array([made]))


def _pixels(rgb: NDArray[np.float64]) -> Pixels:
    made = np.full((*rgb.shape[:2], 4), 255, dtype=np.uint8)
    made[..., :3] = np.rint(np.clip(rgb, 0, 1)[..., ::-1] * 255)
    return made
