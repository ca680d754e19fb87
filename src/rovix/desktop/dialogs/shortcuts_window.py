"""F1: all commands by menu with their shortcuts, searched, and changed by the user."""

from __future__ import annotations

from itertools import groupby
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeySequence
from PySide6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QHeaderView,
    QKeySequenceEdit,
    QLabel,
    QLineEdit,
    QPushButton,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
)

from rovix.desktop.commands import COMMANDS, Command, command
from rovix.desktop.searching import Entry, found
from rovix.desktop.theme import colour

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame

_ID = Qt.ItemDataRole.UserRole


class Shortcuts(QDialog):
    """Choose a command, press the keys that it is to have; what had them before is told."""

    def __init__(self, window: Frame) -> None:
        super().__init__(window, windowTitle="Shortcuts")
        self._window = window
        self.resize(520, 600)
        self._rows: dict[str, QTreeWidgetItem] = {}
        self.search = QLineEdit(
            placeholderText="Search by name or keys", accessibleName="Search the shortcuts"
        )
        self.search.setClearButtonEnabled(True)
        self.search.textChanged.connect(self._fill)
        self.tree = QTreeWidget(columnCount=2, accessibleName="Shortcuts")
        self.tree.setHeaderLabels(["Command", "Shortcut"])
        self.tree.header().setStretchLastSection(False)
        self.tree.header().setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        self.tree.header().setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        self.tree.currentItemChanged.connect(lambda *_: self._show())
        self.keys = QKeySequenceEdit(accessibleName="New shortcut", maximumSequenceLength=1)
        self.keys.setToolTip("Click here and press the keys that the chosen command is to have.")
        self.keys.editingFinished.connect(self._keys_pressed)
        self._clear = QPushButton("None", toolTip="The chosen command gets no shortcut.")
        self._clear.clicked.connect(lambda: self.give(""))
        self._usual = QPushButton("As it was", toolTip="The shortcut that the command came with.")
        self._usual.clicked.connect(self._back_to_usual)
        self._all = QPushButton("All as they were", toolTip="Every shortcut as it came.")
        self._all.clicked.connect(self._all_back)
        self.said = QLabel("", objectName="muted", wordWrap=True)
        self._lay_out()
        self._fill()

    def _lay_out(self) -> None:
        row = QHBoxLayout()
        row.addWidget(QLabel("Keys"))
        row.addWidget(self.keys, 1)
        for button in (self._clear, self._usual, self._all):
            button.setAutoDefault(False)
            row.addWidget(button)
        column = QVBoxLayout(self)
        column.addWidget(self.search)
        column.addWidget(self.tree, 1)
        column.addLayout(row)
        column.addWidget(self.said)

    def _fill(self) -> None:
        """List what is searched for, by menu."""
        here = self.chosen
        entries = [
            Entry(item, item.said(self._window), f"{item.menu} {self._shown(item)}") for item in COMMANDS
        ]
        wanted = {item.id for item in found(entries, self.search.text())}
        self.tree.clear()
        self._rows.clear()
        for menu, items in groupby(COMMANDS, key=lambda item: item.menu):
            shown = [item for item in items if item.id in wanted]
            if shown:
                self._add_menu(menu, shown)
        self.tree.expandAll()
        self._choose(here)
        self._show()

    def _add_menu(self, menu: str, items: list[Command]) -> None:
        head = QTreeWidgetItem([menu, ""])
        head.setFlags(Qt.ItemFlag.ItemIsEnabled)
        head.setForeground(0, colour("muted"))
        self.tree.addTopLevelItem(head)
        for item in items:
            row = QTreeWidgetItem([item.said(self._window), self._shown(item)])
            row.setData(0, _ID, item.id)
            if self._window.shortcut_of(item.id) != item.shortcut:
                row.setForeground(1, colour("accent"))
                row.setToolTip(1, "Changed by you.")
            head.addChild(row)
            self._rows[item.id] = row

    def _shown(self, item: Command) -> str:
        keys = QKeySequence(self._window.shortcut_of(item.id))
        return keys.toString(QKeySequence.SequenceFormat.NativeText)

    @property
    def chosen(self) -> str | None:
        """The id of the chosen command."""
        item = self.tree.currentItem()
        return None if item is None else item.data(0, _ID)

    def choose(self, identity: str) -> None:
        """Choose a command."""
        self._choose(identity)

    def _choose(self, identity: str | None) -> None:
        row = self._rows.get(identity or "")
        if row is not None:
            self.tree.setCurrentItem(row)

    def _show(self) -> None:
        identity = self.chosen
        for widget in (self.keys, self._clear, self._usual):
            widget.setEnabled(identity is not None)
        self.keys.setKeySequence(QKeySequence(self._window.shortcut_of(identity) if identity else ""))

    def _keys_pressed(self) -> None:
        text = self.keys.keySequence().toString(QKeySequence.SequenceFormat.PortableText)
        if self.chosen is not None and text and text != self._window.shortcut_of(self.chosen):
            self.give(text)

    def give(self, keys: str) -> None:
        """Give the chosen command keys, as Qt's portable text; what had them loses them, and is named."""
        identity = self.chosen
        if identity is None:
            return
        lost = self._window.set_shortcut(identity, keys)
        said = command(identity).said(self._window)
        self.said.setText(
            f"'{command(lost).said(self._window)}' had these keys; now '{said}' has." if lost else ""
        )
        self._fill()

    def _back_to_usual(self) -> None:
        if self.chosen is not None:
            self.give(command(self.chosen).shortcut)

    def _all_back(self) -> None:
        self._window.reset_shortcuts()
        self.said.setText("All shortcuts are as they came.")
        self._fill()
