"""Typing a name over the thing that has it."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QRectF
from PySide6.QtWidgets import QLineEdit, QWidget


def ask_name(over: QWidget, name: str, said: str, box: QRectF, done: Callable[[str], object]) -> QLineEdit:
    """A field in a box of a widget; what is typed goes to `done`, unless it is empty."""
    edit = QLineEdit(name, over)
    edit.setAccessibleName(said)
    edit.setGeometry(box.toRect())
    edit.selectAll()
    edit.show()
    edit.setFocus()

    def finish() -> None:
        edit.editingFinished.disconnect()
        edit.hide()
        edit.deleteLater()
        over.setFocus()
        if edit.text().strip():
            done(edit.text().strip())

    edit.editingFinished.connect(finish)
    return edit
