"""A list to choose from that is changed by a click or a key, never in passing."""

from __future__ import annotations

from PySide6.QtGui import QWheelEvent
from PySide6.QtWidgets import QComboBox


class DropDown(QComboBox):
    """The wheel scrolls the panel that it stands on: turned over a closed list it changed a choice that
    nobody looked at, once for each notch."""

    def wheelEvent(self, event: QWheelEvent) -> None:
        event.ignore()
