"""A title filled from a table: each row looked at, then all put on the timeline, or made as files."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtGui import QColor
from PySide6.QtWidgets import (
    QAbstractItemView,
    QDialog,
    QDialogButtonBox,
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
)

from rovix.desktop.dialogs.buttons import answer_row
from rovix.desktop.dialogs.export_choices import ExportChoices
from rovix.desktop.dialogs.row_picture import RowPicture
from rovix.desktop.sheet.drop_down import DropDown
from rovix.desktop.sheet.parts import Rows
from rovix.desktop.theme import colour
from rovix.edit.tree import replace
from rovix.engine.bulk import best_title
from rovix.engine.card_project import BETWEEN
from rovix.engine.kept_shelf import Shelved
from rovix.engine.row_lanes import Row, row_problem, row_project
from rovix.engine.titles import title_for
from rovix.errors import RovixError
from rovix.formats.title_file import SavedTitle
from rovix.model.delivery import Delivery
from rovix.model.title import Title

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame

MOST_PUT = 200
"""Rows that are put on the timeline at most; more are made as files."""
_AT_REST = 0.5
_SHOWN = 1000  # rows that are listed and looked at before any is made
_WIDEST = 150  # px of a column


class TableWindow(QDialog):
    """Shows the rows, what is wrong with some, and a picture of the chosen one. Afterwards `outcome` is
    'files' or 'timeline'."""

    def __init__(self, window: Frame, path: Path, rows: list[Row], items: list[Shelved[SavedTitle]]) -> None:
        super().__init__(window, windowTitle="Fill a title from a table")
        self._window, self.path, self.rows, self._items = window, path, rows, items
        self.outcome = "files"
        self.problems: list[str] = []
        self.resize(940, 560)
        self._size = window.document.project.sequence.size
        self.which = DropDown(accessibleName="Which title", toolTip="The title that is filled with each row.")
        for item in items:
            group = item.saved.title.group
            self.which.addItem(f"{group}: {item.saved.name}" if group else item.saved.name)
        self.table = QTableWidget(accessibleName="The rows of the table")
        self.picture = RowPicture(self, 352, 300)
        self.choices = ExportChoices(self._size, self)
        self.folder = QLineEdit(str(path.parent / path.stem), accessibleName="Folder")
        self.folder.setToolTip("The folder that the files are made in; it is made if it is not there.")
        self._said = QLabel("", objectName="muted", wordWrap=True)
        self._lay_out()
        self.which.setCurrentIndex(best_title([item.saved.title for item in items], rows))
        self.which.currentIndexChanged.connect(self.look)
        self.table.itemSelectionChanged.connect(self.show_row)
        self.finished.connect(lambda _: self.picture.close_down())
        self.look()

    def _lay_out(self) -> None:
        # Long: the parts in the order in which they stand, a statement or two each.
        self.table.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.table.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.table.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.table.verticalHeader().hide()
        self.table.horizontalHeader().setStretchLastSection(True)
        self.table.setWordWrap(False)
        self.table.setTabKeyNavigation(False)
        browse = QPushButton("Choose…", toolTip="Choose the folder for the files.")
        browse.setAutoDefault(False)
        browse.clicked.connect(self._browse)
        left = QVBoxLayout()
        left.addWidget(self.which)
        left.addWidget(self.table, 1)
        left.addWidget(self._said)
        right = QVBoxLayout()
        right.addWidget(self.picture)
        made = Rows()
        made.add("Form", [self.choices.form])
        made.add("Quality", [self.choices.quality])
        made.add("Size", [self.choices.size])
        made.add("Folder", [self.folder, browse])
        right.addWidget(made)
        right.addStretch(1)
        both = QHBoxLayout()
        both.setSpacing(14)
        both.addLayout(left, 1)
        both.addLayout(right)
        column = QVBoxLayout(self)
        column.addLayout(both, 1)
        self._answers = answer_row(self, "Make files")
        self.put = QPushButton("Put on the timeline")
        self.put.setToolTip("Each row as a title, one after the other from the playhead on, in one step.")
        self.put.clicked.connect(self._put)
        self._answers.addButton(self.put, QDialogButtonBox.ButtonRole.ActionRole)
        column.addWidget(self._answers)

    @property
    def item(self) -> Shelved[SavedTitle]:
        return self._items[self.which.currentIndex()]

    @property
    def good(self) -> list[Row]:
        """The rows that can be made."""
        return [row for row, problem in zip(self.rows, self.problems, strict=True) if not problem]

    @property
    def how(self) -> Delivery:
        """How files are made: in the sequence's own size unless another is chosen."""
        how = self.choices.how
        return how if how.size is not None else replace_size(how, self._size)

    def title_here(self, base: Path) -> Title:
        return title_for(self.item, base)

    def look(self) -> None:
        """List the rows as the chosen title takes them."""
        title = self.title_here(Path("/"))
        shown = self.rows[:_SHOWN]
        # What is beyond those that are listed is told when it is made.
        self.problems = [row_problem(title, row) for row in shown] + [""] * (len(self.rows) - len(shown))
        columns = list(dict.fromkeys(column for row in shown for column in row.values))
        heads = ["Row", *columns, "What is wrong"]
        known = {setting.name for setting in title.settings} | {"length", "file"}
        self.table.clear()
        self.table.setColumnCount(len(heads))
        self.table.setHorizontalHeaderLabels([h if h in known or n in (0, len(heads) - 1) else f"{h} ?"
                                              for n, h in enumerate(heads)])  # fmt: skip
        self.table.setRowCount(len(shown))
        for at, (row, problem) in enumerate(zip(shown, self.problems, strict=False)):
            said = [str(row.number), *(row.values.get(column, "") for column in columns), problem]
            for place, text in enumerate(said):
                cell = QTableWidgetItem(text.replace("\n", " ⏎ "))
                cell.setToolTip(text)
                if problem:
                    cell.setForeground(QColor(colour("problem" if place == len(said) - 1 else "muted")))
                self.table.setItem(at, place, cell)
        self.table.resizeColumnsToContents()
        for column in range(1, len(heads) - 1):
            self.table.setColumnWidth(column, min(self.table.columnWidth(column), _WIDEST))
        self.table.setColumnHidden(len(heads) - 1, not any(self.problems))
        self._say(title)
        if self.rows:
            self.table.selectRow(next((n for n, p in enumerate(self.problems) if not p), 0))
        self.show_row()

    def _say(self, title: Title) -> None:
        count, bad = len(self.good), len(self.rows) - len(self.good)
        sets = ", ".join(f"'{setting.name}'" for setting in title.settings) or "nothing"
        told = f"{self.path.name}: {len(self.rows)} rows" + (f", {bad} cannot be made." if bad else ".")
        self._said.setText(f"{told} The title has {sets} and 'length' to set; empty fields stay as in it.")
        if len(self.rows) > _SHOWN:
            self._said.setText(f"{self._said.text()} The first {_SHOWN} are listed.")
        make = self._answers.button(QDialogButtonBox.StandardButton.Ok)
        make.setText(f"Make {count} file{'' if count == 1 else 's'}")
        make.setEnabled(count > 0)
        self.put.setEnabled(0 < count <= MOST_PUT)

    def show_row(self) -> None:
        """Show the picture of the chosen row."""
        number = self.table.currentRow()
        if not 0 <= number < len(self.rows):
            self.picture.say("The table has no rows.")
            return
        if self.problems[number]:
            self.picture.say(self.problems[number])
            return
        try:
            project = row_project(self.title_here(Path("/")), self.rows[number], self._size)
        except RovixError as wrong:
            self.picture.say(str(wrong))
            return
        ground = replace(project.sequence, background=BETWEEN)
        frame = round(_AT_REST * (ground.length - 1))
        self.picture.ask(replace(project, sequences=(ground,)), Path("/"), frame)

    def _browse(self) -> None:
        found = QFileDialog.getExistingDirectory(self, "The folder for the files", self.folder.text())
        if found:
            self.folder.setText(found)

    def _put(self) -> None:
        self.outcome = "timeline"
        self.accept()


def replace_size(how: Delivery, size: tuple[int, int]) -> Delivery:
    """The delivery in a size."""
    return Delivery(size, how.codec, how.quality, how.loudness)
