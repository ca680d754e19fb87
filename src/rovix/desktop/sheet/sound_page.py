"""The sheet's Sound page: how loud a clip is, from where, and how it fades."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QLabel

from rovix.desktop.document import Document
from rovix.desktop.sheet.curve_box import CurveBox
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.page import Page, plain
from rovix.desktop.sheet.parts import Rows, heading
from rovix.edit.sound import change_sound
from rovix.model import Clip
from rovix.model.clip_kinds import is_heard

_CHANNELS = {"gain": ("Gain", "dB", 0.5, 1, 1.0, -120, 60), "pan": ("Pan", "%", 1, 0, 100.0, -100, 100)}
_FADES = {"fade_in": "Fade in", "fade_out": "Fade out"}


class SoundPage(Page):
    """Gain and pan, which can be animated, and fades with their curves."""

    name = "Sound"

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
        for widget in (rows, self.pips.note, heading("Fades"), fades, self._seconds):
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
            lambda project, identity, value: change_sound(project, identity, **{name: max(0, round(value))}),
            plain(lambda clip: getattr(clip.sound, name)),
        )

    def _curve(self, name: str, said: str) -> CurveBox:
        box = CurveBox(f"{said}, curve")
        box.chosen.connect(
            lambda text: self._do(
                f"Shape the {said.lower()}", lambda p, identity: change_sound(p, identity, **{name: text})
            )
        )
        self.watch(plain(lambda clip: getattr(clip.sound, name)), box.show_curve)
        box.refused.connect(self._document.problem)
        return box

    def show_clip(self, clip: Clip) -> None:
        if not is_heard(clip):
            return
        rate, sound = self._document.rate, clip.sound
        fade_in, fade_out = (float(rate.seconds(frames)) for frames in (sound.fade_in, sound.fade_out))
        self._seconds.setText(f"Fades in over {fade_in:.2f} s, out over {fade_out:.2f} s.")
