"""A part that folds away under its name, with a word on what is in it."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QLabel, QToolButton, QVBoxLayout, QWidget


class Fold(QWidget):
    """Opens and closes by its head, also by Space while that has the focus."""

    def __init__(self, name: str, content: QWidget, tip: str) -> None:
        super().__init__()
        self.content = content
        self.head = QToolButton(objectName="small", toolTip=tip, checkable=True)
        self.head.setText(name)
        self.head.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextBesideIcon)
        self.head.toggled.connect(self._toggled)
        self._said = QLabel("", objectName="muted")
        row = QHBoxLayout()
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(self.head)
        row.addStretch(1)
        row.addWidget(self._said)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addLayout(row)
        column.addWidget(content)
        self._toggled(False)

    def open(self, there: bool = True) -> None:
        """Open or close it."""
        self.head.setChecked(there)

    def say(self, text: str) -> None:
        """What is in it, in a word or two."""
        self._said.setText(text)

    def _toggled(self, there: bool) -> None:
        self.head.setArrowType(Qt.ArrowType.DownArrow if there else Qt.ArrowType.RightArrow)
        self.content.setVisible(there)
