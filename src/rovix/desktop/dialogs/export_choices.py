"""How an export is made: the choices of form, quality, size and loudness, which go together."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QObject, Signal

from rovix.desktop.sheet.drop_down import DropDown
from rovix.media.encoders import ENCODERS, EncoderKind
from rovix.model.delivery import Delivery

_SHARES = ((1.0, ""), (2 / 3, ""), (0.5, ", half size"))
LOUDNESS = (
    (None, "As it is"),
    (-14.0, "\N{MINUS SIGN}14 LUFS, for the web"),
    (-16.0, "\N{MINUS SIGN}16 LUFS, for phones and talk"),
    (-23.0, "\N{MINUS SIGN}23 LUFS, for broadcasting (EBU R 128)"),
    (-24.0, "\N{MINUS SIGN}24 LUFS, for broadcasting (ATSC A/85)"),
)
"""The first two of the numbers are common practice, no source."""


class ExportChoices(QObject):
    """Drop-down lists, and the delivery that they say."""

    changed = Signal()

    def __init__(self, size: tuple[int, int], parent: QObject) -> None:
        super().__init__(parent)
        self.form = DropDown(accessibleName="Form", toolTip="What kind of file is written.")
        for number, kind in enumerate(ENCODERS):
            self.form.addItem(kind.called, number)
        tip = "How well pictures are kept, and the form's own number for it; less is smaller."
        self.quality = DropDown(accessibleName="Quality", toolTip=tip)
        self.size = DropDown(accessibleName="Size", toolTip="Width and height of the video in px.")
        for share, said in _SHARES:
            side = (_even(size[0] * share), _even(size[1] * share)) if share < 1 else None
            self._add_size(side, size, said)
        self._own = size
        tip = "What all sound is brought to (ITU-R BS.1770); true peaks stay under \N{MINUS SIGN}1 dBTP."
        self.loudness = DropDown(accessibleName="Loudness", toolTip=tip)
        for value, said in LOUDNESS:
            self.loudness.addItem(said, value)
        self.form.activated.connect(lambda _: self._follow_form())
        for choice in (self.quality, self.size, self.loudness):
            choice.activated.connect(lambda _: self.changed.emit())
        self._show_kind()

    @property
    def kind(self) -> EncoderKind:
        """The form that is chosen."""
        return ENCODERS[self.form.currentData()]

    @property
    def how(self) -> Delivery:
        """All that is chosen."""
        size, loudness = self.size.currentData(), self.loudness.currentData()
        quality = self.quality.currentData()
        return Delivery(
            size,
            self.kind.codec,
            None if quality == "only" else quality,
            loudness if self.kind.sound else None,
        )

    def show_how(self, how: Delivery) -> None:
        """Choose what a delivery says."""
        number = next((n for n, kind in enumerate(ENCODERS) if kind.codec == how.codec), 0)
        self.form.show_data(number)
        self._show_kind()
        self.quality.show_data(self.kind.quality(how.quality).name)
        if self.size.findData(how.size) < 0:
            self._add_size(how.size, self._own, "")
        self.size.show_data(how.size)
        if self.loudness.findData(how.loudness) < 0:
            self.loudness.addItem(f"{how.loudness:g} LUFS".replace("-", "\N{MINUS SIGN}"), how.loudness)
        self.loudness.show_data(how.loudness)
        self.changed.emit()

    def follow_name(self, path: Path) -> None:
        """Choose a form that a name asks for; one that fits stays."""
        fitting = [n for n, kind in enumerate(ENCODERS) if kind.suffix == path.suffix.lower()]
        if fitting and self.form.currentData() not in fitting:
            self.form.show_data(fitting[0])
            self._follow_form()

    def _follow_form(self) -> None:
        self._show_kind()
        self.changed.emit()

    def _show_kind(self) -> None:
        """The qualities that the form has, the usual one chosen."""
        kind = self.kind
        self.quality.clear()
        for quality in kind.qualities:
            words = f"{quality.name}, {quality.said}" if len(kind.qualities) > 1 else quality.said
            self.quality.addItem(words[0].upper() + words[1:], quality.name)
        self.quality.show_data(kind.quality().name)
        self.quality.setEnabled(self.quality.count() > 1)
        self.loudness.setEnabled(kind.sound)

    def _add_size(self, size: tuple[int, int] | None, own: tuple[int, int], said: str) -> None:
        width, height = size or own
        self.size.addItem(f"{width} \N{MULTIPLICATION SIGN} {height} px{said}", size)


def about(kind: EncoderKind) -> str:
    """What a form keeps."""
    clear = {"none": "Without transparency.", "one bit": "Transparent or not, nothing between.",
             "full": "With transparency."}[kind.alpha]  # fmt: skip
    parts = [
        clear if kind.pictures else "The sound alone.",
        "The frame at the playhead." if kind.single else "",
        "" if kind.sound else "Without sound.",
        "Numbered pictures in a folder called as the name is." if kind.folder else "",
    ]
    return " ".join(part for part in parts if part)


def _even(side: float) -> int:
    return max(16, round(side / 2) * 2)
