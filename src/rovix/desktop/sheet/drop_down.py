"""A list to choose from that is changed by a click or a key, never in passing."""

from __future__ import annotations

from typing import Any

from PySide6.QtGui import QWheelEvent
from PySide6.QtWidgets import QComboBox, QWidget

from rovix.desktop.sheet.mixed import Mixed


class DropDown(QComboBox):
    """The wheel scrolls the panel that it stands on: turned over a closed list it changed a choice that
    nobody looked at, once for each notch."""

    def __init__(self, parent: QWidget | None = None, **properties: Any) -> None:
        super().__init__(parent, **properties)
        # As wide as its row lets it be; the choice that is longest does not widen the sheet.
        self.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.setMinimumContentsLength(5)

    def show_data(self, value: Any) -> None:
        """Show the choice with a value, without signalling; none where several differ."""
        mixed = isinstance(value, Mixed)
        if not self.isEditable():
            self.setPlaceholderText("mixed" if mixed else "")
        self.setCurrentIndex(-1 if mixed else self.findData(value))

    def wheelEvent(self, event: QWheelEvent) -> None:
        event.ignore()
