"""What a new project starts with: the frame's size and rate."""

from __future__ import annotations

from PySide6.QtWidgets import QDialog, QDialogButtonBox, QGridLayout, QLabel, QLineEdit, QVBoxLayout, QWidget

from rovix.desktop.dialogs.buttons import Answers
from rovix.desktop.dialogs.frame_fields import FrameFields
from rovix.model import Project, Sequence


class NewProject(QDialog):
    """Asks for name, size and rate; :meth:`project` is what was chosen."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("New project")
        self.setMinimumWidth(380)
        self.name = QLineEdit("Untitled", accessibleName="Name", toolTip="The project's name.")
        self.fields = FrameFields()
        self._problem = QLabel("", objectName="problem", wordWrap=True)
        buttons = Answers(QDialogButtonBox.StandardButton.Cancel)
        create = buttons.addButton("Create", QDialogButtonBox.ButtonRole.AcceptRole)
        create.setObjectName("primary")
        buttons.accepted.connect(self._create)
        buttons.rejected.connect(self.reject)
        grid = QGridLayout()
        grid.setVerticalSpacing(10)
        grid.addWidget(QLabel("Name"), 0, 0)
        grid.addWidget(self.name, 0, 1)
        self.fields.add_to(grid, 1)
        column = QVBoxLayout(self)
        column.setContentsMargins(20, 18, 20, 16)
        column.addLayout(grid)
        column.addWidget(self._problem)
        column.addWidget(buttons)

    def project(self) -> Project:
        """An empty project of what was chosen; ValueError, with the reason, for a rate that is none."""
        name = self.name.text().strip() or "Untitled"
        return Project(name=name, sequences=(Sequence(size=self.fields.size, rate=self.fields.rate),))

    def _create(self) -> None:
        try:
            self.project()
        except ValueError as wrong:
            self._problem.setText(str(wrong))
            return
        self.accept()
