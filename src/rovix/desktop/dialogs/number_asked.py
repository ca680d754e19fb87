"""Asking for one number, in a field like all others."""

from __future__ import annotations

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QDialog, QHBoxLayout, QLabel, QVBoxLayout, QWidget

from rovix.desktop.dialogs.buttons import answer_row
from rovix.desktop.sheet.number_field import NumberField


class NumberAsked(QDialog):
    """What is typed is taken by Enter; refused, the field says why and the dialog stays."""

    def __init__(
        self, parent: QWidget, title: str, label: str, value: float, low: float, high: float, unit: str
    ) -> None:
        super().__init__(parent, windowTitle=title)
        self._why = QLabel("", objectName="muted", wordWrap=True, visible=False)
        self.field = NumberField(label, unit, decimals=0 if unit == "f" else 2, low=low, high=high)
        self.field.show_value(value)
        self.field.committed.connect(lambda _: self._why.hide())
        row = QHBoxLayout()
        row.addWidget(QLabel(label), 1)
        row.addWidget(self.field)
        column = QVBoxLayout(self)
        column.addLayout(row)
        column.addWidget(self._why)
        column.addWidget(answer_row(self, "Apply"))
        # The keyboard goes to the field once the dialog has it.
        QTimer.singleShot(0, self.field.begin_typing)

    def accept(self) -> None:
        """Take what is typed; it stays open while that cannot be."""
        self.field.finish_typing()
        if self.field.problem:
            self._why.setText(self.field.problem)
            self._why.show()
            return
        super().accept()


def asked_number(
    parent: QWidget, title: str, label: str, value: float, low: float, high: float, unit: str
) -> float | None:
    """The number that the user gives, from `low` to `high` (both included); None when left."""
    dialog = NumberAsked(parent, title, label, value, low, high, unit)
    taken = dialog.exec()
    dialog.deleteLater()
    return dialog.field.value if taken else None
