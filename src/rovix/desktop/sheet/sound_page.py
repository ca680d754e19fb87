"""The sheet's Sound page: how loud a clip is, from where, and how it fades."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QLabel

from rovix.desktop.document import Document
from rovix.desktop.sheet.curve_box import CurveBox
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.page import Page
from rovix.desktop.sheet.parts import Rows, heading
from rovix.edit.channels import channel_value
from rovix.edit.sound import change_sound
from rovix.model.clip_kinds import is_heard

_CHANNELS = {"gain": ("Gain", "dB", 0.5, 1, 1.0, -120, 60), "pan": ("Pan", "%", 1, 0, 100.0, -100, 100)}
_FADES = {"fade_in": "Fade in", "fade_out": "Fade out"}


class SoundPage(Page):
    """Gain and pan, which can be animated, and fades with their curves."""

    def __init__(self, document: Document) -> None:
        super().__init__(document)
        self._channels = {name: self._channel(name) for name in _CHANNELS}
        self._fades = {name: self._fade(name, said) for name, said in _FADES.items()}
        self._curves = {name: self._curve(f"{name}_curve", said) for name, said in _FADES.items()}
        rows = Rows()
        for name, field in self._channels.items():
            said, address = _CHANNELS[name][0], f"sound.{name}"
            pip = self.pips.pip(said, partial(list, (address,)))
            rows.add(
                said, [field], pip, self.resetting(f"Reset the {said.lower()}", partial(list, (address,)))
            )
        fades = Rows()
        for name, said in _FADES.items():
            fades.add(said, [self._fades[name]])
            fades.add("Curve", [self._curves[name]])
        self._seconds = QLabel("", objectName="muted", wordWrap=True)
        for widget in (heading("Sound"), rows, self.pips.note, heading("Fades"), fades, self._seconds):
            self._column.addWidget(widget)
        self._column.addStretch(1)

    def _channel(self, name: str) -> NumberField:
        said, unit, step, decimals, factor, low, high = _CHANNELS[name]
        field = NumberField(said, unit, step, decimals, factor, low, high)
        return self.channel(field, f"Change the {said.lower()}", lambda: f"sound.{name}")

    def _fade(self, name: str, said: str) -> NumberField:
        return self._bind(
            NumberField(said, "f", 1, 0, low=0),
            f"Change the {said.lower()}",
            lambda project, value: change_sound(project, self._id, **{name: max(0, round(value))}),
        )

    def _curve(self, name: str, said: str) -> CurveBox:
        box = CurveBox(f"{said}, curve")
        box.chosen.connect(
            lambda text: self._do(
                f"Shape the {said.lower()}", lambda p: change_sound(p, self._id, **{name: text})
            )
        )
        box.refused.connect(self._document.problem)
        return box

    def refresh(self) -> None:
        clip = self._document.clip
        if not is_heard(clip):
            return
        sound, frame = clip.sound, self._document.clip_frame
        for name, channel in self._channels.items():
            channel.show_value(channel_value(getattr(sound, name), frame))
        for name, field in self._fades.items():
            field.show_value(float(getattr(sound, name)))
            self._curves[name].show_curve(getattr(sound, f"{name}_curve"))
        self.pips.refresh()
        rate = self._document.rate
        fade_in, fade_out = (float(rate.seconds(frames)) for frames in (sound.fade_in, sound.fade_out))
        self._seconds.setText(f"Fades in over {fade_in:.2f} s, out over {fade_out:.2f} s.")
