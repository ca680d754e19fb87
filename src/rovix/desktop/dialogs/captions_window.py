"""How captions that are brought in are set: like which layer, in how many lines of how many letters."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QCheckBox, QDialog, QDialogButtonBox, QLabel, QListWidget, QVBoxLayout

from rovix.desktop.dialogs.buttons import answer_row
from rovix.desktop.new_text import styled
from rovix.desktop.sheet.drop_down import DropDown
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.parts import Rows
from rovix.edit.captions import (
    MOST_LETTERS,
    MOST_LINES,
    CaptionOptions,
    caption_style,
    captions_in,
    timed_parts,
)
from rovix.errors import RovixError
from rovix.exchange import CAPTION_FORMATS
from rovix.exchange.captions import ENCODINGS, Captions, read_captions
from rovix.model import Project, TextClip
from rovix.time import timecode

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame

_LETTERS, _LINES, _TIMED = "captions/letters", "captions/lines", "captions/timed"
_SHOWN = 200  # captions whose layers are listed before they are made


class CaptionsWindow(QDialog):
    """Shows what layers there will be, as the choices are; taken, they are one step."""

    def __init__(self, window: Frame, path: Path, captions: Captions) -> None:
        # Long: the controls in the order in which they stand, a statement or two each.
        super().__init__(window, windowTitle="Bring in captions")
        self._window, self._path, self._captions = window, path, captions
        settings = window.settings
        self.resize(520, 560)
        self._heading = QLabel("", objectName="heading", wordWrap=True)
        self.like = DropDown(accessibleName="Like", toolTip="Style, place and moves are those of this layer.")
        self._fill_like()
        self.letters = NumberField("Letters a line", "", 1, 0, low=4, high=MOST_LETTERS)
        self.letters.show_value(float(settings.value(_LETTERS, CaptionOptions().letters)))  # type: ignore[arg-type]
        self.lines = NumberField("Lines", "", 0.1, 0, low=1, high=MOST_LINES)
        self.lines.show_value(float(settings.value(_LINES, CaptionOptions().lines)))  # type: ignore[arg-type]
        self.timed = QCheckBox(
            "Words come at their own times", checked=settings.value(_TIMED, True, bool) is True
        )
        self.timed.setToolTip("The entrance goes word by word, each at the time that the file has for it.")
        self.encoding = DropDown(accessibleName="Written in", toolTip="What the file is written in.")
        for name, said in ENCODINGS.items():
            self.encoding.addItem(said, name)
        if self.encoding.findData(captions.encoding) < 0:
            self.encoding.addItem(captions.encoding, captions.encoding)
        self.encoding.show_data(captions.encoding)
        self.shown = QListWidget(accessibleName="The captions as they will be", wordWrap=True)
        self.shown.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._told = QLabel("", objectName="muted", wordWrap=True)
        self._lay_out()
        for field in (self.letters, self.lines):
            field.tried.connect(lambda _: self.look())
            field.committed.connect(lambda _: self.look())
        self.encoding.activated.connect(lambda _: self._read_again())
        self.look()

    def _lay_out(self) -> None:
        column = QVBoxLayout(self)
        column.setSpacing(9)
        column.addWidget(self._heading)
        rows = Rows()
        rows.add("Like", [self.like])
        rows.add("Letters a line, lines", [self.letters, self.lines])
        rows.add("Written in", [self.encoding])
        column.addWidget(rows)
        column.addWidget(self.timed)
        column.addWidget(self.shown, 1)
        column.addWidget(self._told)
        self._answers = answer_row(self, "Bring in")
        self._answers.button(QDialogButtonBox.StandardButton.Ok).setDefault(True)
        column.addWidget(self._answers)

    def _fill_like(self) -> None:
        """The selected text layer first, then new text's style, then the others."""
        document = self._window.document
        layers = [c for t in document.project.sequence.tracks for c in t.clips if isinstance(c, TextClip)]
        selected = [clip for clip in layers if clip.id == document.selected]
        for clip in selected:
            self.like.addItem(f"‘{clip.title}’, selected", clip)
        self.like.addItem("A plain caption", None)
        new = styled(self._window.settings, caption_style(document.project.sequence.size))
        self.like.addItem("New text", new)
        for clip in (clip for clip in layers if clip not in selected):
            self.like.addItem(f"‘{clip.title}’", clip)

    @property
    def options(self) -> CaptionOptions:
        """What is chosen."""
        letters, lines = (round(field.value or 1) for field in (self.letters, self.lines))
        return CaptionOptions(letters, lines, self.timed.isChecked())

    def look(self) -> None:
        """List the layers that there will be."""
        options, rate = self.options, self._window.document.rate
        self.shown.clear()
        count = 0
        cues = self._captions.cues
        for cue in cues[:_SHOWN]:
            for part, (start, _) in timed_parts(cue, options):
                count += 1
                words = part.words(cue.text).replace("\n", " ⏎ ")
                self.shown.addItem(f"{timecode(rate.frames(start), rate)}   {words}")
        if len(cues) > _SHOWN:
            self.shown.addItem(f"… and {len(cues) - _SHOWN} captions more")
        layers = f"{count} layers" if len(cues) <= _SHOWN else "a layer or more each"
        self._heading.setText(f"{self._path.name}: {len(cues)} captions, {layers}")
        self._told.setText("\n".join(self._captions.told))
        self._told.setVisible(bool(self._captions.told))
        self.timed.setVisible(any(cue.times for cue in cues))

    def _read_again(self) -> None:
        try:
            self._captions = read_captions(self._path, CAPTION_FORMATS, self.encoding.currentData())
        except RovixError as wrong:
            self._window.document.problem.emit(str(wrong))
            self.encoding.show_data(self._captions.encoding)
            return
        self.look()

    def accept(self) -> None:
        """Put them in as one step, all of them selected, and remember the choices."""
        options, settings = self.options, self._window.settings
        settings.setValue(_LETTERS, options.letters)
        settings.setValue(_LINES, options.lines)
        settings.setValue(_TIMED, options.timed)
        document, like, made = self._window.document, self.like.currentData(), list[str]()

        def edit(project: Project) -> Project:
            changed, made[:] = captions_in(project, self._captions.cues, like, options)
            return changed

        if document.do(f"Bring in {len(self._captions.cues)} captions", edit):
            document.select(*made)
            self._window.say(f"{len(made)} layers from {self._path.name}.")
            super().accept()
