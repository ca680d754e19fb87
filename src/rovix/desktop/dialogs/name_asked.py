"""Asking for a name."""

from __future__ import annotations

from PySide6.QtWidgets import QDialog, QLabel, QLineEdit, QVBoxLayout, QWidget

from rovix.desktop.dialogs.buttons import answer_row


class NameAsked(QDialog):
    """A field with what is proposed, all of it selected; Enter takes what then stands there."""

    def __init__(self, parent: QWidget, title: str, proposed: str) -> None:
        super().__init__(parent, windowTitle=title)
        self.setMinimumWidth(320)
        self.name = QLineEdit(proposed, accessibleName="Name")
        self.name.selectAll()
        column = QVBoxLayout(self)
        column.addWidget(QLabel("Name", objectName="muted"))
        column.addWidget(self.name)
        column.addWidget(answer_row(self, "Keep"))
        self.name.setFocus()


def asked_name(parent: QWidget, title: str, proposed: str) -> str | None:
    """The name that the user gives; None when it is left."""
    dialog = NameAsked(parent, title, proposed)
    taken = dialog.exec()
    dialog.deleteLater()
    return dialog.name.text() if taken else None
