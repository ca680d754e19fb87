"""Where the parts of the window stand: sheet, viewer and shelf above the timeline, or higher than that."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QSettings, Qt
from PySide6.QtWidgets import QSplitter, QVBoxLayout, QWidget

_SHEET, _SHELF = 300, 292  # px wide at first, at the usual size of text
_LEAST_SHEET, _LEAST_SHELF = 284, 250
_UPPER, _LOWER = 400, 320
TALL_FIRST = {"sheet": False, "shelf": True}
"""Which of the sides are as high as the window at first."""


class Places(QSplitter):
    """Three columns, the middle one with the timeline below; what is tall stands beside all of that.

    Widths, heights and what is tall are kept in the settings.
    """

    def __init__(
        self, sheet: QWidget, middle: QWidget, shelf: QWidget, lower: QWidget, settings: QSettings
    ) -> None:
        super().__init__(Qt.Orientation.Horizontal)
        self._sheet, self._middle, self._shelf, self._settings = sheet, middle, shelf, settings
        self._upper = QSplitter(Qt.Orientation.Horizontal)
        self._centre = QSplitter(Qt.Orientation.Vertical)
        self._centre.addWidget(self._upper)
        self._centre.addWidget(lower)
        self._centre.setStretchFactor(0, 1)
        self._centre.setStretchFactor(1, 0)
        self.addWidget(self._centre)
        for splitter in (self, self._upper, self._centre):
            splitter.setChildrenCollapsible(False)
            splitter.setHandleWidth(8)
        middle.setMinimumWidth(300)
        self.scale(1.0)
        self.arrange()
        self._centre.setSizes(self._kept("heights", [_UPPER, _LOWER]))

    def _kept(self, name: str, first: list[int]) -> list[int]:
        kept: Any = self._settings.value(f"places/{name}", first)
        try:
            sizes = [int(size) for size in kept]
        except (TypeError, ValueError):
            return first
        return sizes if len(sizes) == len(first) and min(sizes) > 0 else first

    def scale(self, text_scale: float) -> None:
        """Give the sides the room that larger text needs."""
        self._share = max(1.0, text_scale * 0.92)
        self._sheet.setMinimumWidth(round(_LEAST_SHEET * self._share))
        self._shelf.setMinimumWidth(round(_LEAST_SHELF * self._share))

    def is_tall(self, side: str) -> bool:
        """Whether the sheet, or the shelf, is as high as the window."""
        return bool(self._settings.value(f"places/{side}_tall", TALL_FIRST[side], bool))

    def turn_tall(self, side: str) -> None:
        """Make a side as high as the window, or as high as the picture."""
        self.keep()
        self._settings.setValue(f"places/{side}_tall", not self.is_tall(side))
        self.arrange()

    def arrange(self) -> None:
        """Put the columns where they belong."""
        sheet, shelf = (round(width * self._share) for width in self._kept("widths", [_SHEET, _SHELF]))
        outer: list[QWidget] = [self._centre]
        inner: list[QWidget] = [self._middle]
        (outer if self.is_tall("sheet") else inner).insert(0, self._sheet)
        (outer if self.is_tall("shelf") else inner).append(self._shelf)
        wide = {self._sheet: sheet, self._shelf: shelf}
        for splitter, columns in ((self._upper, inner), (self, outer)):
            for number, column in enumerate(columns):
                splitter.insertWidget(number, column)
                splitter.setStretchFactor(number, 0 if column in wide else 1)
            # What is left goes to the middle.
            splitter.setSizes([wide.get(column, 10_000) for column in columns])

    def keep(self) -> None:
        """Remember how the parts stand."""
        widths = [round(side.width() / self._share) for side in (self._sheet, self._shelf)]
        if min(widths) > 0 and self.isVisible():
            self._settings.setValue("places/widths", widths)
            self._settings.setValue("places/heights", self._centre.sizes())


def framed(widget: QWidget, left: int, top: int, right: int, bottom: int) -> QWidget:
    """A widget with margins round it."""
    made = QWidget()
    column = QVBoxLayout(made)
    column.setContentsMargins(left, top, right, bottom)
    column.addWidget(widget)
    return made
