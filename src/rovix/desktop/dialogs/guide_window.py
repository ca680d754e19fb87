"""Help > Guide: short pages that ship with the application, searched."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtGui import QTextBlockFormat, QTextCursor
from PySide6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QTextBrowser,
    QVBoxLayout,
    QWidget,
)

_FOLDER = Path(__file__).parents[1] / "guide"
PAGE_OF = {
    "Text": "text", "Look": "look", "Shape": "look", "Transform": "place", "Motion": "entrances",
    "Effects": "effects", "Clip": "timeline", "Sound": "sound",
}  # fmt: skip
"""The page that a head of the sheet is about; a test compares with the heads."""


@dataclass(frozen=True, slots=True)
class GuidePage:
    """A page: its short name, its title, and its text in Markdown."""

    name: str
    title: str
    text: str


@cache
def guide_pages() -> tuple[GuidePage, ...]:
    """All pages in the order in which they are read."""
    return tuple(_page(path) for path in sorted(_FOLDER.glob("*.md")))


def _page(path: Path) -> GuidePage:
    text = path.read_text(encoding="utf-8")
    return GuidePage(path.stem.split("-", 1)[1], text.splitlines()[0].lstrip("# "), text)


class GuideWindow(QDialog):
    """Pages on the left, the chosen one on the right; it stays open beside the work."""

    def __init__(self, parent: QWidget, page: str = "") -> None:
        super().__init__(parent, windowTitle="Guide")
        self.setWindowModality(Qt.WindowModality.NonModal)
        self.resize(760, 560)
        self.search = QLineEdit(placeholderText="Search the guide", accessibleName="Search the guide")
        self.search.setClearButtonEnabled(True)
        self.search.textChanged.connect(self._fill)
        self.list = QListWidget(accessibleName="Pages")
        self.list.setFixedWidth(round(self.fontMetrics().averageCharWidth() * 34))
        self.text = QTextBrowser(accessibleName="Page", openLinks=False)
        self.list.currentRowChanged.connect(self._show)
        self.text.document().setDocumentMargin(16)
        self._nothing = QLabel("No page has these words.", objectName="muted", wordWrap=True)
        self._shown: list[GuidePage] = []
        left = QVBoxLayout()
        left.addWidget(self.search)
        left.addWidget(self.list, 1)
        left.addWidget(self._nothing)
        row = QHBoxLayout(self)
        row.addLayout(left)
        row.addWidget(self.text, 1)
        self._fill()
        self.open_page(page or guide_pages()[0].name)

    def open_page(self, name: str) -> None:
        """Show a page by its short name."""
        self.search.clear()
        names = [page.name for page in self._shown]
        self.list.setCurrentRow(names.index(name) if name in names else 0)

    def _fill(self) -> None:
        """List the pages that have all the words searched for."""
        words = self.search.text().lower().split()
        self._shown = [page for page in guide_pages() if all(word in page.text.lower() for word in words)]
        self.list.clear()
        self.list.addItems([page.title for page in self._shown])
        self._nothing.setVisible(not self._shown)
        if self._shown:
            self.list.setCurrentRow(0)

    def _space_out(self) -> None:
        """Give paragraphs the room between them that Markdown does not say."""
        block = self.text.document().begin()
        while block.isValid():
            form = block.blockFormat()
            form.setBottomMargin(9)
            form.setLineHeight(135, QTextBlockFormat.LineHeightTypes.ProportionalHeight.value)
            QTextCursor(block).setBlockFormat(form)
            block = block.next()

    def _show(self, row: int) -> None:
        if 0 <= row < len(self._shown):
            self.text.setMarkdown(self._shown[row].text)
            self._space_out()
            word = self.search.text().strip()
            if word:
                self.text.find(word)
