"""The fields for a frame's size and rate, as dialogs ask for them."""

from __future__ import annotations

from PySide6.QtWidgets import QGridLayout, QLabel, QSpinBox, QWidget

from rovix.desktop.sheet.drop_down import DropDown
from rovix.time import Rate

SIZES = {
    "Landscape, 1920 × 1080": (1920, 1080),
    "Landscape, 3840 × 2160": (3840, 2160),
    "Landscape, 1280 × 720": (1280, 720),
    "Square, 1080 × 1080": (1080, 1080),
    "Portrait, 1080 × 1920": (1080, 1920),
    "Portrait, 1080 × 1350": (1080, 1350),
    "Own size": None,
}
RATES = ("24", "25", "29.97", "30", "50", "59.94", "60")


class FrameFields:
    """Size and rate; :meth:`add_to` puts them into a grid of names and fields."""

    def __init__(self, size: tuple[int, int] = (1920, 1080), rate: str = "30") -> None:
        self.size_box = DropDown(accessibleName="Frame", toolTip="Width and height of the frame in px.")
        self.size_box.addItems(list(SIZES))
        self.width_box, self.height_box = _side("Width"), _side("Height")
        self.rate_box = DropDown(editable=True, accessibleName="Rate")
        self.rate_box.setToolTip("Frames per second; choose one, or type it, also as 30000/1001.")
        self.rate_box.addItems(RATES)
        self.rate_box.setCurrentText(Rate(rate).label)
        known = next((name for name, known in SIZES.items() if known == size), "Own size")
        self.size_box.setCurrentText(known)
        self.width_box.setValue(size[0])
        self.height_box.setValue(size[1])
        self.size_box.currentTextChanged.connect(self._size_chosen)
        self._size_chosen(known)

    def add_to(self, grid: QGridLayout, row: int) -> int:
        """Add the rows; gives the number of the next one."""
        fields: tuple[tuple[str, QWidget], ...] = (
            ("Frame", self.size_box), ("Width", self.width_box), ("Height", self.height_box),
            ("Rate", self.rate_box),
        )  # fmt: skip
        for number, (said, field) in enumerate(fields, start=row):
            grid.addWidget(QLabel(said), number, 0)
            grid.addWidget(field, number, 1)
        return row + len(fields)

    @property
    def size(self) -> tuple[int, int]:
        return self.width_box.value(), self.height_box.value()

    @property
    def rate(self) -> str:
        """The rate as exact text; ValueError, with the reason, for what is none."""
        return str(Rate(self.rate_box.currentText()))

    def _size_chosen(self, text: str) -> None:
        size = SIZES[text]
        for field in (self.width_box, self.height_box):
            field.setEnabled(size is None)
        if size is not None:
            self.width_box.setValue(size[0])
            self.height_box.setValue(size[1])


def _side(name: str) -> QSpinBox:
    box = QSpinBox(accessibleName=name, toolTip=f"{name} of the frame in px, 16 to 16384.")
    box.setRange(16, 16384)
    box.setSuffix(" px")
    return box
