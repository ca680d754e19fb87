"""All sequences of the project: open, add, copy, rename, remove, put one into another."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QHBoxLayout, QListWidget, QListWidgetItem, QPushButton, QVBoxLayout

from rovix.edit.levels import Level
from rovix.edit.sequences import duplicate_sequence, remove_sequence, rename_sequence
from rovix.model import Project, Sequence
from rovix.time import timecode

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame


class Sequences(QDialog):
    """The list; Enter or a double-click opens one, F2 renames it."""

    def __init__(self, window: Frame) -> None:
        super().__init__(window)
        self.setWindowTitle("Sequences")
        self.resize(520, 320)
        self._window = window
        self.list = QListWidget(accessibleName="Sequences")
        self.list.itemActivated.connect(lambda _: self.open_chosen())
        self.list.itemChanged.connect(self._renamed)
        side = QVBoxLayout()
        for said, tip, run in self._buttons():
            button = QPushButton(said, toolTip=tip)
            button.clicked.connect(run)
            side.addWidget(button)
        side.addStretch(1)
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 16, 16, 16)
        row.setSpacing(12)
        row.addWidget(self.list, 1)
        row.addLayout(side)
        window.document.project_changed.connect(self.refresh)
        self.refresh()

    def _buttons(self) -> list[tuple[str, str, Callable[[], None]]]:
        return [
            ("Open", "Show this sequence in the timeline (Enter).", self.open_chosen),
            ("New…", "Add a sequence.", self._window.new_sequence),
            ("Copy", "Add a copy of this sequence.", self.copy_chosen),
            ("Rename", "Change its name (F2).", lambda: self.list.editItem(self.list.currentItem())),
            (
                "Insert here",
                "Show it in the open sequence, as one layer at the playhead.",
                self.put_in_chosen,
            ),
            ("Remove", "Take it out of the project.", self.remove_chosen),
            ("Close", "Close this window (Esc).", self.accept),
        ]

    def refresh(self) -> None:
        sequences = self._window.document.whole.sequences
        here = self.list.currentRow()
        self.list.blockSignals(True)
        self.list.clear()
        for sequence in sequences:
            item = QListWidgetItem(sequence.name)
            item.setFlags(item.flags() | Qt.ItemFlag.ItemIsEditable)
            item.setToolTip(facts_of(sequence))
            item.setData(Qt.ItemDataRole.UserRole, sequence.id)
            self.list.addItem(item)
        self.list.setCurrentRow(min(max(0, here), len(sequences) - 1))
        self.list.blockSignals(False)

    @property
    def chosen(self) -> str:
        """The id of the sequence that is marked."""
        return self.list.currentItem().data(Qt.ItemDataRole.UserRole)

    def open_chosen(self) -> None:
        self._window.document.open_level(Level(self.chosen))

    def copy_chosen(self) -> None:
        identity = self.chosen
        copied: Callable[[Project], Project] = lambda p: duplicate_sequence(p, identity)[0]  # noqa: E731
        self._window.document.do_whole("Copy a sequence", copied)

    def put_in_chosen(self) -> None:
        self._window.put_in_sequence(self.chosen)

    def remove_chosen(self) -> None:
        identity = self.chosen
        self._window.document.do_whole("Remove a sequence", lambda p: remove_sequence(p, identity))

    def _renamed(self, item: QListWidgetItem) -> None:
        identity, name = item.data(Qt.ItemDataRole.UserRole), item.text().strip()
        if name:
            self._window.document.do_whole("Rename a sequence", lambda p: rename_sequence(p, identity, name))
        self.refresh()


def facts_of(sequence: Sequence) -> str:
    """A sequence's size, rate and length on one line."""
    rate = sequence.frame_rate
    length = timecode(sequence.length, rate)
    return f"{sequence.size[0]} × {sequence.size[1]}   {rate.label} fps   {length}"
