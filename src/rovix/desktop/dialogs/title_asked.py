"""Asking for a title and the words that it says."""

from __future__ import annotations

from PySide6.QtWidgets import QDialog, QGridLayout, QLabel, QLineEdit, QVBoxLayout, QWidget

from rovix.desktop.dialogs.buttons import answer_row
from rovix.desktop.sheet.drop_down import DropDown
from rovix.engine.kept_shelf import Shelved
from rovix.formats.title_file import SavedTitle


class TitleAsked(QDialog):
    """A list of titles, and a field for each of the words of the chosen one."""

    def __init__(self, parent: QWidget, items: list[Shelved[SavedTitle]]) -> None:
        super().__init__(parent, windowTitle="Title at the playhead")
        self.setMinimumWidth(380)
        self._items = items
        self.which = DropDown(
            accessibleName="Which title", toolTip="The titles that come with Rovix and yours."
        )
        for item in items:
            group = item.saved.title.group
            self.which.addItem(f"{group}: {item.saved.name}" if group else item.saved.name)
        self.which.currentIndexChanged.connect(self._show)
        self.fields: dict[str, QLineEdit] = {}
        self._grid = QGridLayout()
        column = QVBoxLayout(self)
        column.addWidget(self.which)
        column.addLayout(self._grid)
        column.addWidget(answer_row(self, "Put"))
        self._show()

    @property
    def item(self) -> Shelved[SavedTitle]:
        return self._items[self.which.currentIndex()]

    @property
    def values(self) -> dict[str, str]:
        """What was typed, by what it sets; what was left empty stays as the title has it."""
        return {name: field.text() for name, field in self.fields.items() if field.text().strip()}

    def _show(self) -> None:
        while self._grid.count():
            taken = self._grid.takeAt(0)
            widget = taken.widget() if taken is not None else None
            if widget is not None:
                widget.deleteLater()
        self.fields = {}
        settings = [s for s in self.item.saved.title.settings if s.kind == "words"]
        for row, setting in enumerate(settings):
            field = self.fields[setting.name] = QLineEdit(accessibleName=setting.name)
            field.setPlaceholderText("as in the title")
            self._grid.addWidget(QLabel(setting.name, objectName="muted"), row, 0)
            self._grid.addWidget(field, row, 1)
        if settings:
            self.fields[settings[0].name].setFocus()
