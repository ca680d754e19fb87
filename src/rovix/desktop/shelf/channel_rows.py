"""What a move moves: a row for each of its channels, and a button for one more."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import Any

from PySide6.QtCore import Qt
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
from rovix.desktop.document import Document
from rovix.desktop.sheet.drop_down import DropDown
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.parts import ColourButton, Segments, lowered
from rovix.desktop.theme import icon
from rovix.edit.departures import add_departure, change_departure, remove_departure
from rovix.edit.tree import replace
from rovix.model import Amount, Chance, Clip, Departure, Move
from rovix.model.clip_kinds import has_words, is_layer
from rovix.model.move_channels import MOVE_CHANNELS
from rovix.motion import Scene
from rovix.motion.channels import moved
from rovix.motion.distance import AXES

_UNITS = {"px": "px", "frame": "% frame", "block": "% block", "piece": "% piece", "em": "em"}
_OWN_UNITS = {"off-frame": "off frame"}
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

    def __init__(self, document: Document) -> None:
        super().__init__()
        self._document = document
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

    def show_move(self, clip: Clip, move: Move) -> None:
        """Show a layer's move."""
        self._move = move
        kinds = tuple((d.channel, d.amount.unit, len(d.keys), d.chance is None) for d in move.channels)
        if (move.id, kinds) != self._shown:
            self._shown = move.id, kinds
            self._rebuild(move)
        for row, departure in zip(self.rows, move.channels, strict=True):
            row.show_departure(departure)

    def _rebuild(self, move: Move) -> None:
        for row in self.rows:
            row.hide()
            row.deleteLater()
        self.rows = [ChannelRow(self._document, move.id, number, d) for number, d in enumerate(move.channels)]
        for number, row in enumerate(self.rows):
            self._column.insertWidget(number, row)

    def _fill_menu(self) -> None:
        self.menu.clear()
        has = {departure.channel for departure in self._move.channels} if self._move else set()
        words = has_words(self._document.clip)
        for name, channels in _GROUPS.items():
            if name == "Letters" and not words:
                continue
            part = self.menu.addMenu(name)
            for channel in channels:
                action = part.addAction(MOVE_CHANNELS[channel].label, partial(self.add, channel))
                action.setEnabled(channel not in has)

    def add(self, channel: str) -> None:
        """Give the move one more channel."""
        document, move = self._document, self._move
        if move is not None:
            said = lowered(MOVE_CHANNELS[channel].label)
            edit = lambda project: add_departure(project, document.selected or "", move.id, channel)  # noqa: E731
            document.do(f"Add {said}", edit)


class ChannelRow(QWidget):
    """One channel of a move: how far, in which unit, and what is its own."""

    def __init__(self, document: Document, move: str, number: int, departure: Departure) -> None:
        super().__init__()
        self._document, self._move, self._number, self._departure = document, move, number, departure
        self.said = MOVE_CHANNELS[departure.channel].label
        self._shows: list[Callable[[Departure], None]] = []
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        line = QHBoxLayout()
        line.setSpacing(6)
        line.addWidget(QLabel(self.said), 1)
        for widget in self._fields(departure):
            line.addWidget(widget)
        line.addWidget(self._more())
        column.addLayout(line)
        extras = self._extras(departure)
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
        for show in self._shows:
            show(departure)

    def _fields(self, departure: Departure) -> list[QWidget]:
        if departure.keys:
            label = QLabel(f"{len(departure.keys)} keys, in the lanes", objectName="muted")
            label.setToolTip("Open the layer into lanes (Shift+A) to shape them.")
            return [label]
        self.amount = self._amount_field(departure)
        units = self._units(departure.channel)
        return [self.amount, self._unit_box(units)] if units else [self.amount]

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
        field.tried.connect(lambda value: self._try(amount=replace(self._departure.amount, value=value)))
        field.committed.connect(
            lambda value: self._do("amount", amount=replace(self._departure.amount, value=value))
        )
        field.dropped.connect(self._document.drop)
        self._shows.append(lambda d: field.show_value(d.amount.value))
        return field

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
        for unit, text in units.items():
            box.addItem(text, unit)
        box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        box.setMinimumContentsLength(5)
        box.activated.connect(lambda _: self._do("unit", amount=self._in_unit(box.currentData())))
        self._shows.append(lambda d: box.setCurrentIndex(box.findData(d.amount.unit)))
        self.unit = box
        return box

    def _in_unit(self, unit: str) -> Amount:
        """The amount in another unit, as far away as it was."""
        old = self._departure.amount
        clip = self._document.clip
        assert clip is not None
        assert is_layer(clip)
        motion = Scene.of(self._document.project).motion(clip)
        stage = motion.stage_of(next(n for n, m in enumerate(clip.moves) if m.id == self._move))
        name, sign = moved(self._departure.channel)[0], -1.0 if old.value < 0 else 1.0
        far = float(stage.amounts(name, old)[0])
        one = float(stage.amounts(name, replace(old, value=sign, unit=unit))[0])
        if unit == "off-frame":
            return replace(old, value=sign, unit=unit)
        return replace(old, value=round(sign * far / one, 4) if one else old.value, unit=unit)

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
        button = ColourButton("Colour that is mixed in")
        button.chosen.connect(lambda text: self._do("colour", colour=text))
        mix = Segments({"srgb": "Values", "linear": "Light"}, "Mixed", {
            "srgb": "Mixed as code values of sRGB.", "linear": "Mixed as light."})  # fmt: skip
        mix.chosen.connect(lambda value: self._do("mixing", mix=value))
        self._shows += [lambda d: button.show_colour(d.colour), lambda d: mix.show_choice(d.mix)]
        return [button, mix]

    def _chance_fields(self) -> list[QWidget]:
        again = QPushButton(
            "New variation", objectName="link", toolTip="Other random draws, by the next seed."
        )
        again.clicked.connect(
            lambda: self._do("draws", chance=replace(self._chance(), seed=self._chance().seed + 1))
        )
        rate = self._inner("Draws", "/ s", "chance", "rate", 1, 1, 0.1, 1000, "Random draws a second.")
        return [rate, again]

    def _chance(self) -> Chance:
        return self._departure.chance or Chance()

    def _plain(self, name: str, unit: str, field: str, step: float, decimals: int, tip: str) -> NumberField:
        made = NumberField(name, unit, step, decimals)
        made.setToolTip(f"{name}. {tip}")
        made.tried.connect(lambda value: self._try(**{field: value}))
        made.committed.connect(lambda value: self._do(name.lower(), **{field: value}))
        made.dropped.connect(self._document.drop)
        self._shows.append(lambda d: made.show_value(getattr(d, field)))
        return made

    def _inner(
        self, name: str, unit: str, owner: str, field: str, step: float, decimals: int, low: float,
        high: float, tip: str, whole: bool = False,
    ) -> NumberField:  # fmt: skip
        made = NumberField(name, unit, step, decimals, low=low, high=high)
        made.setToolTip(f"{name}. {tip}")
        kind: Callable[[float], Any] = round if whole else float

        def with_it(value: float) -> dict[str, Any]:
            return {owner: replace(getattr(self._departure, owner), **{field: kind(value)})}

        made.tried.connect(lambda value: self._try(**with_it(value)))
        made.committed.connect(lambda value: self._do(name.lower(), **with_it(value)))
        made.dropped.connect(self._document.drop)
        self._shows.append(
            lambda d: made.show_value(getattr(getattr(d, owner), field)) if getattr(d, owner) else None
        )
        return made

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
        own = self._departure.curve or self._own_move().piece_curve
        picker = CurvePicker(own, self._document.clip, f"Curve of {self.said.lower()}", self.window())
        picker.taken.connect(lambda text: self._do("curve", curve=text))
        picker.open()
        return picker

    def _own_move(self) -> Move:
        return next(m for m in getattr(self._document.clip, "moves", ()) if m.id == self._move)

    def remove(self) -> None:
        """Take the channel out of the move."""
        identity, move, number = self._document.selected or "", self._move, self._number
        edit = lambda project: remove_departure(project, identity, move, number)  # noqa: E731
        self._document.do(f"Take {self.said.lower()} away", edit)

    def _edit(self, **changes: Any) -> Any:
        identity, move, number = self._document.selected or "", self._move, self._number
        return lambda project: change_departure(project, identity, move, number, **changes)

    def _try(self, **changes: Any) -> None:
        self._document.try_on(self._edit(**changes))

    def _do(self, what: str, **changes: Any) -> None:
        self._document.do(f"Change {self.said.lower()}: {what}", self._edit(**changes))
