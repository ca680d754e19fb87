"""The row of answers at the foot of a dialog."""

from __future__ import annotations

from PySide6.QtWidgets import QDialog, QDialogButtonBox


def answer_row(dialog: QDialog, yes: str, no: str = "Cancel") -> QDialogButtonBox:
    """Two buttons that accept and reject the dialog, the first as the one that Enter presses."""
    row = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
    row.accepted.connect(dialog.accept)
    row.rejected.connect(dialog.reject)
    row.button(QDialogButtonBox.StandardButton.Ok).setText(yes)
    row.button(QDialogButtonBox.StandardButton.Ok).setObjectName("primary")
    row.button(QDialogButtonBox.StandardButton.Cancel).setText(no)
    return row
