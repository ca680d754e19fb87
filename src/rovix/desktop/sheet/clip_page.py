"""The sheet's Clip page: name, time, how it plays, how it fits, how it joins the clip before."""

from __future__ import annotations

from typing import Any

from PySide6.QtWidgets import QLabel, QLineEdit, QListView, QVBoxLayout, QWidget

from rovix.desktop.document import Document
from rovix.desktop.sheet.colour_button import ColourButton
from rovix.desktop.sheet.curve_box import CurveBox
from rovix.desktop.sheet.drop_down import DropDown
from rovix.desktop.sheet.mixed import MIXED, Mixed
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.page import ABSENT, ClipEdit, Page, plain
from rovix.desktop.sheet.parts import Rows, Segments, Tick, heading
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
from rovix.edit.shapes import change_still, cut_picture
from rovix.edit.shutter import change_layer_shutter, set_layer_blur
from rovix.edit.transitions import KINDS, change_transition, set_transition, touched
from rovix.edit.tree import clip_of, replace, replace_clip
from rovix.model import Clip, FootageClip, PictureClip, Project, StillClip
from rovix.model.clip_kinds import is_fitted, is_layer, is_played
from rovix.time import timecode


class ClipPage(Page):
    """What a clip is in time."""

    name = "Clip"

    def __init__(self, document: Document) -> None:
        super().__init__(document)
        self._name = QLineEdit(accessibleName="Name", toolTip="What the clip is called.")
        self._name.editingFinished.connect(self._rename)
        self._start = self._bind(
            NumberField("Start", "f", 1, 0, low=0, high=100_000_000),
            "Move",
            lambda project, identity, value: move_clip(project, identity, round(value)),
            lambda clip: float(clip.start),
        )
        self._length = self._bind(
            NumberField("Length", "f", 1, 0, low=1, high=100_000_000),
            "Change the length",
            _with_length,
            lambda clip: float(clip.length),
        )
        self._times_said = QLabel("", objectName="muted", wordWrap=True)
        rows = Rows()
        rows.add("Name", [self._name])
        rows.add("Start, length", [self._start, self._length])
        rows.add_wide(self._times_said)
        self._column.addWidget(rows)
        self.watch(lambda clip: clip.name, self._show_name)
        self._playing, self._transition = _PlayingPart(self), _TransitionPart(self)
        self._blur = _BlurPart(self)
        self._parts = (self._playing, _FitPart(self), self._transition, self._blur)
        for part in self._parts:
            self._column.addWidget(part)
        self._column.addWidget(self.pips.note)
        self._column.addStretch(1)

    def _rename(self) -> None:
        name = self._name.text().strip()
        mixed = not name and self._name.placeholderText() == str(MIXED)
        if not mixed and any(clip.name != name for clip in self.clips()):
            self._do(f"Rename to {name or 'nothing'}", lambda p, identity: _renamed(p, identity, name))

    def _show_name(self, name: str | Mixed) -> None:
        if not self._name.hasFocus():
            mixed = isinstance(name, Mixed)
            clip = self.clip
            # Words that have no name are called by what they say.
            self._name.setPlaceholderText(str(MIXED) if mixed else clip.title if clip and not name else "")
            self._name.setText("" if isinstance(name, Mixed) else name)

    def show_clip(self, clip: Clip) -> None:
        rate = self._document.rate
        seconds = float(rate.seconds(clip.length))
        self._times_said.setText(f"From {timecode(clip.start, rate)} for {seconds:.2f} s.")
        for part in self._parts:
            part.show_clip(clip)


def _renamed(project: Project, identity: str, name: str) -> Project:
    return replace_clip(project, identity, lambda clip: replace(clip, name=name))


def _with_length(project: Project, identity: str, value: float) -> Project:
    return trim_end(project, identity, clip_of(project, identity).start + round(value))


class _PlayingPart(QWidget):
    """Speed, direction, repetition."""

    def __init__(self, page: ClipPage) -> None:
        super().__init__()
        bind = page._bind
        self._speed = bind(
            NumberField("Speed", "%", 1, 1, factor=100, low=1, high=10_000),
            "Change the speed",
            set_speed,
            plain(lambda clip: clip.playing.speed),
        )
        self._frames = bind(
            NumberField("Length by speed", "f", 1, 0, low=1, high=100_000_000),
            "Change the speed",
            lambda project, identity, value: set_length_by_speed(project, identity, round(value)),
            lambda clip: float(clip.length) if is_played(clip) else ABSENT,
        )
        self._times = bind(
            NumberField("Repeats", "×", 0.5, 2, low=0.01, high=10_000),
            "Repeat",
            play_times,
            lambda clip: times_of(clip) if is_played(clip) else ABSENT,
        )
        self._backwards = Tick("Backwards", "Play the clip from its end to its start.")
        self._and_back = Tick("There and back", "Play to the end and back, so that it joins.")
        for tick, name, title, turned in (
            (self._backwards, "backwards", "Turn round", play_backwards),
            (self._and_back, "and_back", "There and back", play_there_and_back),
        ):
            self._bind_tick(page, tick, name, title, turned)
        rows = Rows()
        true = lambda p, identity: set_speed(p, identity, 1)  # noqa: E731
        rows.add("Speed", [self._speed], reset=lambda: page._do("True speed", true))
        rows.add("Length", [self._frames])
        rows.add("Repeats", [self._times])
        rows.add_wide(self._backwards)
        rows.add_wide(self._and_back)
        _stacked(self, heading("Playing", "its material"), rows)

    @staticmethod
    def _bind_tick(page: ClipPage, tick: Tick, name: str, title: str, turned: ClipEdit) -> None:
        tick.clicked.connect(lambda on: page._do(title, _turning(name, on, turned)))
        page.watch(plain(lambda clip: getattr(clip.playing, name)), tick.show_ticked)

    def show_clip(self, clip: Clip) -> None:
        self.setVisible(is_played(clip))


def _turning(name: str, on: bool, turned: ClipEdit) -> ClipEdit:
    """The edit that turns clips that are not yet so."""

    def edit(project: Project, identity: str) -> Project:
        clip = clip_of(project, identity)
        already = is_played(clip) and getattr(clip.playing, name) == on
        return project if already else turned(project, identity)

    return edit


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
            lambda value: page._do("Fit the picture", lambda p, i: change_still(p, i, fit=value))
        )
        page.watch(plain(lambda clip: clip.fit), self._fit.show_choice)
        self._rows = Rows()
        self._rows.add_wide(self._fit)
        self._cut = _CutPart(page)
        _stacked(self, heading("Frame", "how its size is met"), self._rows, self._cut)

    def show_clip(self, clip: Clip) -> None:
        self.setVisible(is_fitted(clip))
        self._cut.show_clip(clip)


_CUTS = {
    "none": "Whole", "square": "Square", "round": "Round", "box": "Box", "ellipse": "Ellipse",
    "drawn": "Drawn line",
}  # fmt: skip
_OF_STILLS = ("square", "round")


class _CutPart(QWidget):
    """The form that a picture is cut to, and where the picture lies in it."""

    def __init__(self, page: ClipPage) -> None:
        # Long: the controls in the order in which they stand, a statement or two each.
        super().__init__()
        self._forms = DropDown(
            accessibleName="Form of the picture", toolTip="The form that the picture is cut to."
        )
        for form, said in _CUTS.items():
            self._forms.addItem(said, form)
        self._forms.activated.connect(
            lambda _: page._do(
                "Cut the picture to a form", lambda p, i: cut_picture(p, i, str(self._forms.currentData()))
            )
        )
        page.watch(plain(_form_of), self._forms.show_data)

        def field(
            said: str, unit: str, name: str, low: float, high: float, factor: float = 1.0
        ) -> NumberField:
            made = NumberField(said, unit, 1, 1, factor=factor, low=low, high=high)
            return page.channel(made, f"Change the {said.lower()}", lambda: f"cut.{name}")

        top = Rows()
        top.add("Form", [self._forms])
        self._size, self._corners, self._within = Rows(), Rows(), Rows()
        sides = [
            field("Form width", "px", "width", 0.1, 100_000),
            field("Form height", "px", "height", 0.1, 100_000),
        ]
        _keyed(page, self._size, "Width, height", sides, "cut.width", "cut.height")
        _keyed(
            page, self._corners, "Corners", [field("Form corners", "px", "radius", 0, 50_000)], "cut.radius"
        )
        place = [field(f"Picture {n.upper()}", "px", n, -1e6, 1e6) for n in "xy"]
        _keyed(page, self._within, "Picture X, Y", place, "cut.x", "cut.y")
        zoom = field("Picture size", "%", "zoom", 1, 10_000, 100.0)
        _keyed(page, self._within, "Picture size", [zoom], "cut.zoom")
        _stacked(self, top, self._size, self._corners, self._within)

    def show_clip(self, clip: Clip) -> None:
        self.setVisible(isinstance(clip, StillClip | FootageClip))
        cut = getattr(clip, "cut", None)
        shown = self._forms.view()
        for number, form in enumerate(_CUTS):
            if isinstance(shown, QListView):
                shown.setRowHidden(number, form in _OF_STILLS and not isinstance(clip, StillClip))
        self._size.setVisible(cut is not None and cut.form != "drawn")
        self._corners.setVisible(cut is not None and cut.form == "box")
        self._within.setVisible(cut is not None)


def _keyed(page: ClipPage, rows: Rows, said: str, fields: list[Any], *addresses: str) -> None:
    """A row of fields with a pip for their channels."""
    reset = page.resetting(f"Reset {said.lower()}", lambda: addresses)
    rows.add(said, fields, page.pips.pip(said, lambda: addresses), reset)


def _form_of(clip: Any) -> str:
    return getattr(clip, "crop", "none") if clip.cut is None else str(clip.cut.form)


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
            lambda value: page._do("Change the motion blur", lambda p, i: set_layer_blur(p, i, value))
        )
        page.watch(plain(_blur_of), self._choice.show_choice)
        self._rows = Rows()
        self._fields = {}
        for name, field in shutter_fields().items():
            self._fields[name] = self._bound(name, field)
            self._rows.add(SHUTTER_ROWS[name], [field])
        _stacked(self, heading("Motion blur"), self._choice, self._rows)

    def _bound(self, name: str, field: NumberField) -> NumberField:
        return self._page._bind(
            field,
            f"Change the shutter's {name}",
            lambda p, i, value: change_layer_shutter(p, i, **{name: shutter_value(name, value)}),
            plain(lambda clip: float(getattr(clip.shutter, name))),
        )

    def show_clip(self, clip: Clip) -> None:
        self.setVisible(is_layer(clip))
        shutter = clip.shutter if is_layer(clip) else None
        self._rows.setVisible(shutter is not None and shutter.on)


def _blur_of(clip: PictureClip) -> str:
    return "sequence" if clip.shutter is None else "on" if clip.shutter.on else "off"


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
        page.watch(plain(_transition_of), self._kind.show_data)
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
        page.watch(plain(lambda clip: clip.transition.curve), self._curve.show_curve)
        self._colour = page.colour(
            ColourButton("Dip's colour"), "Colour the dip",
            lambda value: lambda p, i: change_transition(p, i, colour=value),
        )  # fmt: skip
        page.watch(plain(lambda clip: clip.transition.colour), self._colour.show_colour)
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
        self._page._do(f"{KINDS[kind]} at the cut", lambda p, i: set_transition(p, i, kind))

    def _field(self, field: NumberField, name: str) -> NumberField:
        return self._page._bind(
            field,
            f"Change the transition's {name}",
            lambda project, identity, value: change_transition(project, identity, **{name: value}),
            plain(lambda clip: getattr(clip.transition, name)),
        )

    def _change(self, title: str, **changes: Any) -> None:
        self._page._do(title, lambda p, i: change_transition(p, i, **changes))

    def show_clip(self, clip: Clip) -> None:
        usable = is_layer(clip)
        self.setVisible(usable)
        if not is_layer(clip):
            return
        touching = touched(self._page._document.project, clip.id) is not None
        self._kind.setVisible(touching)
        self._none.setVisible(not touching)
        transition = clip.transition
        shown = {"length", "curve"} if transition and touching else set()
        if shown and transition:
            shown |= {"wipe": {"angle", "feather"}, "slide": {"angle"}, "dip": {"colour"}}.get(
                transition.kind, set()
            )
        for name, row in self._rows.items():
            row.setVisible(name in shown)


def _transition_of(clip: PictureClip) -> str:
    return clip.transition.kind if clip.transition else "cut"


def _stacked(part: QWidget, *widgets: QWidget) -> None:
    column = QVBoxLayout(part)
    column.setContentsMargins(0, 6, 0, 0)
    column.setSpacing(7)
    for widget in widgets:
        column.addWidget(widget)
