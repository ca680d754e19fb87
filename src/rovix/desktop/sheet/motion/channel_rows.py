"""What a move moves: a row for each of its channels, and a button for one more."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import Any

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QAction
from PySide6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QLabel,
    QMenu,
    QPushButton,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from rovix.desktop.channel_facts import moved_fact
from rovix.desktop.dialogs.curve_picker import CurvePicker
from rovix.desktop.sheet.colour_button import ColourButton
from rovix.desktop.sheet.drop_down import DropDown
from rovix.desktop.sheet.motion.move_page import MovePage
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.page import ClipEdit
from rovix.desktop.sheet.parts import KeyPip, Segments, lowered
from rovix.desktop.theme import icon
from rovix.edit.departures import add_departure, change_departure, remove_departure
from rovix.edit.inner_keys import key_near, keys_on_frames, turn_inner_key
from rovix.edit.tree import clip_of, replace
from rovix.errors import RovixError
from rovix.model import Amount, Chance, Clip, Departure, Move, PictureClip, Project
from rovix.model.clip_kinds import has_words, is_layer
from rovix.model.move_channels import MOVE_CHANNELS
from rovix.motion import Scene
from rovix.motion.channels import moved
from rovix.motion.distance import AXES

_UNITS = {"px": "px", "frame": "% frame", "block": "% block", "piece": "% piece", "em": "em"}
_OWN_UNITS = {"off-frame": "off frame"}
_LONG = len("Position X")
_SHARES = frozenset({"frame", "block", "piece"})
_UNIT_TIP = (
    "What the amount is counted in: px of the sequence; a share of the frame, of the layer's block or of "
    "the move's piece; em, the words' own size; or just off the frame."
)
_GROUPS = {
    group: tuple(name for name, row in MOVE_CHANNELS.items() if row.group == group)
    for group in dict.fromkeys(row.group for row in MOVE_CHANNELS.values())
}


def _is_length(channel: str) -> bool:
    return moved(channel)[0] in AXES


class ChannelRows(QWidget):
    """The channels of the move that is tuned."""

    def __init__(self, page: MovePage) -> None:
        super().__init__()
        self._page = page
        self._move: Move | None = None
        self._shown: object = None
        self.rows: list[ChannelRow] = []
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(6)
        self.add_button = QPushButton("Add a channel", objectName="link")
        self.add_button.setToolTip("One more thing that the move changes on the way to rest.")
        self.menu = QMenu(self.add_button)
        self.add_button.setMenu(self.menu)
        self.menu.aboutToShow.connect(self._fill_menu)
        self.add_button.setProperty("plain", True)
        self._column.addWidget(self.add_button, 0, Qt.AlignmentFlag.AlignLeft)

    def show_move(self, move: Move) -> None:
        """Show the leading layer's move."""
        self._move = move
        kinds = tuple((d.channel, d.amount.unit, len(d.keys), d.chance is None) for d in move.channels)
        if (move.id, kinds) != self._shown:
            self._shown = move.id, kinds
            self._rebuild(move)
        for row, departure in zip(self.rows, move.channels, strict=True):
            row.show_departure(departure)

    def _rebuild(self, move: Move) -> None:
        for row in self.rows:
            self._page.forget(row)
            row.hide()
            row.deleteLater()
        self.rows = [ChannelRow(self._page, departure) for departure in move.channels]
        for number, row in enumerate(self.rows):
            self._column.insertWidget(number, row)

    def _fill_menu(self) -> None:
        self.menu.clear()
        has = {departure.channel for departure in self._move.channels} if self._move else set()
        words = has_words(self._page.clip)
        for name, channels in _GROUPS.items():
            if name == "Letters" and not words:
                continue
            part = self.menu.addMenu(name)
            for channel in channels:
                action = part.addAction(MOVE_CHANNELS[channel].label, partial(self.add, channel))
                action.setEnabled(channel not in has)

    def add(self, channel: str) -> None:
        """Give the move one more channel."""
        page, said = self._page, lowered(MOVE_CHANNELS[channel].label)
        page._do(f"Add {said}", page.of_move(lambda p, clip, move: _with_channel(p, clip, move, channel)))


def _with_channel(project: Project, clip: str, move: Move, channel: str) -> Project:
    there = any(departure.channel == channel for departure in move.channels)
    return project if there else add_departure(project, clip, move.id, channel)


class ChannelRow(QWidget):
    """One channel of a move: how far, in which unit, and what is its own."""

    def __init__(self, page: MovePage, departure: Departure) -> None:
        super().__init__()
        self._page, self._departure, self._channel = page, departure, departure.channel
        self.said = MOVE_CHANNELS[departure.channel].label
        self._shows: list[Callable[[Departure], None]] = []
        self._below: list[QWidget] = []
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        line = QHBoxLayout()
        line.setSpacing(4)
        line.addWidget(QLabel(self.said), 1)
        for widget in self._fields(departure):
            line.addWidget(widget)
        self.pip = KeyPip(f"{lowered(self.said)} of the move")
        self.pip.pressed.connect(self._turn_key)
        line.addWidget(self.pip)
        line.addWidget(self._more())
        column.addLayout(line)
        # A long name leaves no room for the unit beside it.
        extras = [*self._below, *self._extras(departure)]
        if extras:
            second = QHBoxLayout()
            second.setSpacing(6)
            second.addStretch(1)
            for widget in extras:
                if isinstance(widget, NumberField):
                    second.addWidget(QLabel(widget.accessibleName().split(",")[0], objectName="muted"))
                second.addWidget(widget)
            column.addLayout(second)

    def show_departure(self, departure: Departure) -> None:
        self._departure = departure
        self.show_key()
        for show in self._shows:
            show(departure)

    def show_key(self) -> None:
        """Show whether the channel has an inner key at the playhead."""
        page, move = self._page, self._page.tuned
        state = "animated" if self._departure.keys else "none"
        if move is not None and page.clip is not None and self._departure.keys:
            held = keys_on_frames(page._document.project, page.clip, move.id, _number_of(move, self._channel))
            state = "key" if key_near(held, page.frame) is not None else state
        self.pip.show_state(state)

    def _turn_key(self) -> None:
        """An inner key at the playhead, or that one away, in each clip's move."""

        def edit(project: Project, clip: str, move: Move) -> Project:
            frame = self._page.frame_in(project, clip)
            return turn_inner_key(project, clip, move.id, _number_of(move, self._channel), frame)

        self._page._do(f"Set or take away a key of {lowered(self.said)}", self._page.of_move(edit))

    def _fields(self, departure: Departure) -> list[QWidget]:
        if departure.keys:
            label = QLabel(f"{len(departure.keys)} keys, in the lanes", objectName="muted")
            label.setToolTip("Open the layer into lanes (Shift+A) to shape them.")
            return [label]
        self.amount = self._amount_field(departure)
        units = self._units(departure.channel)
        boxes: list[QWidget] = [self._unit_box(units)] if units else []
        self._below = boxes if len(self.said) > _LONG else []
        return [self.amount, *boxes] if not self._below else [self.amount]

    def _amount_field(self, departure: Departure) -> NumberField:
        fact = moved_fact(departure.channel)
        unit, factor, decimals, step = fact.unit, fact.factor, fact.decimals, 1.0
        if _is_length(departure.channel):
            shared = departure.amount.unit in _SHARES or departure.amount.unit == "off-frame"
            unit = {"em": "em", "off-frame": "×"}.get(departure.amount.unit, "%" if shared else "px")
            factor = 100.0 if unit == "%" else 1.0
            decimals, step = (3, 0.05) if unit in ("em", "×") else (1, 1.0)
        if unit == "em":
            step = 0.05
        field = NumberField(f"{self.said}, fully away", unit, step, decimals, factor)
        return self._number(
            field, "amount", lambda d: d.amount.value, lambda d, v: {"amount": replace(d.amount, value=v)}
        )

    def _units(self, channel: str) -> dict[str, str]:
        if channel == "figures":
            return {"number": "from", "px": "added"}  # what px are elsewhere is a plain number here
        if not _is_length(channel):
            return {}
        return _UNITS | {unit: _OWN_UNITS[unit] for unit in MOVE_CHANNELS[channel].units}

    def _unit_box(self, units: dict[str, str]) -> QComboBox:
        tip = (
            "Counts from that number to the one in the words, or from so much more."
            if "number" in units
            else _UNIT_TIP
        )
        box = DropDown(accessibleName=f"{self.said} unit", toolTip=tip)
        box.setIconSize(QSize(0, 0))  # else it keeps room for one
        for unit, text in units.items():
            box.addItem(text, unit)
        box.activated.connect(lambda _: self._set_unit(box.currentData()))
        self._show_each(lambda d: d.amount.unit, box.show_data)
        self.unit = box
        return box

    def _set_unit(self, unit: str) -> None:
        """Count each amount in another unit, as far away as it was."""

        def edit(project: Project, clip: str, move: Move) -> Project:
            number = _number_of(move, self._channel)
            layer = clip_of(project, clip)
            assert is_layer(layer)
            amount = _in_unit(project, layer, move, move.channels[number], unit)
            return change_departure(project, clip, move.id, number, amount=amount)

        self._page._do(f"Change {self.said.lower()}: unit", self._page.of_move(edit))

    def _extras(self, departure: Departure) -> list[QWidget]:
        made: list[QWidget] = []
        if departure.channel == "colour":
            made += self._colour_fields()
        if departure.channel == "wipe":
            made.append(
                self._plain("Angle", "°", "angle", 1, 0, "The way its edge goes, clockwise from rightwards.")
            )
        if departure.channel == "echo":
            made += [
                self._inner(
                    "Copies", "", "echoes", "copies", 1, 0, 1, 60, "How many copies trail.", whole=True
                ),
                self._inner("Gap", "s", "echoes", "gap", 0.01, 3, 0.001, 60, "From one copy to the next."),
            ]
        if departure.chance is not None:
            made += self._chance_fields()
        return made

    def _colour_fields(self) -> list[QWidget]:
        button = self._page.colour(
            ColourButton("Colour that is mixed in"), f"Change {self.said.lower()}: colour",
            lambda text: self._changing(lambda _: {"colour": text}),
        )  # fmt: skip
        mix = Segments({"srgb": "Values", "linear": "Light"}, "Mixed", {
            "srgb": "Mixed as code values of sRGB.", "linear": "Mixed as light."})  # fmt: skip
        mix.chosen.connect(lambda value: self._do("mixing", mix=value))
        self._show_each(lambda d: d.colour, button.show_colour)
        self._show_each(lambda d: d.mix, mix.show_choice)
        return [button, mix]

    def _chance_fields(self) -> list[QWidget]:
        again = QPushButton(
            "New variation", objectName="link", toolTip="Other random draws, by the next seed."
        )
        again.clicked.connect(lambda: self._change("draws", _drawn_again))
        rate = self._inner("Draws", "/ s", "chance", "rate", 1, 1, 0.1, 1000, "Random draws a second.")
        return [rate, again]

    def _plain(self, name: str, unit: str, field: str, step: float, decimals: int, tip: str) -> NumberField:
        made = NumberField(name, unit, step, decimals)
        made.setToolTip(f"{name}. {tip}")
        return self._number(made, name.lower(), lambda d: getattr(d, field), lambda _, v: {field: v})

    def _inner(
        self, name: str, unit: str, owner: str, field: str, step: float, decimals: int, low: float,
        high: float, tip: str, whole: bool = False,
    ) -> NumberField:  # fmt: skip
        made = NumberField(name, unit, step, decimals, low=low, high=high)
        made.setToolTip(f"{name}. {tip}")
        kind: Callable[[float], Any] = round if whole else float

        def change(departure: Departure, value: float) -> dict[str, Any]:
            own = getattr(departure, owner)
            return {} if own is None else {owner: replace(own, **{field: kind(value)})}

        return self._number(made, name.lower(), lambda d: getattr(getattr(d, owner), field), change)

    def _more(self) -> QToolButton:
        button = QToolButton(
            objectName="small", toolTip=f"More about {self.said.lower()}: its curve, shaking, taking it away."
        )
        button.setText("⋯")
        button.setProperty("plain", True)
        button.setAccessibleName(f"More about {self.said.lower()}")
        self.menu = QMenu(button)
        self.curve = self.menu.addAction("Curve of its own…", self.pick_curve)
        self.plain_curve = self.menu.addAction("Curve of the move", lambda: self._do("curve", curve=None))
        self.shake = QAction("Shake", self.menu, checkable=True)
        self.shake.setToolTip("To one side or the other at random, piece by piece.")
        self.shake.triggered.connect(
            lambda on: self._do("shaking", chance=Chance(smooth=True) if on else None)
        )
        self.menu.addAction(self.shake)
        self.menu.addSeparator()
        self.menu.addAction(icon("close", "muted", 14), "Take away", self.remove)
        button.setMenu(self.menu)
        button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self._shows.append(self._show_more)
        return button

    def _show_more(self, departure: Departure) -> None:
        keyed = bool(departure.keys)
        self.curve.setEnabled(not keyed)
        self.plain_curve.setEnabled(departure.curve is not None and not keyed)
        self.shake.setEnabled(MOVE_CHANNELS[departure.channel].shakes)
        self.shake.setChecked(departure.chance is not None)

    def pick_curve(self) -> CurvePicker:
        """Choose a curve for this channel alone."""
        move = self._page.tuned
        own = self._departure.curve or (move.piece_curve if move else "linear")
        picker = CurvePicker(own, self._page.clip, f"Curve of {self.said.lower()}", self.window())
        picker.taken.connect(lambda text: self._do("curve", curve=text))
        picker.open()
        return picker

    def remove(self) -> None:
        """Take the channel out of the moves."""
        away = lambda p, clip, move: remove_departure(p, clip, move.id, _number_of(move, self._channel))  # noqa: E731
        self._page._do(f"Take {self.said.lower()} away", self._page.of_move(away))

    def _changing(self, change: Callable[[Departure], dict[str, Any]]) -> ClipEdit:
        """The edit of this channel in each clip's move."""

        def edit(project: Project, clip: str, move: Move) -> Project:
            number = _number_of(move, self._channel)
            return change_departure(project, clip, move.id, number, **change(move.channels[number]))

        return self._page.of_move(edit)

    def _change(self, what: str, change: Callable[[Departure], dict[str, Any]]) -> None:
        self._page._do(f"Change {self.said.lower()}: {what}", self._changing(change))

    def _do(self, what: str, **changes: Any) -> None:
        self._change(what, lambda _: changes)

    def _number(
        self,
        field: NumberField,
        what: str,
        read: Callable[[Departure], Any],
        change: Callable[[Departure, float], dict[str, Any]],
    ) -> NumberField:
        title = f"Change {self.said.lower()}: {what}"
        edit = lambda p, clip, value: self._changing(lambda own: change(own, value))(p, clip)  # noqa: E731
        return self._page._bind(field, title, edit, self._reading(read))

    def _show_each(self, read: Callable[[Departure], Any], show: Callable[[Any], None]) -> None:
        self._page.watch(self._reading(read), show)

    def _reading(self, read: Callable[[Departure], Any]) -> Callable[[Clip], Any]:
        return self._page.reading(lambda _, move: read(move.channels[_number_of(move, self._channel)]))


def _number_of(move: Move, channel: str) -> int:
    """The place of a channel among those of a move; RovixError where it has not got it."""
    at = next((n for n, departure in enumerate(move.channels) if departure.channel == channel), None)
    if at is None:
        raise RovixError(f"'{move.name or move.role}' does not move {lowered(MOVE_CHANNELS[channel].label)}.")
    return at


def _drawn_again(departure: Departure) -> dict[str, Any]:
    chance = departure.chance
    return {} if chance is None else {"chance": replace(chance, seed=chance.seed + 1)}


def _in_unit(project: Project, clip: PictureClip, move: Move, departure: Departure, unit: str) -> Amount:
    """The amount in another unit, as far away as it was."""
    old = departure.amount
    stage = Scene.of(project).motion(clip).stage_of(clip.moves.index(move))
    name, sign = moved(departure.channel)[0], -1.0 if old.value < 0 else 1.0
    if unit == "off-frame":
        return replace(old, value=sign, unit=unit)
    far = float(stage.amounts(name, old)[0])
    one = float(stage.amounts(name, replace(old, value=sign, unit=unit))[0])
    return replace(old, value=round(sign * far / one, 4) if one else old.value, unit=unit)
