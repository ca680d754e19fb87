"""A sequence's size, rate and ground; and how its layers follow when these change."""

from __future__ import annotations

from PySide6.QtWidgets import (
    QCheckBox,
    QDialog,
    QDialogButtonBox,
    QGridLayout,
    QLabel,
    QLineEdit,
    QVBoxLayout,
    QWidget,
)

from rovix.desktop.dialogs.buttons import Answers
from rovix.desktop.dialogs.frame_fields import FrameFields
from rovix.desktop.sheet.colour_button import ColourButton
from rovix.desktop.sheet.drop_down import DropDown
from rovix.desktop.sheet.shutter_fields import SHUTTER_ROWS, shutter_fields, shutter_value
from rovix.edit.sequences import FOLLOW, change_background, change_rate, lay_by_depth, resize
from rovix.edit.shutter import blur_while_editing, change_shutter
from rovix.edit.tree import replace, with_sequence
from rovix.model import Project, Sequence

_BY_DEPTH = (
    "What is nearer to the viewer lies over what is farther off, whatever their tracks. Footage and grounds "
    "stay where they are, and layers on the same side of them."
)


class SequenceSettings(QDialog):
    """Asks for what a sequence is; :meth:`edited` is the project with it."""

    def __init__(self, sequence: Sequence, title: str, button: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.setMinimumWidth(420)
        self._colour = sequence.background
        self.name = QLineEdit(sequence.name, accessibleName="Name", toolTip="The sequence's name.")
        self.fields = FrameFields(sequence.size, sequence.rate)
        self.background = ColourButton("Background")
        self.background.show_colour(sequence.background)
        self.background.chosen.connect(self.choose_background)
        self.follow = DropDown(
            accessibleName="Layers", toolTip="What layers do when the frame's size changes."
        )
        for value, said in FOLLOW.items():
            self.follow.addItem(said, value)
        self.blur = QCheckBox("Motion blur", toolTip="Blur what moves, as a shutter that stays open does.")
        self.blur.setChecked(sequence.shutter.on)
        self.shutter = shutter_fields()
        for name, field in self.shutter.items():
            field.show_value(float(getattr(sequence.shutter, name)))
        self.while_editing = QCheckBox("Also while editing", toolTip="An export has it in any case.")
        self.while_editing.setChecked(sequence.blur_while_editing)
        self.by_depth = QCheckBox("Layers lie by their depth", toolTip=_BY_DEPTH)
        self.by_depth.setChecked(sequence.by_depth)
        said = "A change of rate keeps every time in seconds and puts it on the nearest whole frame."
        self._hint = QLabel(said, objectName="muted", wordWrap=True)
        self._problem = QLabel("", objectName="problem", wordWrap=True)
        self._build(button, with_layers=sequence.length > 0)

    def _build(self, button: str, with_layers: bool) -> None:
        buttons = Answers(QDialogButtonBox.StandardButton.Cancel)
        take = buttons.addButton(button, QDialogButtonBox.ButtonRole.AcceptRole)
        take.setObjectName("primary")
        buttons.accepted.connect(self._take)
        buttons.rejected.connect(self.reject)
        grid = QGridLayout()
        grid.setVerticalSpacing(10)
        grid.addWidget(QLabel("Name"), 0, 0)
        grid.addWidget(self.name, 0, 1)
        row = self.fields.add_to(grid, 1)
        rows: list[tuple[str, QWidget]] = [("Background", self.background)]
        rows += [("Layers", self.follow)] if with_layers else []
        rows += [("", self.blur), *((SHUTTER_ROWS[n], f) for n, f in self.shutter.items())]
        rows += [("", self.while_editing), ("Depth", self.by_depth)]
        for number, (said, field) in enumerate(rows, start=row):
            grid.addWidget(QLabel(said), number, 0)
            grid.addWidget(field, number, 1)
        column = QVBoxLayout(self)
        column.setContentsMargins(20, 18, 20, 16)
        column.setSpacing(10)
        column.addLayout(grid)
        for widget in (self._hint, self._problem, buttons):
            column.addWidget(widget)
        self._hint.setVisible(with_layers)

    def choose_background(self, colour: str) -> None:
        self._colour = colour
        self.background.show_colour(colour)

    def edited(self, project: Project) -> Project:
        """The project with its first sequence as it was asked for."""
        project = resize(project, self.fields.size, self.follow.currentData())
        project = change_background(change_rate(project, self.fields.rate), self._colour)
        shutter = {n: shutter_value(n, f.value or 0.0) for n, f in self.shutter.items()}
        project = change_shutter(project, on=self.blur.isChecked(), **shutter)
        project = blur_while_editing(project, self.while_editing.isChecked())
        project = lay_by_depth(project, self.by_depth.isChecked())
        name = self.name.text().strip() or project.sequence.name
        return with_sequence(project, replace(project.sequence, name=name))

    def _take(self) -> None:
        try:
            self.fields.rate  # noqa: B018 - reading it is the check
        except ValueError as wrong:
            self._problem.setText(str(wrong))
            return
        self.accept()
