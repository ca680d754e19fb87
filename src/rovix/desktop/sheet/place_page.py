"""The sheet's Place page: where the layer rests, what it follows, how it is laid over what is below."""

from __future__ import annotations

from PySide6.QtWidgets import QComboBox, QHBoxLayout, QToolButton, QWidget

from rovix.desktop.document import Document, Edit
from rovix.desktop.sheet.curve_box import CurveBox
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.page import Page
from rovix.desktop.sheet.parts import Rows, heading
from rovix.desktop.theme import icon
from rovix.edit import place_value
from rovix.edit.arrange import align_layers, move_pivot
from rovix.edit.following import follow, followable
from rovix.edit.keys import key_before, set_key_curve
from rovix.edit.place import set_blend
from rovix.model import PictureClip, Project, SoundClip
from rovix.model.blend import BLEND_MODES
from rovix.motion.rest import PLACED

_PLACE_ROWS = (
    ("Position", (("x", "px", 1, 1, 1.0), ("y", "px", 1, 1, 1.0))),
    ("Scale", (("scale_x", "%", 1, 1, 100.0), ("scale_y", "%", 1, 1, 100.0))),
    ("Turn", (("turn", "°", 0.5, 1, 1.0),)),
    ("Slant", (("slant", "°", 0.5, 1, 1.0),)),
    ("Tip, swing", (("tip", "°", 0.5, 1, 1.0), ("swing", "°", 0.5, 1, 1.0))),
    ("Depth", (("depth", "px", 2, 0, 1.0),)),
    ("Opacity", (("opacity", "%", 1, 0, 100.0),)),
    ("Blur", (("blur_across", "px", 0.5, 1, 1.0), ("blur_down", "px", 0.5, 1, 1.0))),
)
_ADDRESSES = tuple(f"place.{name}" for name in PLACED)
_PIVOT = ("place.pivot_x", "place.pivot_y")
SIDES = {
    "left": "left", "centre": "in the middle across", "right": "right",
    "top": "top", "middle": "in the middle down", "bottom": "bottom",
}  # fmt: skip
_SAID = {
    "x": "Position across", "y": "Position down", "scale_x": "Scale across", "scale_y": "Scale down",
    "turn": "Turn", "slant": "Slant", "tip": "Tip", "swing": "Swing", "depth": "Depth", "opacity": "Opacity",
    "blur_across": "Blur across", "blur_down": "Blur down",
}  # fmt: skip
_LIMITS = {"opacity": (0, 100), "slant": (-89, 89), "blur_across": (0, 1000), "blur_down": (0, 1000)}


class PlacePage(Page):
    """Where the layer rests. A row that is animated gets a key on the frame shown above it."""

    def __init__(self, document: Document) -> None:
        super().__init__(document)
        self._fields: dict[str, NumberField] = {}
        self._way = CurveBox("Way on")
        self._way.words = lambda: document.clip
        self._way.chosen.connect(self._set_way)
        self._way.refused.connect(document.problem)
        self._ways = Rows()
        self._ways.add("Way on", [self._way])
        rows = Rows()
        for name, parts in _PLACE_ROWS:
            names = tuple(part[0] for part in parts)
            addresses = tuple(f"place.{channel}" for channel in names)
            pip = self.rings.ring(name, lambda a=addresses: a)
            for channel, unit, step, decimals, factor in parts:
                low, high = _LIMITS.get(channel, (None, None))
                field = NumberField(_SAID[channel], unit, step, decimals, factor, low, high)
                title = f"Change the {_SAID[channel].lower()}"
                self._fields[channel] = self.channel(field, title, lambda c=channel: f"place.{c}")
            reset = self.resetting(f"Reset {name.lower()}", lambda a=addresses: a)
            rows.add(name, [self._fields[n] for n in names], pip, reset)
        self._blend = QComboBox(accessibleName="Blend")
        self._blend.setToolTip("How the layer is laid over what is below; its opacity is the strength.")
        for mode in BLEND_MODES:
            self._blend.addItem(mode.replace("-", " ").capitalize(), mode)
        self._blend.activated.connect(lambda _: self._set_blend())
        blend = Rows()
        blend.add("Blend", [self._blend], reset=lambda: self._do("Reset the blend", self._blend_to("normal")))
        self._pivot = [self._pivot_field("x", "Pivot across"), self._pivot_field("y", "Pivot down")]
        self._follows = QComboBox(accessibleName="Follows")
        self._follows.setToolTip("The layer whose place this one goes along with. It stays where it is now.")
        self._follows.activated.connect(lambda _: self._follow())
        self._offered: list[tuple[str, str | None]] = []
        rows.add(
            "Pivot",
            list(self._pivot),
            self.rings.ring("Pivot", lambda: _PIVOT),
            reset=lambda: self._do("Reset the pivot", self._pivot_to(0.5, 0.5)),
        )
        blend.add("Follows", [self._follows])
        self._column.addWidget(heading("Rest place", "where the layer lands"))
        self._column.addWidget(rows)
        self._column.addWidget(self.rings.note)
        self._column.addWidget(self._ways)
        self._column.addWidget(blend)
        self._column.addWidget(heading("Align"))
        self._column.addWidget(self._align_buttons())
        self._column.addStretch(1)

    def _pivot_field(self, axis: str, said: str) -> NumberField:
        field = NumberField(said, "%", 1, 0, factor=100)
        field.setToolTip(
            f"{said}: a share of the words' block, 50 % its middle. Alt+drag the cross to move it."
        )

        def edit(project: Project, value: float) -> Project:
            clip = self._document.clip
            assert not isinstance(clip, SoundClip | None)
            frame = self._document.clip_frame
            now = {a: place_value(clip.place, f"pivot_{a}", frame) for a in "xy"} | {axis: value}
            return self._pivot_to(now["x"], now["y"])(project)

        return self._bind(field, f"Move the {said.lower()}", edit)

    def _pivot_to(self, x: float, y: float) -> Edit:
        return lambda project: move_pivot(project, self._id, self._document.playhead, x, y)

    def _follow(self) -> None:
        target, frame = self._follows.currentData(), self._document.playhead
        title = "Follow nothing" if target is None else f"Follow {self._follows.currentText()}"
        self._do(title, lambda project: follow(project, self._id, target, frame))

    def _show_followed(self, clip: PictureClip) -> None:
        layers = followable(self._document.project, clip.id)
        offered = [("Nothing", None), *((layer.name or "Layer", layer.id) for layer in layers)]
        if offered != self._offered:
            self._offered = offered
            self._follows.clear()
            for name, identity in offered:
                self._follows.addItem(name, identity)
        self._follows.setCurrentIndex(max(0, self._follows.findData(clip.parent)))

    def _align_buttons(self) -> QWidget:
        widget = QWidget()
        row = QHBoxLayout(widget)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(2)
        for side in SIDES:
            button = QToolButton(
                toolTip=f"Align {SIDES[side]}: one layer to the frame, several to each other."
            )
            button.setAccessibleName(f"Align {SIDES[side]}")
            button.setIcon(icon(f"to-side-{side}"))
            button.clicked.connect(lambda _=False, s=side: self._align(s))
            row.addWidget(button)
        row.addStretch(1)
        return widget

    def _align(self, side: str) -> None:
        chosen, frame = self._document.selection, self._document.playhead
        self._do(f"Align {SIDES[side]}", lambda project: align_layers(project, chosen, frame, side))

    def _set_blend(self) -> None:
        mode = self._blend.currentData()
        self._do(f"Blend by {self._blend.currentText().lower()}", self._blend_to(mode))

    def _blend_to(self, mode: str) -> Edit:
        return lambda project: set_blend(project, self._id, mode)

    def _set_way(self, curve: str) -> None:
        frame = self._document.clip_frame
        title = f"Go on by {curve}"
        self._do(
            title,
            lambda project: set_key_curve(project, self._id, frame, _ADDRESSES, curve),
        )

    def _show_way(self, clip: PictureClip, frame: int) -> None:
        """The way on from the keys at or before the playhead, where there are any."""
        keys = [key_before(getattr(clip.place, name), frame) for name in PLACED]
        curves = {key.curve for key in keys if key is not None}
        self._ways.setVisible(bool(curves))
        if len(curves) == 1:
            self._way.show_curve(curves.pop())

    def look_again(self) -> None:
        clip = self._document.clip
        if clip is None or isinstance(clip, SoundClip):
            return
        self._blend.setCurrentIndex(self._blend.findData(clip.blend))
        for field, name in zip(self._pivot, ("pivot_x", "pivot_y"), strict=True):
            field.show_value(place_value(clip.place, name, self._document.clip_frame))
        self._show_followed(clip)
        frame = self._document.clip_frame
        for channel, field in self._fields.items():
            field.show_value(place_value(clip.place, channel, frame))
        self._show_way(clip, frame)
        self.rings.look_again()
