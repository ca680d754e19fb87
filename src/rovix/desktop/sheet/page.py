"""What every page of the sheet has."""

from __future__ import annotations

from typing import Any

from PySide6.QtWidgets import QVBoxLayout, QWidget

from rovix.desktop.document import Document, Edit
from rovix.desktop.sheet.number_field import NumberField


class Page(QWidget):
    """What every page has: the document, and a column of parts."""

    def __init__(self, document: Document) -> None:
        super().__init__()
        self._document = document
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(12, 8, 12, 8)
        self._column.setSpacing(8)

    def _try(self, edit: Edit) -> None:
        self._document.try_on(edit)

    def _do(self, title: str, edit: Edit) -> None:
        self._document.do(title, edit)

    @property
    def _id(self) -> str:
        return self._document.selected or ""

    def _bind(self, field: NumberField, title: str, edit: Any) -> NumberField:
        """Connect a field to `edit(project, value)`: tried while it moves, one step when let go."""
        field.tried.connect(lambda value: self._try(lambda project: edit(project, value)))
        field.committed.connect(lambda value: self._do(title, lambda project: edit(project, value)))
        field.dropped.connect(self._document.drop)
        return field
