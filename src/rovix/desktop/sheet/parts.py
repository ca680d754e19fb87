"""Small parts that the sheet and the shelf are built from."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtCore import QEvent, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import (
    QButtonGroup,
    QCheckBox,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QWidget,
)

from rovix.desktop.sheet.mixed import Mixed
from rovix.desktop.theme import colour, font


def lowered(name: str) -> str:
    """A name as it stands within a sentence: 'Position X' is 'position X', 'X' stays."""
    return name[:1].lower() + name[1:] if name[1:2].islower() else name


class KeyPip(QWidget):
    """Round: empty (not animated), half (animated, no key here), full (a key here)."""

    pressed = Signal()

    def __init__(self, name: str = "") -> None:
        """With a `name` it can be pressed, also by Space; without it only tells."""
        super().__init__()
        self._state, self._name = "none", name
        self.setFixedSize(14, 14)
        if name:
            self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
            self.setCursor(Qt.CursorShape.PointingHandCursor)
            self.setAccessibleName(f"Key of the {name}")
        self.show_state("none")

    def show_state(self, state: str) -> None:
        """none, animated or key."""
        if state == self._state and self.toolTip():
            return
        self._state = state
        said = {
            "none": "Not animated.",
            "animated": "Animated; no key on this frame.",
            "key": "A key on this frame.",
        }
        way = "Click to take it away." if state == "key" else "Click to set a key here."
        self.setToolTip(f"{said[state]} {way}" if self._name else said[state])
        self.setAccessibleDescription(said[state])
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self.pressed.emit()

    def event(self, event: QEvent) -> bool:
        # Space is this pip's own while it has the focus, whatever else it is a shortcut of.
        override = event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent)
        if override and self._name and event.key() == Qt.Key.Key_Space:  # type: ignore[attr-defined]
            event.accept()
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Space and self._name:
            self.pressed.emit()
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        disc = QRectF(2.5, 2.5, 9, 9)
        plain = self._state == "none" and not self.hasFocus()
        painter.setPen(QPen(colour("muted" if plain else "accent"), 1.4))
        painter.setBrush(colour("accent") if self._state == "key" else Qt.BrushStyle.NoBrush)
        painter.drawEllipse(disc)
        if self._state == "animated":
            painter.setBrush(colour("accent"))
            painter.drawPie(disc, 90 * 16, 180 * 16)
        painter.end()


class ResetLabel(QLabel):
    """A row's name; double-click puts the row back to rest."""

    double_clicked = Signal()

    def __init__(self, text: str, resets: bool) -> None:
        super().__init__(text)
        if resets:
            self.setToolTip(f"{text}: double-click puts it back.")

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        self.double_clicked.emit()


class Segments(QWidget):
    """A row of choices, one of them taken."""

    chosen = Signal(str)

    def __init__(self, choices: dict[str, str], name: str, tips: dict[str, str] | None = None) -> None:
        super().__init__()
        self._buttons: dict[str, QPushButton] = {}
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        group = QButtonGroup(self)
        for value, text in choices.items():
            button = QPushButton(text, objectName="segment", checkable=True)
            button.setAccessibleName(f"{name}: {text}")
            button.setToolTip((tips or {}).get(value, f"{name}: {text.lower()}"))
            button.clicked.connect(lambda _=False, v=value: self.chosen.emit(v))
            group.addButton(button)
            row.addWidget(button, 1)
            self._buttons[value] = button

    def show_choice(self, value: str | Mixed) -> None:
        """Show a choice as taken; none where several differ."""
        if isinstance(value, Mixed):
            self.clear_choice()
            return
        button = self._buttons.get(value)
        if button is not None:
            button.setChecked(True)

    def clear_choice(self) -> None:
        """Show none of the choices as taken."""
        for button in self._buttons.values():
            group = button.group()
            group.setExclusive(False)
            button.setChecked(False)
            group.setExclusive(True)

    def show_only(self, values: set[str]) -> None:
        """Offer only some of the choices."""
        for value, button in self._buttons.items():
            button.setVisible(value in values)

    def set_role(self, role: str) -> None:
        """Colour the taken choice as an entrance, a loop or an exit."""
        for button in self._buttons.values():
            button.setProperty("role", role)
            button.style().unpolish(button)
            button.style().polish(button)


class Tick(QCheckBox):
    """A box to tick, half so where several differ; a click then ticks it."""

    def __init__(self, text: str = "", tip: str = "") -> None:
        super().__init__(text, toolTip=tip)

    def show_ticked(self, on: bool | Mixed) -> None:
        """Show it ticked or not without signalling."""
        mixed = isinstance(on, Mixed)
        self.setTristate(mixed)
        state = (
            Qt.CheckState.PartiallyChecked
            if mixed
            else Qt.CheckState.Checked
            if on
            else Qt.CheckState.Unchecked
        )
        self.setCheckState(state)

    def nextCheckState(self) -> None:
        on = self.checkState() != Qt.CheckState.Checked
        self.setTristate(False)
        self.setChecked(on)


class Rows(QWidget):
    """Rows of name, fields and pip, aligned in columns."""

    def __init__(self) -> None:
        super().__init__()
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setHorizontalSpacing(6)
        self._grid.setVerticalSpacing(7)
        self._grid.setColumnStretch(0, 1)
        # So that the fields of rows below each other start at one line.
        self._grid.setColumnMinimumWidth(1, round(font().pixelSize() * 11.5))
        self._grid.setColumnMinimumWidth(2, 14)  # a pip's, in rows without one too
        self._at = 0

    def add(
        self,
        name: str,
        fields: Sequence[QWidget],
        pip: KeyPip | None = None,
        reset: Callable[[], None] | None = None,
        beside: QWidget | None = None,
    ) -> QLabel:
        """A row, its label given back; `beside` stands by its name."""
        label = ResetLabel(name, reset is not None)
        if reset is not None:
            label.double_clicked.connect(reset)
        if pip is not None:
            self._grid.addWidget(pip, self._at, 2)
        named = QHBoxLayout()
        named.addWidget(label)
        if beside is not None:
            named.addWidget(beside)
        named.addStretch(1)
        self._grid.addLayout(named, self._at, 0)
        box = QHBoxLayout()
        box.setSpacing(6)
        for field in fields:
            box.addWidget(field)
        self._grid.addLayout(box, self._at, 1)
        self._at += 1
        return label

    def add_wide(self, widget: QWidget) -> None:
        self._grid.addWidget(widget, self._at, 0, 1, 3)
        self._at += 1


def heading(text: str, hint: str = "") -> QWidget:
    """A part's name, and in muted type what it is about."""
    row = QWidget()
    box = QHBoxLayout(row)
    box.setContentsMargins(0, 4, 0, 0)
    box.addWidget(QLabel(text, objectName="heading"))
    box.addStretch(1)
    if hint:
        box.addWidget(QLabel(hint, objectName="muted"))
    return row
