"""Areas of the frame that words keep out of: by numbers, drawn in the picture, or as they were kept."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING

import msgspec
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QGridLayout, QHBoxLayout, QLabel, QLineEdit, QPushButton, QVBoxLayout

from rovix.desktop.sheet.drop_down import DropDown
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.viewer.box_hand import BoxHand
from rovix.edit.accepting import change_free, free_again, keep_free
from rovix.model.accepted import KeepFree

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame

_KEPT = "checks/kept-free"
_HINT = "Drag a box over what words are to keep out of. Esc leaves."
_Boxes = dict[str, tuple[float, float, float, float]]
_SIDES = ("left", "top", "right", "bottom")
READY: _Boxes = {
    "Lower fifth": (0.0, 0.8, 1.0, 1.0),
    "Right edge": (0.86, 0.0, 1.0, 1.0),
    "Upper tenth": (0.0, 0.0, 1.0, 0.1),
    "Corner at the upper right": (0.78, 0.0, 1.0, 0.16),
}
"""Our own, by shares of the frame."""


class KeepFreeWindow(QDialog):
    """Follows the open sequence; each change is a step."""

    def __init__(self, window: Frame) -> None:
        super().__init__(window, windowTitle="Keep areas free")
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self._window = window
        self.setMinimumWidth(520)
        self._grid = QGridLayout()
        self._shown: tuple[KeepFree, ...] | None = None
        self.ready = DropDown(
            accessibleName="Ready areas", toolTip="Areas by numbers: ours, and those you kept."
        )
        self._fill_ready()
        add = QPushButton("Add", autoDefault=False, toolTip="Keep the chosen area free.")
        add.clicked.connect(self.add_ready)
        draw = QPushButton("Draw one", autoDefault=False, toolTip="Drag a box out in the picture.")
        draw.clicked.connect(self.draw)
        keep = QPushButton("Keep these", autoDefault=False, toolTip="Put these among the ready ones.")
        keep.clicked.connect(self.keep)
        close = QPushButton("Close", autoDefault=False)
        close.clicked.connect(self.accept)
        foot = QHBoxLayout()
        for widget in (self.ready, add, draw, keep):
            foot.addWidget(widget)
        foot.addStretch(1)
        foot.addWidget(close)
        self._none = QLabel("Nothing is kept free. Add an area, or draw one.", objectName="muted")
        column = QVBoxLayout(self)
        column.addLayout(self._grid)
        column.addWidget(self._none)
        column.addStretch(1)
        column.addLayout(foot)
        window.document.project_changed.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Show the areas as they are."""
        areas = self._window.document.project.sequence.keep_free
        if areas == self._shown:
            return
        self._shown = areas
        while self._grid.count():
            taken = self._grid.takeAt(0)
            widget = taken.widget() if taken is not None else None
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        self._none.setVisible(not areas)
        for column, said in enumerate(("Name", "Left", "Top", "Right", "Bottom") if areas else ()):
            self._grid.addWidget(QLabel(said, objectName="muted"), 0, column)
        for row, area in enumerate(areas, start=1):
            self._row(row, area)

    def _row(self, row: int, area: KeepFree) -> None:
        name = QLineEdit(area.name, accessibleName="Name")
        name.editingFinished.connect(lambda: self._change(area, name=name.text() or area.name))
        self._grid.addWidget(name, row, 0)
        for column, side in enumerate(_SIDES, start=1):
            field = NumberField(side.capitalize(), "%", 0.5, 1, low=0, high=100)
            field.show_value(getattr(area, side) * 100)
            field.committed.connect(partial(self._set_side, area, side))
            self._grid.addWidget(field, row, column)
        gone = QPushButton("Remove", autoDefault=False)
        gone.clicked.connect(
            lambda: self._window.document.do("Free an area again", lambda p: free_again(p, area.id))
        )
        self._grid.addWidget(gone, row, 5)

    def _set_side(self, area: KeepFree, side: str, value: float) -> None:
        self._change(area, **{side: round(value / 100, 4)})

    def _change(self, area: KeepFree, **changes: object) -> None:
        self._window.document.do("Change an area kept free", lambda p: change_free(p, area.id, **changes))

    def add_ready(self) -> None:
        """Keep the chosen area free."""
        name, box = self.ready.currentText(), self.ready.currentData()
        self._window.document.do(f"Keep free: {name}", lambda p: keep_free(p, name, tuple(box)))

    def draw(self) -> None:
        """Have a box dragged out in the picture."""
        document = self._window.document

        def take(box: tuple[float, float, float, float]) -> None:
            across, down = document.project.sequence.size
            shares = (box[0] / across, box[1] / down, box[2] / across, box[3] / down)
            document.do("Keep an area free", lambda p: keep_free(p, "Drawn", shares))

        self._window.viewer.take_up(
            BoxHand("Drag a box over what words are to keep out of. Esc leaves.", take)
        )

    def keep(self) -> None:
        """Put the areas here among the ready ones, for other projects."""
        kept = self._kept() | {
            area.name: (area.left, area.top, area.right, area.bottom)
            for area in self._window.document.project.sequence.keep_free
        }
        self._window.settings.setValue(_KEPT, msgspec.json.encode(kept).decode())
        self._fill_ready()

    def _kept(self) -> _Boxes:
        try:
            return msgspec.json.decode(str(self._window.settings.value(_KEPT, "{}")), type=_Boxes)
        except msgspec.DecodeError:
            return {}

    def _fill_ready(self) -> None:
        self.ready.clear()
        for name, box in (READY | self._kept()).items():
            self.ready.addItem(name, box)
