"""What a new project starts with: the frame's size and rate."""

from __future__ import annotations

from PySide6.QtWidgets import (
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QGridLayout,
    QLabel,
    QLineEdit,
    QSpinBox,
    QVBoxLayout,
    QWidget,
)

from rovix.model import Project, Sequence
from rovix.time import Rate

SIZES = {
    "Landscape, 1920 × 1080": (1920, 1080),
    "Landscape, 3840 × 2160": (3840, 2160),
    "Square, 1080 × 1080": (1080, 1080),
    "Portrait, 1080 × 1920": (1080, 1920),
    "Own size": None,
}
RATES = ("24", "25", "29.97", "30", "50", "59.94", "60")


class NewProject(QDialog):
    """Asks for name, size and rate; :meth:`project` is what was chosen."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("New project")
        self.setMinimumWidth(380)
        self.name = QLineEdit("Untitled", accessibleName="Name", toolTip="The project's name.")
        self.size_box = QComboBox(accessibleName="Frame", toolTip="Width and height of the frame in px.")
        self.size_box.addItems(list(SIZES))
        self.width_box, self.height_box = _side("Width"), _side("Height")
        self.width_box.setValue(1920)
        self.height_box.setValue(1080)
        self.rate_box = QComboBox(editable=True, accessibleName="Rate")
        self.rate_box.setToolTip("Frames per second; choose one, or type it, also as 30000/1001.")
        self.rate_box.addItems(RATES)
        self.rate_box.setCurrentText("30")
        self._problem = QLabel("", objectName="problem", wordWrap=True)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Cancel)
        create = buttons.addButton("Create", QDialogButtonBox.ButtonRole.AcceptRole)
        create.setObjectName("primary")
        buttons.accepted.connect(self._create)
        buttons.rejected.connect(self.reject)
        self.size_box.currentTextChanged.connect(self._size_chosen)
        grid = QGridLayout()
        grid.setVerticalSpacing(10)
        for row, (said, field) in enumerate(
            (("Name", self.name), ("Frame", self.size_box), ("Width", self.width_box),
             ("Height", self.height_box), ("Rate", self.rate_box))
        ):  # fmt: skip
            grid.addWidget(QLabel(said), row, 0)
            grid.addWidget(field, row, 1)
        column = QVBoxLayout(self)
        column.setContentsMargins(20, 18, 20, 16)
        column.addLayout(grid)
        column.addWidget(self._problem)
        column.addWidget(buttons)
        self._size_chosen(self.size_box.currentText())

    def project(self) -> Project:
        """An empty project of what was chosen."""
        size = (self.width_box.value(), self.height_box.value())
        rate = str(Rate(self.rate_box.currentText()))
        name = self.name.text().strip() or "Untitled"
        return Project(name=name, sequences=(Sequence(size=size, rate=rate),))

    def _size_chosen(self, text: str) -> None:
        size = SIZES[text]
        for field in (self.width_box, self.height_box):
            field.setEnabled(size is None)
        if size is not None:
            self.width_box.setValue(size[0])
            self.height_box.setValue(size[1])

    def _create(self) -> None:
        try:
            self.project()
        except ValueError as wrong:
            self._problem.setText(str(wrong))
            return
        self.accept()


def _side(name: str) -> QSpinBox:
    box = QSpinBox(accessibleName=name, toolTip=f"{name} of the frame in px, 16 to 16384.")
    box.setRange(16, 16384)
    box.setSuffix(" px")
    return box
