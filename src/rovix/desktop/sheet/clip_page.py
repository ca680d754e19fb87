"""The sheet's Clip page: name, time, how it plays, how it fits, how it joins the clip before."""

from __future__ import annotations

from typing import Any

from PySide6.QtWidgets import QCheckBox, QLabel, QLineEdit, QVBoxLayout, QWidget

from rovix.desktop.document import Document
from rovix.desktop.sheet.curve_box import CurveBox
from rovix.desktop.sheet.drop_down import DropDown
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.page import Page
from rovix.desktop.sheet.parts import ColourButton, Rows, Segments, heading
from rovix.desktop.sheet.shutter_fields import SHUTTER_ROWS, shutter_fields, shutter_value
from rovix.edit import move_clip, trim_end
from rovix.edit.playing import (
    play_backwards,
    play_there_and_back,
    play_times,
    set_length_by_speed,
    set_speed,
    times_of,
)
from rovix.edit.shapes import change_still
from rovix.edit.shutter import change_layer_shutter, set_layer_blur
from rovix.edit.transitions import KINDS, change_transition, set_transition, touched
from rovix.edit.tree import replace, replace_clip
from rovix.model import Clip, Project, StillClip
from rovix.model.clip_kinds import is_fitted, is_layer, is_played
from rovix.time import timecode


class ClipPage(Page):
    """What a clip is in time."""

    def __init__(self, document: Document) -> None:
        super().__init__(document)
        self._name = QLineEdit(accessibleName="Name", toolTip="What the clip is called.")
        self._name.editingFinished.connect(self._rename)
        self._start = self._bind(
            NumberField("Start", "f", 1, 0, low=0, high=100_000_000),
            "Move",
            lambda project, value: move_clip(project, self._id, round(value)),
        )
        self._length = self._bind(
            NumberField("Length", "f", 1, 0, low=1, high=100_000_000),
            "Change the length",
            self._with_length,
        )
        self._times_said = QLabel("", objectName="muted", wordWrap=True)
        rows = Rows()
        rows.add("Name", [self._name])
        rows.add("Start, length", [self._start, self._length])
        rows.add_wide(self._times_said)
        self._column.addWidget(heading("Clip"))
        self._column.addWidget(rows)
        self._playing = _PlayingPart(self)
        self._fit = _FitPart(self)
        self._transition = _TransitionPart(self)
        self._blur = _BlurPart(self)
        for part in (self._playing, self._fit, self._transition, self._blur):
            self._column.addWidget(part)
        self._column.addStretch(1)

    def _with_length(self, project: Project, value: float) -> Project:
        clip = self._document.clip
        start = clip.start if clip is not None else 0
        return trim_end(project, self._id, start + round(value))

    def _rename(self) -> None:
        clip, name = self._document.clip, self._name.text().strip()
        if clip is not None and name != clip.name:
            self._do(
                f"Rename {clip.name or 'clip'}",
                lambda p: replace_clip(p, clip.id, lambda c: replace(c, name=name)),
            )

    def refresh(self) -> None:
        clip = self._document.clip
        if clip is None:
            return
        if not self._name.hasFocus():
            self._name.setText(clip.name)
        self._start.show_value(float(clip.start))
        self._length.show_value(float(clip.length))
        rate = self._document.rate
        seconds = float(rate.seconds(clip.length))
        self._times_said.setText(f"From {timecode(clip.start, rate)} for {seconds:.2f} s.")
        for part in (self._playing, self._fit, self._transition, self._blur):
            part.show_clip(clip)


class _PlayingPart(QWidget):
    """Speed, direction, repetition."""

    def __init__(self, page: ClipPage) -> None:
        super().__init__()
        bind = page._bind
        self._speed = bind(
            NumberField("Speed", "%", 1, 1, factor=100, low=1, high=10_000),
            "Change the speed",
            lambda project, value: set_speed(project, page._id, value),
        )
        self._frames = bind(
            NumberField("Length by speed", "f", 1, 0, low=1, high=100_000_000),
            "Change the speed",
            lambda project, value: set_length_by_speed(project, page._id, round(value)),
        )
        self._times = bind(
            NumberField("Repeats", "×", 0.5, 2, low=0.01, high=10_000),
            "Repeat",
            lambda project, value: play_times(project, page._id, value),
        )
        self._backwards = QCheckBox("Backwards", toolTip="Play the clip from its end to its start.")
        self._backwards.clicked.connect(lambda: page._do("Turn round", lambda p: play_backwards(p, page._id)))
        self._and_back = QCheckBox("There and back", toolTip="Play to the end and back, so that it joins.")
        self._and_back.clicked.connect(
            lambda: page._do("There and back", lambda p: play_there_and_back(p, page._id))
        )
        rows = Rows()
        rows.add(
            "Speed", [self._speed], reset=lambda: page._do("True speed", lambda p: set_speed(p, page._id, 1))
        )
        rows.add("Length", [self._frames])
        rows.add("Repeats", [self._times])
        rows.add_wide(self._backwards)
        rows.add_wide(self._and_back)
        _stacked(self, heading("Playing", "its material"), rows)

    def show_clip(self, clip: Clip) -> None:
        self.setVisible(is_played(clip))
        if is_played(clip):
            self._speed.show_value(clip.playing.speed)
            self._frames.show_value(float(clip.length))
            self._times.show_value(times_of(clip))
            self._backwards.setChecked(clip.playing.backwards)
            self._and_back.setChecked(clip.playing.and_back)


class _FitPart(QWidget):
    """How a picture lies in the frame."""

    def __init__(self, page: ClipPage) -> None:
        super().__init__()
        tips = {
            "fit": "All of it inside the frame.",
            "fill": "The frame filled, what is over cut off.",
            "as-is": "A px of the file for a px of the frame.",
        }
        self._fit = Segments({"fit": "Fit", "fill": "Fill", "as-is": "As is"}, "Fit", tips)
        self._fit.chosen.connect(
            lambda value: page._do("Fit the picture", lambda p: change_still(p, page._id, fit=value))
        )
        self._crop = Segments({"none": "Whole", "square": "Square", "round": "Round"}, "Crop")
        self._crop.chosen.connect(
            lambda value: page._do("Crop the picture", lambda p: change_still(p, page._id, crop=value))
        )
        self._rows = Rows()
        self._rows.add_wide(self._fit)
        self._rows.add_wide(self._crop)
        _stacked(self, heading("Frame", "how its size is met"), self._rows)

    def show_clip(self, clip: Clip) -> None:
        self.setVisible(is_fitted(clip))
        self._crop.setVisible(isinstance(clip, StillClip))
        if is_fitted(clip):
            self._fit.show_choice(clip.fit)
        if isinstance(clip, StillClip):
            self._crop.show_choice(clip.crop)


class _BlurPart(QWidget):
    """The layer's motion blur, where it is not that of the sequence."""

    def __init__(self, page: ClipPage) -> None:
        super().__init__()
        self._page = page
        self._choice = Segments(
            {"sequence": "As sequence", "on": "On", "off": "Off"}, "Motion blur",
            {"sequence": "As the sequence's settings have it.", "on": "Always, with a shutter of its own.",
             "off": "Never."},
        )  # fmt: skip
        self._choice.chosen.connect(
            lambda value: page._do("Change the motion blur", lambda p: set_layer_blur(p, page._id, value))
        )
        self._rows = Rows()
        self._fields = {}
        for name, field in shutter_fields().items():
            self._fields[name] = page._bind(
                field,
                f"Change the shutter's {name}",
                lambda p, value, n=name: change_layer_shutter(p, page._id, **{n: shutter_value(n, value)}),
            )
            self._rows.add(SHUTTER_ROWS[name], [field])
        _stacked(self, heading("Motion blur"), self._choice, self._rows)

    def show_clip(self, clip: Clip) -> None:
        self.setVisible(is_layer(clip))
        shutter = clip.shutter if is_layer(clip) else None
        self._choice.show_choice("sequence" if shutter is None else "on" if shutter.on else "off")
        self._rows.setVisible(shutter is not None and shutter.on)
        for name, field in self._fields.items():
            if shutter is not None:
                field.show_value(float(getattr(shutter, name)))


class _TransitionPart(QWidget):
    """How the clip that ends where this one starts gives way to it."""

    def __init__(self, page: ClipPage) -> None:
        super().__init__()
        self._page = page
        self._kind = DropDown(
            accessibleName="Transition", toolTip="How the clip before gives way to this one."
        )
        for kind, said in KINDS.items():
            self._kind.addItem(said, kind)
        self._kind.activated.connect(lambda _: self._set_kind())
        self._none = QLabel(
            "No clip ends where this one starts. Move one of them up to the other first.",
            objectName="muted", wordWrap=True,
        )  # fmt: skip
        self._length = self._field(
            NumberField("Transition's length", "s", 0.05, 2, low=0.01, high=3600), "length"
        )
        self._angle = self._field(NumberField("Direction", "°", 5, 0), "angle")
        self._feather = self._field(NumberField("Feather", "px", 5, 0, low=0, high=10_000), "feather")
        self._curve = CurveBox("Transition's curve")
        self._curve.chosen.connect(lambda text: self._change("Change the transition's curve", curve=text))
        self._curve.refused.connect(page._document.problem)
        self._colour = ColourButton("Dip's colour")
        self._colour.chosen.connect(lambda value: self._change("Colour the dip", colour=value))
        self._rows = {name: Rows() for name in ("length", "curve", "angle", "feather", "colour")}
        self._rows["length"].add("Length", [self._length])
        self._rows["curve"].add("Curve", [self._curve])
        self._rows["angle"].add("Direction", [self._angle])
        self._rows["feather"].add("Feather", [self._feather])
        self._rows["colour"].add("Colour", [self._colour])
        _stacked(
            self, heading("Transition", "from the clip before"), self._kind, self._none, *self._rows.values()
        )

    def _set_kind(self) -> None:
        kind = self._kind.currentData()
        self._page._do(f"{KINDS[kind]} at the cut", lambda p: set_transition(p, self._page._id, kind))

    def _field(self, field: NumberField, name: str) -> NumberField:
        return self._page._bind(
            field,
            f"Change the transition's {name}",
            lambda project, value: change_transition(project, self._page._id, **{name: value}),
        )

    def _change(self, title: str, **changes: Any) -> None:
        self._page._do(title, lambda p: change_transition(p, self._page._id, **changes))

    def show_clip(self, clip: Clip) -> None:
        usable = is_layer(clip)
        self.setVisible(usable)
        if not is_layer(clip):
            return
        touching = touched(self._page._document.project, clip.id) is not None
        self._kind.setVisible(touching)
        self._none.setVisible(not touching)
        transition = clip.transition
        self._kind.setCurrentIndex(self._kind.findData(transition.kind if transition else "cut"))
        shown = {"length", "curve"} if transition and touching else set()
        if shown and transition:
            shown |= {"wipe": {"angle", "feather"}, "slide": {"angle"}, "dip": {"colour"}}.get(
                transition.kind, set()
            )
        for name, row in self._rows.items():
            row.setVisible(name in shown)
        if transition:
            self._length.show_value(transition.length)
            self._angle.show_value(transition.angle)
            self._feather.show_value(transition.feather)
            self._curve.show_curve(transition.curve)
            self._colour.show_colour(transition.colour)


def _stacked(part: QWidget, *widgets: QWidget) -> None:
    column = QVBoxLayout(part)
    column.setContentsMargins(0, 6, 0, 0)
    column.setSpacing(7)
    for widget in widgets:
        column.addWidget(widget)
