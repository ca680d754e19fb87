"""The finder: type what is wanted, by whatever name."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtGui import QKeyEvent, QKeySequence
from PySide6.QtWidgets import (
    QDialog,
    QHeaderView,
    QLineEdit,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
)

from rovix.desktop.findables import Findable, findables
from rovix.desktop.searching import found
from rovix.desktop.theme import colour

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame


class Finder(QDialog):
    """Type part of the name of a command, a card, an effect, a curve or a field; Enter takes it."""

    def __init__(self, window: Frame) -> None:
        super().__init__(window)
        self._window = window
        self.setWindowTitle("Find anything")
        self.resize(560, 420)
        self.field = QLineEdit(
            placeholderText="A command, card, effect, curve or field", accessibleName="What to find"
        )
        self.list = QTreeWidget(accessibleName="Found", columnCount=3, rootIsDecorated=False)
        self.list.setHeaderHidden(True)
        self.list.header().setStretchLastSection(False)
        self.list.header().setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        self.list.header().setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        column = QVBoxLayout(self)
        column.addWidget(self.field)
        column.addWidget(self.list)
        self.field.textChanged.connect(self._filter)
        self.field.installEventFilter(self)
        self.list.itemActivated.connect(lambda _: self.take())
        # What there is to be found, gathered once: nothing changes while the window is open.
        self._there = findables(window)
        self._found: list[Findable] = []
        self._filter("")

    def _filter(self, text: str) -> None:
        self._found = found(self._there, text)
        self.list.clear()
        for item in self._found:
            shortcut = QKeySequence(item.shortcut).toString(QKeySequence.SequenceFormat.NativeText)
            row = QTreeWidgetItem([item.title, item.where, shortcut])
            row.setForeground(1, colour("muted"))
            if not item.usable:
                row.setForeground(0, colour("muted"))
                row.setToolTip(0, "Not with what is selected now.")
            self.list.addTopLevelItem(row)
        if not self._found:
            nothing = QTreeWidgetItem(["Nothing is called so. Try another word for it."])
            nothing.setFlags(Qt.ItemFlag.NoItemFlags)
            self.list.addTopLevelItem(nothing)
        self._choose(next((row for row, item in enumerate(self._found) if item.usable), 0))

    def _choose(self, row: int) -> None:
        row = min(max(0, row), self.list.topLevelItemCount() - 1)
        item = self.list.topLevelItem(row)
        if item is not None:
            self.list.setCurrentItem(item)

    def _row(self) -> int:
        return self.list.currentIndex().row()

    def take(self) -> None:
        """Run the chosen command."""
        row = self._row()
        if self._found and 0 <= row < len(self._found) and self._found[row].usable:
            chosen = self._found[row]
            self.accept()
            chosen.run(self._window)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() == QEvent.Type.KeyPress and isinstance(event, QKeyEvent):
            step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()))
            if step is not None:
                self._choose(self._row() + step)
                return True
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self.take()
                return True
        return False
