"""Choosing a colour: in a plane, by numbers, from the picture, or one that is used already."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from typing import Protocol, runtime_checkable

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPoint, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QHideEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import (
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from rovix.curve.colour_spaces import Triple, contrast, luminance
from rovix.desktop.sheet.colour_plane import (
    OPAQUE_WHITE,
    SPACES,
    ColourPlane,
    HueLine,
    Part,
    Space,
    from_space,
    to_space,
)
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.parts import Segments
from rovix.desktop.theme import colour
from rovix.desktop.window_above import window_above

_HEX = re.compile(r"#?([0-9a-fA-F]{3}|[0-9a-fA-F]{6}|[0-9a-fA-F]{8})")
_IN_A_ROW, _MOST_USED = 9, 18
_SIDE = 20
ENOUGH, ENOUGH_LARGE = 4.5, 3.0
"""Contrast that words need by WCAG 2.2, success criterion 1.4.3, and large ones."""


@runtime_checkable
class HasColours(Protocol):
    """A window that knows colours: those in use, and those of the picture."""

    def used_colours(self) -> Sequence[str]: ...
    def recent_colours(self) -> Sequence[str]: ...
    def note_colour(self, text: str) -> None: ...
    def pick_from_picture(self, take: Callable[[str | None], None]) -> None: ...
    def around_words(self) -> NDArray[np.float64] | None: ...
    def colour_space(self, chosen: str = "") -> str: ...


class ColourPicker(QFrame):
    """Shows each colour as it is looked for. A click elsewhere or Enter keeps it, Escape leaves it."""

    tried = Signal(str)
    chosen = Signal(str)
    dropped = Signal()

    def __init__(self, name: str, parent: QWidget) -> None:
        super().__init__(parent, Qt.WindowType.Popup)
        self.setObjectName("popup")
        self.setAccessibleName(name)
        self._before = self._colour = OPAQUE_WHITE
        self._values: Triple = (0.0, 0.0, 1.0)
        self._kind = "hsv"
        self._around: NDArray[np.float64] | None = None
        self._lookup = False
        self._left = False
        self._space = Segments({"hsv": "HSV", "oklch": "OKLCH"}, "Numbers", _TIPS)
        self._plane, self._hue = ColourPlane(), HueLine()
        self._fields: dict[Space, list[NumberField]] = {s: _fields(s) for s in SPACES.values()}
        self._rows: dict[Space, QWidget] = {}
        self._hex = QLineEdit(
            accessibleName="Hexadecimal", toolTip="The colour as #rrggbb, #rgb or #rrggbbaa."
        )
        self._opacity = NumberField("Opacity", "%", factor=100, low=0, high=100)
        self._dropper = QPushButton("From the picture", toolTip="Then click a place in the viewer.")
        self._both = _Both()
        self._used, self._recent = Swatches("In this project"), Swatches("Used lately")
        self._contrast = QLabel("", objectName="muted", wordWrap=True)
        self._lay_out()
        self._connect()

    def _lay_out(self) -> None:
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 12, 12, 12)
        column.setSpacing(8)
        column.addWidget(self._plane)
        column.addWidget(self._hue)
        column.addWidget(self._space)
        for space, fields in self._fields.items():
            self._rows[space] = _named_row(fields, space)
            column.addWidget(self._rows[space])
        row = QHBoxLayout()
        row.setSpacing(6)
        for widget, stretch in ((self._both, 0), (self._hex, 3), (self._opacity, 2)):
            row.addWidget(widget, stretch)
        column.addLayout(row)
        column.addWidget(self._dropper)
        for swatches in (self._used, self._recent):
            column.addWidget(swatches)
        column.addWidget(self._contrast)

    def _connect(self) -> None:
        self._plane.moved.connect(self._take_values)
        self._hue.moved.connect(self._take_hue)
        self._space.chosen.connect(self._take_space)
        for space, fields in self._fields.items():
            for number, field in enumerate(fields):
                for signal in (field.tried, field.committed):
                    signal.connect(lambda value, s=space, n=number: self._take_part(s, n, value))
        self._opacity.tried.connect(self._take_opacity)
        self._opacity.committed.connect(self._take_opacity)
        self._hex.editingFinished.connect(self._take_hex)
        self._dropper.clicked.connect(self._begin_dropper)
        self._both.back.connect(lambda: self._take(self._before))
        for swatches in (self._used, self._recent):
            swatches.chosen.connect(self._take)

    @property
    def colour(self) -> str:
        """The colour that is looked at: `#rrggbb`, or with eight figures where it is not opaque."""
        return self._colour

    def _knowing(self) -> HasColours | None:
        parent = self.parentWidget()
        return None if parent is None else window_above(parent, HasColours)  # type: ignore[type-abstract]

    def open_on(self, text: str, button: QWidget) -> None:
        """Begin at a colour, below a button."""
        window = self._knowing()
        self._before, self._left = text.lower(), False
        if window is not None:
            self._used.show_colours(window.used_colours()[:_MOST_USED])
            self._recent.show_colours(window.recent_colours()[:_IN_A_ROW])
            self._kind = window.colour_space()
        self._around = window.around_words() if window is not None else None
        self._show_space()
        self._show(self._before)
        self.adjustSize()
        self.move(_beside(button, self.size()))
        self.show()
        self._plane.setFocus()

    # Taking

    def _take(self, text: str) -> None:
        self._show(text)
        self.tried.emit(text)

    def _take_values(self, values: Triple) -> None:
        """Colours that differ by a hue alone may look alike: the values are kept, not read back."""
        text = _text(from_space(self._now, values), _alpha(self._colour))
        self._show(text, values)
        self.tried.emit(text)

    def _take_hue(self, hue: float) -> None:
        values = list(self._values)
        values[self._now.hue] = hue
        self._take_values((values[0], values[1], values[2]))

    def _take_part(self, space: Space, number: int, value: float) -> None:
        values = list(self._values)
        values[number] = value
        self._take_values((values[0], values[1], values[2]))

    def _take_opacity(self, share: float) -> None:
        text = _text(_rgb(self._colour), share)
        self._show(text, self._values)
        self.tried.emit(text)

    def _take_hex(self) -> None:
        found = _HEX.fullmatch(self._hex.text().strip())
        if found is None:
            self._hex.setText(self._colour)
            return
        figures = found[1].lower()
        if len(figures) == 3:
            figures = "".join(2 * figure for figure in figures)
        text = f"#{figures}" if len(figures) == 8 else _text(_rgb(f"#{figures}"), _alpha(self._colour))
        if text != self._colour:
            self._take(text)

    def _take_space(self, name: str) -> None:
        self._kind = name
        window = self._knowing()
        if window is not None:
            window.colour_space(name)
        self._show_space()
        self._show(self._colour)

    # Showing

    @property
    def _now(self) -> Space:
        return SPACES[self._kind]

    def _show_space(self) -> None:
        self._space.show_choice(self._kind)
        for space, row in self._rows.items():
            row.setVisible(space is self._now)

    def _show(self, text: str, values: Triple | None = None) -> None:
        self._colour = text
        space = self._now
        self._values = to_space(space, _rgb(text)) if values is None else values
        self._plane.show_values(space, self._values)
        self._hue.show_hue(space, self._values[space.hue])
        for field, value in zip(self._fields[space], self._values, strict=True):
            field.show_value(value)
        self._opacity.show_value(_alpha(text))
        self._hex.setText(text)
        self._both.show_colours(self._before, text)
        self._show_contrast()

    def _show_contrast(self) -> None:
        around = self._around
        self._contrast.setVisible(around is not None)
        if around is None:
            return
        found = contrast(luminance(np.array(_rgb(self._colour))), luminance(around))
        usual, worst = float(np.median(found)), float(np.percentile(found, 10))
        said = (
            "enough" if worst >= ENOUGH else "enough for large words" if worst >= ENOUGH_LARGE else "little"
        )
        self._contrast.setText(f"Contrast to what is around: {usual:.1f} : 1, {worst:.1f} at worst ({said}).")

    # The picture

    def _begin_dropper(self) -> None:
        window = self._knowing()
        if window is not None:
            self._lookup = True
            self.hide()
            window.pick_from_picture(self._picked)

    def _picked(self, text: str | None) -> None:
        self._lookup = False
        if text is not None:
            self._take(_text(_rgb(text), _alpha(self._colour)))
        self.show()
        self._plane.setFocus()

    # Leaving

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self._left = True
            self.hide()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.hide()
        else:
            super().keyPressEvent(event)

    def hideEvent(self, event: QHideEvent) -> None:
        super().hideEvent(event)
        if self._lookup:
            return
        if self._left or self._colour == self._before:
            self.dropped.emit()
            return
        window = self._knowing()
        if window is not None:
            window.note_colour(self._colour)
        self.chosen.emit(self._colour)


class Swatches(QWidget):
    """Colours in rows under a name; hidden while there are none."""

    chosen = Signal(str)

    def __init__(self, name: str) -> None:
        super().__init__(accessibleName=name)
        self._colours: list[str] = []
        self._at = 0
        self._name = name
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)

    def show_colours(self, colours: Sequence[str]) -> None:
        self._colours, self._at = list(colours), 0
        self.setVisible(bool(colours))
        rows = -(-len(self._colours) // _IN_A_ROW)
        self.setFixedHeight(self.fontMetrics().height() + 4 + rows * (_SIDE + 5))

    def sizeHint(self) -> QSize:
        return QSize(_IN_A_ROW * (_SIDE + 5), self.height())

    def _box(self, number: int) -> QRectF:
        row, column = divmod(number, _IN_A_ROW)
        top = self.fontMetrics().height() + 5
        return QRectF(column * (_SIDE + 5) + 1, top + row * (_SIDE + 5), _SIDE, _SIDE)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(colour("muted"))
        painter.drawText(self.rect(), Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft, self._name)
        for number, text in enumerate(self._colours):
            chosen = self.hasFocus() and number == self._at
            painter.setPen(QPen(colour("accent" if chosen else "line"), 2 if chosen else 1))
            painter.setBrush(QColor(text[:7]))
            painter.drawRoundedRect(self._box(number), 4, 4)
        painter.end()

    def _under(self, event: QMouseEvent) -> int | None:
        spot = event.position()
        return next((n for n in range(len(self._colours)) if self._box(n).contains(spot)), None)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        under = self._under(event)
        self.setToolTip("" if under is None else self._colours[under])

    def mousePressEvent(self, event: QMouseEvent) -> None:
        under = self._under(event)
        if under is not None:
            self._at = under
            self.chosen.emit(self._colours[under])
            self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        ways = {
            Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1,
            Qt.Key.Key_Up: -_IN_A_ROW, Qt.Key.Key_Down: _IN_A_ROW,
        }  # fmt: skip
        way = ways.get(Qt.Key(event.key()))
        if way is not None:
            self._at = min(max(self._at + way, 0), len(self._colours) - 1)
            self.update()
        elif event.key() == Qt.Key.Key_Space:
            self.chosen.emit(self._colours[self._at])
        else:
            super().keyPressEvent(event)


class _Both(QWidget):
    """The colour before, left, and the one now; a click on the left goes back."""

    back = Signal()

    def __init__(self) -> None:
        super().__init__(toolTip="Before and now. Click the left half to go back.")
        self._colours = (OPAQUE_WHITE, OPAQUE_WHITE)
        self.setFixedSize(44, 22)

    def show_colours(self, before: str, now: str) -> None:
        self._colours = (before, now)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        for left, text in zip((0, 22), self._colours, strict=True):
            painter.fillRect(QRectF(left, 0, 22, 22), QColor(text[:7]))
        painter.setPen(colour("line"))
        painter.drawRect(self.rect().adjusted(0, 0, -1, -1))
        painter.end()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.position().x() < self.width() / 2:
            self.back.emit()


_TIPS = {
    "hsv": "Hue, saturation and value: how screens mix.",
    "oklch": "Lightness, chroma and hue as eyes see them: another hue stays as light.",
}


def _fields(space: Space) -> list[NumberField]:
    return [_field(part) for part in space.parts]


def _named_row(fields: list[NumberField], space: Space) -> QWidget:
    """Fields side by side, their names above them."""
    row = QWidget()
    grid = QGridLayout(row)
    grid.setContentsMargins(0, 0, 0, 0)
    grid.setHorizontalSpacing(6)
    grid.setVerticalSpacing(2)
    for column, (field, part) in enumerate(zip(fields, space.parts, strict=True)):
        grid.addWidget(QLabel(part.name, objectName="muted"), 0, column)
        grid.addWidget(field, 1, column)
    return row


def _field(part: Part) -> NumberField:
    factor = 100.0 if part.unit == "%" else 1.0
    step = part.whole / 360 if part.decimals else 1.0
    return NumberField(part.name, part.unit, step, part.decimals, factor, low=0, high=part.whole)


def _rgb(text: str) -> Triple:
    red, green, blue = (int(text[at : at + 2], 16) / 255 for at in (1, 3, 5))
    return red, green, blue


def _alpha(text: str) -> float:
    return int(text[7:9], 16) / 255 if len(text) == 9 else 1.0


def _text(rgb: Triple, alpha: float) -> str:
    parts = [round(255 * part) for part in (*rgb, alpha)]
    return "#" + "".join(f"{part:02x}" for part in (parts if parts[3] < 255 else parts[:3]))


def _beside(button: QWidget, size: QSize) -> QPoint:
    """Below a button, or above it, where it fits on the screen."""
    screen = button.screen().availableGeometry()
    below = button.mapToGlobal(QPoint(0, button.height() + 3))
    top = below.y() if below.y() + size.height() <= screen.bottom() else screen.bottom() - size.height()
    left = min(below.x(), screen.right() - size.width())
    return QPoint(max(screen.left(), left), max(screen.top(), top))
