"""Choosing what of a copied clip the selected ones take on."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtWidgets import QCheckBox, QDialog, QDialogButtonBox, QLabel, QVBoxLayout

from rovix.desktop.dialogs.buttons import answer_row
from rovix.desktop.sheet.summaries import summary
from rovix.edit import clip_by_id
from rovix.edit.attributes import attributes_of, give_attributes
from rovix.edit.tree import title_of
from rovix.model import Clip

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame

_TAKEN, _SCALED = "paste/attributes", "paste/scaled"
_PLAIN = {"Clip": "fit, crop, motion blur"}
"""Said of heads whose summary is about what stays."""
_TAKEN_FIRST = ("Text", "Look", "Motion", "Effects")


class PasteAttributes(QDialog):
    """A box for each head of the sheet that both have; what was chosen last is ticked again."""

    def __init__(self, window: Frame, source: Clip) -> None:
        super().__init__(window, windowTitle="Paste attributes")
        self._window, self._source = window, source
        document = window.document
        clips = [clip_by_id(document.project, identity) for identity in document.selection]
        takes = {name for clip in clips if clip is not None for name in attributes_of(clip)}
        kept = window.settings.value(_TAKEN, list(_TAKEN_FIRST))
        ticked = {kept} if isinstance(kept, str) else set(map(str, kept or []))
        count = "1 clip" if len(clips) == 1 else f"{len(clips)} clips"
        column = QVBoxLayout(self)
        column.setSpacing(9)
        column.addWidget(QLabel(f"From \u2018{title_of(source)}\u2019 to {count}", objectName="heading"))
        self.boxes: dict[str, QCheckBox] = {}
        for name in attributes_of(source):
            if name in takes:
                said = _PLAIN.get(name) or summary(name, document, source)
                box = QCheckBox(f"{name}: {said}", checked=name in ticked)
                box.setToolTip(f"What stands under {name} in the sheet, in place of what the clips have.")
                box.toggled.connect(lambda _: self._show())
                self.boxes[name] = box
                column.addWidget(box)
        self.scaled = QCheckBox("Px go with the words' size")
        self.scaled.setToolTip("Px of looks and moves become as much larger as the words are.")
        self.scaled.setChecked(bool(window.settings.value(_SCALED, True, bool)))
        column.addSpacing(6)
        column.addWidget(self.scaled)
        self._answers = answer_row(self, "Paste")
        column.addWidget(self._answers)
        self._show()

    def _show(self) -> None:
        taken = self.taken
        ok = self._answers.button(QDialogButtonBox.StandardButton.Ok)
        ok.setEnabled(bool(taken))
        # With the text its size comes too, and px are right as they are.
        self.scaled.setEnabled(bool({"Look", "Motion"} & set(taken)) and "Text" not in taken)

    @property
    def taken(self) -> list[str]:
        """The heads that are ticked."""
        return [name for name, box in self.boxes.items() if box.isChecked()]

    def accept(self) -> None:
        """Give the clips what is ticked, as one step, and remember it."""
        taken, source = self.taken, self._source
        document, settings = self._window.document, self._window.settings
        settings.setValue(_TAKEN, taken)
        settings.setValue(_SCALED, self.scaled.isChecked())
        share = None if self.scaled.isChecked() else 1.0
        title = f"Paste {', '.join(name.lower() for name in taken)}"
        document.do_each(title, document.selection, lambda p, i: give_attributes(p, i, source, taken, share))
        super().accept()
