"""The sheet's Sound page: how loud a clip is, and how it fades."""

from __future__ import annotations

from PySide6.QtWidgets import QLabel

from rovix.desktop.document import Document
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.pages import Page
from rovix.desktop.sheet.parts import Rows, heading
from rovix.edit.channels import channel_value
from rovix.edit.sound import change_sound
from rovix.model import FootageClip, SoundClip


class SoundPage(Page):
    """Gain of sounds and footage; fades of sounds."""

    def __init__(self, document: Document) -> None:
        super().__init__(document)
        self._gain = self._bind(
            NumberField("Gain", "dB", 0.5, 1, low=-120, high=60),
            "Change the gain",
            lambda project, value: change_sound(project, self._id, gain=value),
        )
        self._fades = {
            name: self._fade(name, said) for name, said in (("fade_in", "Fade in"), ("fade_out", "Fade out"))
        }
        rows = Rows()
        rows.add("Gain", [self._gain], reset=lambda: self._do("Reset the gain", self._gain_to(0.0)))
        rows.add("Fade in", [self._fades["fade_in"]])
        rows.add("Fade out", [self._fades["fade_out"]])
        self._seconds = QLabel("", objectName="muted", wordWrap=True)
        self._column.addWidget(heading("Sound"))
        self._column.addWidget(rows)
        self._column.addWidget(self._seconds)
        self._column.addStretch(1)

    def _fade(self, name: str, said: str) -> NumberField:
        return self._bind(
            NumberField(said, "f", 1, 0, low=0),
            f"Change the {said.lower()}",
            lambda project, value: change_sound(project, self._id, **{name: max(0, round(value))}),
        )

    def _gain_to(self, value: float):  # type: ignore[no-untyped-def]
        return lambda project: change_sound(project, self._id, gain=value)

    def look_again(self) -> None:
        clip = self._document.clip
        if not isinstance(clip, SoundClip | FootageClip):
            return
        sound = clip.sound
        self._gain.show_value(channel_value(sound.gain, self._document.clip_frame))
        for name, field in self._fades.items():
            field.show_value(float(getattr(sound, name)))
        rate = self._document.rate
        fade_in, fade_out = (float(rate.seconds(frames)) for frames in (sound.fade_in, sound.fade_out))
        self._seconds.setText(f"Fades in over {fade_in:.2f} s, out over {fade_out:.2f} s.")
