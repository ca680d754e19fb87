"""The presets of the export window: choosing one, keeping what is chosen as one, removing one's own."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from rovix.desktop.dialogs.name_asked import asked_name
from rovix.desktop.sheet.drop_down import DropDown
from rovix.engine.kept_shelf import NameTaken, PresetShelf, Shelved
from rovix.errors import RovixError
from rovix.formats.delivery_file import SavedPreset
from rovix.model.delivery import Delivery


class PresetsRow(QWidget):
    """A list of presets with what can be done to them; `now` says what is chosen in the window."""

    chosen = Signal(Delivery)
    problem = Signal(str)

    def __init__(self, shelf: PresetShelf, now: Callable[[], Delivery], parent: QWidget) -> None:
        super().__init__(parent)
        self._shelf, self._now = shelf, now
        self._items: list[Shelved[SavedPreset]] = []
        self.ask_name: Callable[[], str | None] = lambda: asked_name(self, "Keep as a preset", "")
        self.list = DropDown(accessibleName="Preset", toolTip="Form, quality, size and loudness, by a name.")
        self.list.activated.connect(lambda _: self._take())
        self.keep = QPushButton("Keep…", autoDefault=False, toolTip="Keep what is chosen below as a preset.")
        self.keep.clicked.connect(self._keep)
        self.remove = QPushButton("Remove", autoDefault=False, toolTip="Remove this preset of yours.")
        self.remove.clicked.connect(self._remove)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(self.list, 1)
        row.addWidget(self.keep)
        row.addWidget(self.remove)
        self._fill()

    def follow(self) -> None:
        """Show the preset that what is chosen now is; none where it is none of them."""
        now = self._now()
        at = next((n for n, item in enumerate(self._items) if item.saved.how == now), None)
        self.list.show_data(at)
        self.remove.setEnabled(at is not None and self._items[at].own)

    def _fill(self) -> None:
        self._items = self._shelf.all()
        self.list.clear()
        for number, item in enumerate(self._items):
            self.list.addItem(item.saved.name, number)
        self.list.setPlaceholderText("none of these")
        for said in self._shelf.problems:
            self.problem.emit(said)

    def _take(self) -> None:
        self.chosen.emit(self._items[self.list.currentData()].saved.how)
        self.follow()

    def _keep(self) -> None:
        name = self.ask_name()
        if name is None:
            return
        try:
            self._shelf.save(SavedPreset(name, self._now()))
        except NameTaken as taken:
            self.problem.emit(f"{taken} Take another name, or remove it first.")
        except RovixError as wrong:
            self.problem.emit(str(wrong))
        self._fill()
        self.follow()

    def _remove(self) -> None:
        item = self._items[self.list.currentData()]
        try:
            self._shelf.remove(item)
        except RovixError as wrong:
            self.problem.emit(str(wrong))
        self._fill()
        self.follow()
