"""The row of answers at the foot of a dialog."""

from __future__ import annotations

from PySide6.QtCore import QEvent
from PySide6.QtGui import QIcon
from PySide6.QtWidgets import QDialog, QDialogButtonBox


class Answers(QDialogButtonBox):
    """Buttons with words alone, whatever icons a desktop's theme gives them."""

    def event(self, event: QEvent) -> bool:
        done = super().event(event)
        if event.type() in (QEvent.Type.Polish, QEvent.Type.StyleChange, QEvent.Type.Show):
            for button in self.buttons():
                button.setIcon(QIcon())
        return done


def answer_row(dialog: QDialog, yes: str, no: str = "Cancel") -> Answers:
    """Two buttons that accept and reject the dialog, the first as the one that Enter presses."""
    row = Answers(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
    row.accepted.connect(dialog.accept)
    row.rejected.connect(dialog.reject)
    row.button(QDialogButtonBox.StandardButton.Ok).setText(yes)
    row.button(QDialogButtonBox.StandardButton.Ok).setObjectName("primary")
    row.button(QDialogButtonBox.StandardButton.Cancel).setText(no)
    return row
