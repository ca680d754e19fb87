"""Unsaved work that crashes left: take it over, or discard it. Closing the window keeps it all."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from pathlib import Path

from PySide6.QtCore import Qt, QUrl
from PySide6.QtGui import QDesktopServices
from PySide6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from rovix.engine.unsaved_work import LeftWork
from rovix.errors import RovixError


def said_of(work: LeftWork) -> str:
    """When work was written last, and how long it had gone on."""
    return f"{datetime.fromtimestamp(work.at):%d %B %Y, %H:%M}, {_duration(work.seconds)} of work"


def _duration(seconds: float) -> str:
    minutes = round(seconds / 60)
    if minutes < 1:
        return f"{max(1, round(seconds))} s"
    return f"{minutes} min" if minutes < 60 else f"{minutes // 60} h {minutes % 60} min"


def wrong_with(work: LeftWork) -> str:
    """Why work cannot be read, in one line; empty when it can."""
    try:
        work.read(Path("/"))
    except RovixError as wrong:
        return str(wrong).split("\n")[0].removeprefix("$: ")
    return ""


class LeftWorkWindow(QDialog):
    """The list, the newest first; Enter or a double-click recovers."""

    def __init__(self, works: list[LeftWork], recover: Callable[[LeftWork], None], parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle("Unsaved work")
        self.resize(620, 320)
        self._works, self._recover = list(works), recover
        self._wrong = {work.kept: wrong_with(work) for work in works}
        self.list = QListWidget(accessibleName="Unsaved work, the newest first", wordWrap=True, spacing=4)
        self.list.itemActivated.connect(lambda _: self.recover_chosen())
        self.list.currentRowChanged.connect(lambda _: self._look())
        button = self._button
        self.recover_button = button("Recover", "Open it as unsaved work (Enter).", self.recover_chosen)
        self.folder_button = button("Show in folder", "Open the folder it lies in.", self.show_chosen)
        self.discard_button = button("Discard", "Delete it for good (Delete).", self.discard_chosen)
        self.discard_button.setShortcut(Qt.Key.Key_Delete)
        side = QVBoxLayout()
        for made in (self.recover_button, self.folder_button, self.discard_button):
            side.addWidget(made)
        side.addStretch(1)
        side.addWidget(self._button("Later", "Close this window and keep everything (Esc).", self.reject))
        row = QHBoxLayout()
        row.setSpacing(12)
        row.addWidget(self.list, 1)
        row.addLayout(side)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 16, 16, 16)
        column.setSpacing(12)
        about = QLabel(
            "The application ended before this was saved. It stays here until you answer.",
            objectName="muted",
            wordWrap=True,
        )
        column.addWidget(about)
        column.addLayout(row)
        self._fill()

    def _button(self, said: str, tip: str, run: Callable[[], None]) -> QPushButton:
        button = QPushButton(said, toolTip=tip, autoDefault=False)
        button.clicked.connect(run)
        return button

    @property
    def chosen(self) -> LeftWork | None:
        row = self.list.currentRow()
        return self._works[row] if 0 <= row < len(self._works) else None

    def recover_chosen(self) -> None:
        work = self.chosen
        if work is not None and not self._wrong[work.kept]:
            self.accept()
            self._recover(work)

    def discard_chosen(self) -> None:
        work = self.chosen
        if work is not None:
            work.discard()
            self._works.remove(work)
            self._fill()
        if not self._works:
            self.accept()

    def show_chosen(self) -> None:
        work = self.chosen
        if work is not None:
            QDesktopServices.openUrl(QUrl.fromLocalFile(str(work.kept.parent)))

    def _fill(self) -> None:
        self.list.clear()
        for work in self._works:
            wrong = self._wrong[work.kept]
            below = f"It cannot be read, and is kept: {wrong}" if wrong else said_of(work)
            item = QListWidgetItem(f"{work.name}\n{below}")
            item.setToolTip(str(work.project or "It never had a file."))
            self.list.addItem(item)
        self.list.setCurrentRow(0)
        self._look()

    def _look(self) -> None:
        work = self.chosen
        self.recover_button.setEnabled(work is not None and not self._wrong[work.kept])
        self.discard_button.setEnabled(work is not None)
        self.folder_button.setEnabled(work is not None)
