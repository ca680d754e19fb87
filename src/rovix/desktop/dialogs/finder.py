"""The command finder and the table of shortcuts, both from the one list of commands."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtGui import QKeyEvent, QKeySequence
from PySide6.QtWidgets import (
    QDialog,
    QHeaderView,
    QLineEdit,
    QTableWidget,
    QTableWidgetItem,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
)

from rovix.desktop.also_called import is_found
from rovix.desktop.commands import COMMANDS, Command, effect_commands

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame


def matching(text: str, window: Frame) -> list[Command]:
    """Commands that can be run now and whose title has every typed word, or what stands for it."""
    usable = [item for item in (*COMMANDS, *effect_commands()) if item.when(window) and item.id != "find"]
    found = [item for item in usable if is_found(f"{item.said(window)} {item.menu}", text)]
    # Those whose title begins with what is typed come first, then those that have it as it was typed.
    start = text.lower().strip()

    def rank(item: Command) -> tuple[bool, bool]:
        said = item.said(window).lower()
        return not said.startswith(start), start not in said

    return sorted(found, key=rank)


class Finder(QDialog):
    """Type part of a command's name, Enter runs it."""

    def __init__(self, window: Frame) -> None:
        super().__init__(window)
        self._window = window
        self.setWindowTitle("Find a command")
        self.resize(460, 380)
        self.field = QLineEdit(placeholderText="Type part of a command", accessibleName="Command")
        self.list = QTreeWidget(accessibleName="Commands", columnCount=2, rootIsDecorated=False)
        self.list.setHeaderHidden(True)
        self.list.header().setStretchLastSection(False)
        self.list.header().setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        column = QVBoxLayout(self)
        column.addWidget(self.field)
        column.addWidget(self.list)
        self.field.textChanged.connect(self._filter)
        self.field.installEventFilter(self)
        self.list.itemActivated.connect(lambda _: self.take())
        self._found: list[Command] = []
        self._filter("")

    def _filter(self, text: str) -> None:
        self._found = matching(text, self._window)
        self.list.clear()
        for item in self._found:
            shortcut = QKeySequence(item.shortcut).toString(QKeySequence.SequenceFormat.NativeText)
            self.list.addTopLevelItem(QTreeWidgetItem([item.said(self._window), shortcut]))
        if not self._found:
            nothing = QTreeWidgetItem(["No command has these words."])
            nothing.setFlags(Qt.ItemFlag.NoItemFlags)
            self.list.addTopLevelItem(nothing)
        self._choose(0)

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
        if self._found and 0 <= row < len(self._found):
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


class Shortcuts(QDialog):
    """All commands with their menus and shortcuts."""

    def __init__(self, window: Frame) -> None:
        super().__init__(window)
        self.setWindowTitle("Shortcuts")
        self.resize(520, 560)
        self.table = QTableWidget(len(COMMANDS), 3, accessibleName="Shortcuts")
        self.table.setHorizontalHeaderLabels(["Command", "Menu", "Shortcut"])
        self.table.verticalHeader().hide()
        self.table.setEditTriggers(QTableWidget.EditTrigger.NoEditTriggers)
        self.table.horizontalHeader().setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        for row, item in enumerate(COMMANDS):
            shortcut = QKeySequence(item.shortcut).toString(QKeySequence.SequenceFormat.NativeText)
            for place, text in enumerate((item.said(window), item.menu, shortcut)):
                self.table.setItem(row, place, QTableWidgetItem(text))
        QVBoxLayout(self).addWidget(self.table)
