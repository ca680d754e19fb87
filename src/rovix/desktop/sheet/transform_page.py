"""The sheet's Transform page: where the layer rests, what it follows, how it is laid over what is below."""

from __future__ import annotations

from functools import partial

import numpy as np
from PySide6.QtWidgets import QHBoxLayout, QToolButton, QWidget

from rovix.desktop.document import Document
from rovix.desktop.sheet.curve_box import CurveBox
from rovix.desktop.sheet.drop_down import DropDown
from rovix.desktop.sheet.layer_box import LayerBox
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.page import ClipEdit, NumberEdit, Page, plain
from rovix.desktop.sheet.parts import Rows, heading, lowered
from rovix.desktop.theme import icon
from rovix.edit import change_transform, transform_value
from rovix.edit.arrange import align_layers, move_pivot
from rovix.edit.following import follow, followable
from rovix.edit.keys import key_before, set_key_curve
from rovix.edit.paths import ADDRESS, move_on_path
from rovix.edit.transform import set_blend
from rovix.edit.tree import clip_of
from rovix.model import Clip, PictureClip, Project, Transform
from rovix.model.blend import BLEND_MODES
from rovix.model.clip_kinds import is_layer
from rovix.model.transform_channels import RESTING, ROWS, in_row
from rovix.motion.rest import rest_at

_ADDRESSES = tuple(f"transform.{name}" for name in RESTING)
_PIVOT = ("transform.pivot_x", "transform.pivot_y")
SIDES = {
    "left": "left", "centre": "in the middle across", "right": "right",
    "top": "top", "middle": "in the middle down", "bottom": "bottom",
}  # fmt: skip


class TransformPage(Page):
    """Where the layer rests. A row that is animated gets a key on the frame shown above it."""

    name = "Transform"

    def __init__(self, document: Document) -> None:
        # Long: the controls in the order in which they stand, a statement or two each.
        super().__init__(document)
        self._fields: dict[str, NumberField] = {}
        self._way = CurveBox("Way on")
        self._way.text = lambda: self.clip
        self._way.chosen.connect(self._set_way)
        self._way.refused.connect(document.problem)
        self._ways = Rows()
        self._ways.add("Way on", [self._way])
        self._linked = self._link()
        self._edits: dict[str, NumberEdit] = {
            "x": self._set_position("x"), "y": self._set_position("y"),
            "scale_x": self._set_scale("scale_x"), "scale_y": self._set_scale("scale_y"),
        }  # fmt: skip
        rows = Rows()
        for name in ROWS:
            names = tuple(in_row(name))
            addresses = tuple(f"transform.{channel}" for channel in names)
            keyed = self._position if "x" in names else lambda a=addresses: a
            pip = self.pips.pip(name, keyed)
            for channel, row in in_row(name).items():
                low, high = row.limits or (None, None)
                field = NumberField(row.label, row.unit, row.step, row.decimals, row.factor, low, high)
                title = f"Change the {lowered(row.label)}"
                self._fields[channel] = self._resting(field, title, channel)
            reset = self.resetting(f"Reset {lowered(name)}", partial(list, addresses))
            fields: list[QWidget] = [self._fields[n] for n in names]
            rows.add(name, fields, pip, reset, self._linked if "scale_x" in names else None)
        self._blend = DropDown(accessibleName="Blend")
        self._blend.setToolTip("How the layer is laid over what is below; its opacity is the strength.")
        for mode in BLEND_MODES:
            self._blend.addItem(mode.replace("-", " ").capitalize(), mode)
        self._blend.activated.connect(lambda _: self._set_blend())
        self.watch(plain(lambda clip: clip.blend), self._blend.show_data)
        blend = Rows()
        blend.add("Blend", [self._blend], reset=lambda: self._do("Reset the blend", self._blend_to("normal")))
        self._pivot = [self._pivot_field("x", "Pivot X"), self._pivot_field("y", "Pivot Y")]
        self._follows = LayerBox(
            "Follows", "The layer whose place this one goes along with. It stays where it is now."
        )
        self._follows.chosen.connect(lambda _: self._follow())
        rows.add(
            "Pivot X, Y",
            list(self._pivot),
            self.pips.pip("Pivot", lambda: _PIVOT),
            reset=lambda: self._do("Reset the pivot", self._pivot_to(x=0.5, y=0.5)),
        )
        blend.add("Follows", [self._follows])
        self._column.addWidget(rows)
        self._column.addWidget(self.pips.note)
        self._column.addWidget(self._ways)
        self._column.addWidget(blend)
        self._column.addWidget(heading("Align"))
        self._column.addWidget(self._align_buttons())
        self._column.addStretch(1)

    def _resting(self, field: NumberField, title: str, channel: str) -> NumberField:
        """Bind a field to one of the channels; where the layer runs on a path, to its place there."""
        address = f"transform.{channel}"

        def read(clip: Clip) -> object:
            if channel in ("x", "y") and is_layer(clip) and clip.transform.path is not None:
                at = np.array([float(self._document.frame_of(clip))])
                return float(rest_at(clip.transform, at)[channel][0])
            return self.value_in(clip, address)

        edit = self._edits.get(channel) or (
            lambda project, identity, value: self.setting({address: value})(project, identity)
        )
        field.allow_reset()
        field.reset.connect(
            self.resetting(f"Reset the {title.removeprefix('Change the ')}", lambda: [address])
        )
        return self._bind(field, title, edit, read)

    def _position(self) -> tuple[str, ...]:
        """What the pip of the position keys: its path, where it runs on one."""
        clip = self.clip
        along = is_layer(clip) and clip.transform.path is not None
        return (ADDRESS,) if along else ("transform.x", "transform.y")

    def _link(self) -> QToolButton:
        button = QToolButton(checkable=True, checked=True, accessibleName="Scales linked")
        button.setToolTip("While linked, both scales keep their proportion when one is changed.")
        button.setObjectName("small")
        button.setFixedSize(20, 20)
        show = lambda on: button.setIcon(icon("linked", "accent" if on else "muted", 16))  # noqa: E731
        button.toggled.connect(show)
        show(True)
        return button

    def _set_scale(self, name: str) -> NumberEdit:
        other = "scale_y" if name == "scale_x" else "scale_x"

        def edit(project: Project, identity: str, value: float) -> Project:
            place, frame = _place(project, identity), self.frame_in(project, identity)
            old, beside = (transform_value(place, n, frame) for n in (name, other))
            both = {other: beside * value / old} if self._linked.isChecked() and old else {}
            return change_transform(project, identity, frame, **({name: value} | both))

        return edit

    def _set_position(self, name: str) -> NumberEdit:
        """Where the layer is: on a path its point is moved, else x or y."""

        def edit(project: Project, identity: str, value: float) -> Project:
            place, frame = _place(project, identity), self.frame_in(project, identity)
            if place.path is None:
                return change_transform(project, identity, frame, **{name: value})
            now = float(rest_at(place, np.array([float(frame)]))[name][0])
            way = (value - now, 0.0) if name == "x" else (0.0, value - now)
            return move_on_path(project, identity, frame, *way)

        return edit

    def _pivot_field(self, axis: str, said: str) -> NumberField:
        field = NumberField(said, "%", 1, 0, factor=100)
        field.setToolTip(
            f"{said}: a share of the words' block, 50 % its middle. Alt+drag the cross to move it."
        )
        moved = lambda project, identity, value: self._pivot_to(**{axis: value})(project, identity)  # noqa: E731
        address = f"transform.pivot_{axis}"
        return self._bind(
            field, f"Move the {lowered(said)}", moved, lambda clip: self.value_in(clip, address)
        )

    def _pivot_to(self, **shares: float) -> ClipEdit:
        """The edit that puts the pivot at shares across `x` and down `y`; what is not given stays."""

        def edit(project: Project, identity: str) -> Project:
            place, frame = _place(project, identity), self.frame_in(project, identity)
            x, y = (shares.get(a, transform_value(place, f"pivot_{a}", frame)) for a in "xy")
            return move_pivot(project, identity, self._document.playhead, x, y)

        return edit

    def _follow(self) -> None:
        target, frame = self._follows.currentData(), self._document.playhead
        title = "Follow nothing" if target is None else f"Follow {self._follows.currentText()}"
        self._do(title, lambda project, identity: follow(project, identity, target, frame))

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
        title = f"Align {SIDES[side]}"
        self._document.do(title, lambda project: align_layers(project, chosen, frame, side))

    def _set_blend(self) -> None:
        mode = self._blend.currentData()
        self._do(f"Blend by {self._blend.currentText().lower()}", self._blend_to(mode))

    def _blend_to(self, mode: str) -> ClipEdit:
        return lambda project, identity: set_blend(project, identity, mode)

    def _set_way(self, curve: str) -> None:
        def edit(project: Project, identity: str) -> Project:
            frame = self.frame_in(project, identity)
            return set_key_curve(project, identity, frame, _ADDRESSES, curve)

        self._do(f"Go on by {curve}", edit)

    def _show_way(self, clip: PictureClip, frame: int) -> None:
        """The way on from the keys at or before the playhead, where there are any."""
        keys = [key_before(getattr(clip.transform, name), frame) for name in RESTING]
        curves = {key.curve for key in keys if key is not None}
        self._ways.setVisible(bool(curves))
        if len(curves) == 1:
            self._way.show_curve(curves.pop())

    def show_clip(self, clip: Clip) -> None:
        if is_layer(clip):
            self._follows.show_layers(followable(self._document.project, clip.id), clip.parent)
            self._show_way(clip, self.frame)


def _place(project: Project, identity: str) -> Transform:
    clip = clip_of(project, identity)
    return clip.transform if is_layer(clip) else Transform()
