"""Find and replace in the words of all layers; it stays open beside the window."""

from __future__ import annotations

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import (
    QCheckBox,
    QDialog,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from rovix.desktop.document import Document
from rovix.edit import clip_by_id
from rovix.edit.finding import Found, Wanted, find_words, replace_words
from rovix.edit.levels import sequence_at
from rovix.model import Project

_AROUND = 14  # letters shown before and after a place
_PAUSE = 150  # ms of typing, or of other changes, before it looks again


class FindWords(QDialog):
    """Each place can be gone to and replaced; all of them in one step."""

    def __init__(self, document: Document, parent: QWidget) -> None:
        super().__init__(parent, windowTitle="Find and replace words")
        self._document = document
        self._places: list[Found] = []
        self.resize(440, 420)
        self.wanted = QLineEdit(accessibleName="Find", placeholderText="Words to find")
        self.given = QLineEdit(accessibleName="Replace by", placeholderText="Empty: take them out")
        self.same_case = QCheckBox("Same capitals", toolTip="Capitals and small letters must be the same.")
        self.whole = QCheckBox("Whole words", toolTip="Not inside of longer words.")
        self.list = QListWidget(accessibleName="Places")
        self.said = QLabel("", objectName="muted", wordWrap=True)
        self.one = QPushButton("Replace", toolTip="Replace the chosen place and go to the next.")
        self.all = QPushButton(
            "Replace all", objectName="primary", toolTip="Replace every place, in one step."
        )
        self._later = QTimer(self, singleShot=True, interval=_PAUSE)
        self._lay_out()
        self._connect()
        self.look()

    def _lay_out(self) -> None:
        grid = QGridLayout()
        for row, (name, field) in enumerate((("Find", self.wanted), ("Replace by", self.given))):
            grid.addWidget(QLabel(name), row, 0)
            grid.addWidget(field, row, 1)
        options = QHBoxLayout()
        options.addWidget(self.same_case)
        options.addWidget(self.whole)
        options.addStretch(1)
        buttons = QHBoxLayout()
        close = QPushButton("Close")
        close.clicked.connect(self.close)
        buttons.addWidget(close)
        buttons.addStretch(1)
        buttons.addWidget(self.one)
        buttons.addWidget(self.all)
        column = QVBoxLayout(self)
        column.addLayout(grid)
        column.addLayout(options)
        column.addWidget(self.list, 1)
        column.addWidget(self.said)
        column.addLayout(buttons)
        # Enter in a field must not press a button that happens to be the first.
        for button in (close, self.one, self.all):
            button.setAutoDefault(False)

    def _connect(self) -> None:
        self._later.timeout.connect(self.look)
        self.wanted.textChanged.connect(lambda _: self._later.start())
        self.wanted.returnPressed.connect(self._next)
        self.same_case.toggled.connect(lambda _: self.look())
        self.whole.toggled.connect(lambda _: self.look())
        self.list.currentRowChanged.connect(self._go)
        self.list.itemActivated.connect(lambda _: self._go(self.list.currentRow()))
        self.one.clicked.connect(self.replace_one)
        self.all.clicked.connect(self.replace_all)
        self._document.project_changed.connect(self._project_changed)

    def _project_changed(self) -> None:
        if self.isVisible():
            self._later.start()

    def _asked(self) -> Wanted:
        return Wanted(self.wanted.text(), self.same_case.isChecked(), self.whole.isChecked())

    def look(self) -> None:
        """List all places anew, the chosen one kept."""
        row = self.list.currentRow()
        whole = self._document.whole
        self._places = find_words(whole, self._asked())
        self.list.blockSignals(True)
        self.list.clear()
        for place in self._places:
            item = QListWidgetItem(_line(whole, place))
            if place.locked:
                item.setToolTip("Its track is locked: unlock it to replace this.")
            self.list.addItem(item)
        self.list.setCurrentRow(min(max(0, row), len(self._places) - 1))
        self.list.blockSignals(False)
        free = sum(not place.locked for place in self._places)
        self.one.setEnabled(bool(free))
        self.all.setEnabled(bool(free))
        self.said.setText(_said(len(self._places), free, bool(self.wanted.text())))

    def _next(self) -> None:
        self.look()
        if self._places:
            self.list.setCurrentRow((self.list.currentRow() + 1) % len(self._places))
            self._go(self.list.currentRow())

    def _go(self, row: int) -> None:
        """Open the layer of a place, with the playhead in it."""
        if not 0 <= row < len(self._places):
            return
        place, document = self._places[row], self._document
        document.open_level(place.level)
        clip = clip_by_id(document.project, place.identity)
        if clip is not None:
            document.select(clip.id)
            if document.playhead not in clip.span:
                document.seek(clip.start + clip.length // 2)

    def replace_one(self) -> None:
        """Replace the chosen place; the next one is then chosen."""
        row = max(0, self.list.currentRow())
        place = self._places[row] if row < len(self._places) else None
        if place is None or place.locked:
            self._document.problem.emit("The words' track is locked; unlock it first.")
            return
        self._replace(f"Replace “{self.wanted.text()}”", place)
        self._go(self.list.currentRow())

    def replace_all(self) -> None:
        """Replace every place that is not locked, as one step."""
        count = self._replace(f"Replace all “{self.wanted.text()}”", None)
        self.said.setText(f"{count} replaced. Ctrl+Z in the window takes it back.")

    def _replace(self, title: str, only: Found | None) -> int:
        wanted, given, done = self._asked(), self.given.text(), [0]

        def edit(project: Project) -> Project:
            made, done[0] = replace_words(project, wanted, given, only)
            return made

        self._document.do_whole(title, edit)
        self.look()
        return done[0]


def _line(project: Project, place: Found) -> str:
    """The place with the letters around it, and where it is."""
    before = place.text[max(0, place.start - _AROUND) : place.start]
    after = place.text[place.end : place.end + _AROUND]
    around = f"{'…' if place.start > _AROUND else ''}{before}[{place.text[place.start : place.end]}]{after}"
    sequence = sequence_at(project, place.level)
    where = sequence.name if sequence is not None else ""
    return f"{' '.join(around.split())}    {where}{' · locked' if place.locked else ''}"


def _said(count: int, free: int, asked: bool) -> str:
    if not asked:
        return "Type the words to find. All layers of all sequences are searched, groups too."
    if not count:
        return "Nowhere. Try fewer letters, or leave the capitals open."
    places = "1 place" if count == 1 else f"{count} places"
    return places if free == count else f"{places}, {count - free} on locked tracks."
