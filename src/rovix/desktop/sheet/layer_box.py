"""A list of layers to choose one from, or nothing."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Signal

from rovix.desktop.sheet.drop_down import DropDown
from rovix.model import PictureClip


class LayerBox(DropDown):
    """Says the id of the chosen layer, None for nothing."""

    chosen = Signal(object)

    def __init__(self, name: str, tip: str) -> None:
        super().__init__(accessibleName=name, toolTip=tip)
        self._offered: list[tuple[str, str | None]] = []
        self.activated.connect(lambda _: self.chosen.emit(self.currentData()))

    def show_layers(self, layers: Sequence[PictureClip], current: str | None) -> None:
        """Offer layers, with one of them taken."""
        offered = [("Nothing", None), *((layer.title, layer.id) for layer in layers)]
        if offered != self._offered:
            self._offered = offered
            self.clear()
            for name, identity in offered:
                self.addItem(name, identity)
        self.setCurrentIndex(max(0, self.findData(current)))
