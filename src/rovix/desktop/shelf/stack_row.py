"""The moves of one role that a layer has, where there are several: which one is tuned, and off with one."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QToolButton, QWidget

from rovix.desktop.theme import icon
from rovix.model import Move


class StackRow(QWidget):
    """A button for each of them, the lowest first."""

    chosen = Signal(str)
    removed = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(0, 0, 0, 0)
        self._row.setSpacing(4)
        self.buttons: list[QPushButton] = []
        self._shown: list[tuple[str, str]] = []
        self._tuned = ""
        self.off = QToolButton(objectName="small", toolTip="Take the chosen one off the layer.")
        self.off.setIcon(icon("close", "muted", 14))
        self.off.setAccessibleName("Take this move off")
        self.off.clicked.connect(lambda: self.removed.emit(self._tuned))
        self._row.addStretch(1)
        self._row.addWidget(self.off)

    def show_moves(self, moves: list[Move], tuned: str, role: str) -> None:
        """Show a layer's moves of a role, one of them tuned."""
        self._tuned = tuned
        self.setVisible(len(moves) > 1)
        named = [(move.id, move.name or role.capitalize()) for move in moves]
        if named != self._shown:
            self._shown = named
            self._rebuild(role)
        for button, (identity, _) in zip(self.buttons, named, strict=True):
            button.setChecked(identity == tuned)

    def _rebuild(self, role: str) -> None:
        for button in self.buttons:
            button.hide()
            button.deleteLater()
        self.buttons = []
        for number, (identity, name) in enumerate(self._shown):
            button = QPushButton(name, objectName="segment", checkable=True)
            button.setProperty("role", role)
            button.setToolTip(f"Tune {name}. They go together; each adds to those before it.")
            button.clicked.connect(lambda _=False, i=identity: self.chosen.emit(i))
            self._row.insertWidget(number, button)
            self.buttons.append(button)
