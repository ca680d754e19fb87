"""File > Earlier versions: when each was saved and what it showed; one is opened as a copy."""

from __future__ import annotations

from collections.abc import Callable
from datetime import UTC, datetime

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QIcon, QPixmap
from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QVBoxLayout,
    QWidget,
)

from rovix.desktop.dialogs.buttons import answer_row
from rovix.engine.earlier_versions import Version

PICTURE = QSize(160, 90)


class VersionsWindow(QDialog):
    """A list of versions, the newest first; `take` gets the one that is opened."""

    def __init__(
        self, name: str, versions: list[Version], take: Callable[[Version], None], parent: QWidget
    ) -> None:
        super().__init__(parent, windowTitle="Earlier versions")
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.resize(440, 420)
        self._versions, self._take = versions, take
        self.list = QListWidget(accessibleName="Versions", iconSize=PICTURE)
        for version in versions:
            self.list.addItem(_item(version))
        self.list.setCurrentRow(0)
        self.list.itemActivated.connect(lambda _: self.accept())
        said = f"{name} as it was saved, the newest first. Opened as a copy, it changes nothing."
        column = QVBoxLayout(self)
        column.addWidget(QLabel(said, objectName="muted", wordWrap=True))
        column.addWidget(self.list, 1)
        answers = answer_row(self, "Open as a copy")
        answers.button(QDialogButtonBox.StandardButton.Ok).setEnabled(bool(versions))
        column.addWidget(answers)

    def accept(self) -> None:
        """Open the chosen version."""
        row = self.list.currentRow()
        super().accept()
        if 0 <= row < len(self._versions):
            self._take(self._versions[row])


def _item(version: Version) -> QListWidgetItem:
    item = QListWidgetItem(f"{said_time(version.when)}\n{version.size / 1024:,.0f} KB")
    picture = QPixmap()
    if version.picture and picture.loadFromData(version.picture, "PNG"):
        item.setIcon(QIcon(picture.scaled(PICTURE, Qt.AspectRatioMode.KeepAspectRatio)))
    return item


def said_time(when: datetime, now: datetime | None = None) -> str:
    """A time as it is here: 'today, 14:03', 'yesterday, 9:40', '3 Nov 2026, 18:20'."""
    local, today = when.astimezone(), (now or datetime.now(UTC)).astimezone().date()
    days = (today - local.date()).days
    day = {0: "today", 1: "yesterday"}.get(days, f"{local.day} {local:%b %Y}")
    return f"{day}, {local.hour}:{local:%M}"
