"""The fields of effects, made from what each kind says of its rows."""

from __future__ import annotations

from collections.abc import Callable
from math import isfinite
from typing import TYPE_CHECKING, Any, Protocol, cast, runtime_checkable

from msgspec import inspect
from PySide6.QtWidgets import QPushButton, QWidget

from rovix.desktop.sheet.card import CardFields, Item
from rovix.desktop.sheet.drop_down import DropDown
from rovix.desktop.sheet.layer_box import LayerBox
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.parts import Tick
from rovix.desktop.units import NumberFormat, format_of
from rovix.desktop.window_above import window_above
from rovix.edit.effects import tie_to_layer
from rovix.edit.following import layers_of
from rovix.model.effects.rows import (
    Asks,
    Choice,
    Colour,
    Drawn,
    Edge,
    Menu,
    Numbers,
    OtherLayer,
    Paint,
    Row,
    Switch,
    Variation,
    Whole,
)
from rovix.model.fields import channel_fields
from rovix.model.node import Node

if TYPE_CHECKING:
    from rovix.desktop.sheet.cards_page import CardsPage


class EffectFields(CardFields):
    """The fields of one effect."""

    def __init__(self, page: CardsPage, item: Item) -> None:
        super().__init__(page, item)
        self._more: list[Callable[[Item], None]] = []
        self._channels = channel_fields(cast("type[Node]", type(item)))
        for row in item.facts.rows:
            _BUILD[type(row)](self, row)

    def show_part(self, part: Item) -> None:
        super().show_part(part)
        for show in self._more:
            show(part)

    def summary(self, item: Item) -> str:
        return str(item.facts.summary(item))

    def watch(self, read: Callable[[Item], Any], show: Callable[[Any], None]) -> None:
        """Show what the clips' items have in common."""
        self._page.watch(self.reading(read), show)

    def field(self, name: str, said: str, shown: NumberFormat) -> NumberField:
        """A field of a channel, its limits those of the channel's type."""
        channel = self._channels[name]
        low, high = (end * shown.factor if isfinite(end) else None for end in (channel.low, channel.high))
        return self.number(name, said, shown.unit, shown.step, shown.decimals, low, high, shown.factor)


def _numbers(rows: EffectFields, row: Numbers) -> None:
    shown = format_of(row, rows._part)
    fields = [rows.field(name, said, shown) for name, said in zip(row.names, row.said, strict=True)]
    if not isinstance(row.unit, str):  # another field decides it
        unit = row.unit

        def show(item: Item) -> None:
            for field in fields:
                field.show_unit(unit(item))

        rows._more.append(show)
    parts = rows.keyed(row.label, list(fields), *row.names)
    _only_when(rows, row.when, parts)


def _only_when(rows: EffectFields, wanted: Asks | None, parts: list[QWidget]) -> None:
    """Show a row's widgets only while an effect asks for them."""
    if wanted is not None:
        asked = wanted

        def show(item: Item) -> None:
            for part in parts:
                part.setVisible(asked(item))

        rows._more.append(show)


def _edge(rows: EffectFields, row: Edge) -> None:
    """An edge on one side: there or not, and how far in."""
    side, said = row.name, f"{row.name.capitalize()} edge"
    field = rows.field(side, said, format_of(Numbers((side,), side, (side,), "px"), rows._part))
    on = Tick("", f"Whether there is an edge on the {side} side.")
    on.setAccessibleName(said)

    def turn(there: bool) -> None:
        rows.set(f"{'Add' if there else 'Remove'} the {side} edge", **{side: 0.0 if there else None})

    def show(item: Item) -> None:
        field.setVisible(getattr(item, side) is not None)

    on.clicked.connect(turn)
    rows.watch(lambda item: getattr(item, side) is not None, on.show_ticked)
    rows._more.append(show)
    rows.keyed(side.capitalize(), [on, field], side)


def _whole(rows: EffectFields, row: Whole) -> None:
    kind = next(f.type for f in _fields_of(rows._part) if f.name == row.name)
    assert isinstance(kind, inspect.IntType | inspect.FloatType)
    low, high = kind.ge if kind.ge is not None else 0, kind.le if kind.le is not None else 1e9
    field = rows.plain(row.name, row.label, row.unit, 0.1, max(low, round(low)), high)
    if row.tip:
        field.setToolTip(row.tip)
    label, wanted = rows.add(row.label, [field]), row.when
    if wanted is not None:
        shown = wanted

        def show(item: Item) -> None:
            label.setVisible(shown(item))
            field.setVisible(shown(item))

        rows._more.append(show)


def _fields_of(item: Item) -> tuple[inspect.Field, ...]:
    info = inspect.type_info(type(item))
    assert isinstance(info, inspect.StructType)
    return info.fields


def _choice(rows: EffectFields, row: Choice) -> None:
    rows.add_wide(rows.choice(row.name, row.label, row.choices, row.tips or None))


def _menu(rows: EffectFields, row: Menu) -> None:
    box = DropDown(accessibleName=f"{rows._name} {row.label.lower()}", toolTip=row.tip)
    for value, text in row.choices.items():
        box.addItem(text, value)
    title = f"Change the {rows._name.lower()}'s {row.label.lower()}"
    box.activated.connect(lambda _: rows.set(title, **{row.name: box.currentData()}))
    rows.watch(lambda item: getattr(item, row.name), box.show_data)
    rows.add(row.label, [box])


def _switch(rows: EffectFields, row: Switch) -> None:
    box = Tick(row.label, row.tip)
    box.clicked.connect(lambda on: rows.set(f"{rows._name}: {row.label.lower()}", **{row.name: on}))
    rows.watch(lambda item: getattr(item, row.name), box.show_ticked)
    rows.add_wide(box)


def _colour(rows: EffectFields, row: Colour) -> None:
    rows.keyed(row.label, [rows.colour()], "colour")


def _paint(rows: EffectFields, _row: Paint) -> None:
    rows.add_wide(rows.paint())


def _variation(rows: EffectFields, _row: Variation) -> None:
    button = QPushButton("New variation", objectName="link", toolTip="Another random draw.")
    title = f"New variation of the {rows._name.lower()}"
    page = rows._page
    again = page.of_item(rows._id, lambda p, clip, own: page.changed(p, clip, own.id, seed=own.seed + 1))
    button.clicked.connect(lambda: page._do(title, again))
    rows.add("", [button])


def _other_layer(rows: EffectFields, row: OtherLayer) -> None:
    """Another layer, and where on it."""
    layers = LayerBox(row.label, row.tip)
    points = DropDown(accessibleName=f"{row.label}: where", toolTip=row.point_tip)
    for value, text in row.points.items():
        points.addItem(text, value)
    page = rows._page

    def choose() -> None:
        layer, at = layers.currentData(), points.currentData()
        other = "nothing" if layer is None else layers.currentText()
        tied = page.of_item(rows._id, lambda p, clip, own: tie_to_layer(p, clip, own.id, row, layer, at))
        page._do(f"{row.label} {other}", tied)

    def show(item: Item) -> None:
        tie: Any = getattr(item, row.name)
        layers.show_layers(
            layers_of(page.document.project, without=page.clip.id if page.clip else None),
            tie.layer if tie else None,
        )
        points.setCurrentIndex(points.findData(tie.at if tie else next(iter(row.points))))
        for widget in (at, points):
            widget.setVisible(tie is not None)

    layers.chosen.connect(lambda _: choose())
    points.activated.connect(lambda _: choose())
    rows._more.append(show)
    rows.add(row.label, [layers])
    at = rows.add(row.point_label, [points])


@runtime_checkable
class DrawsLines(Protocol):
    """A window in whose picture lines can be drawn."""

    def draw_line(self, effect: str) -> None: ...


def _draw(rows: EffectFields) -> None:
    window = window_above(rows, DrawsLines)  # type: ignore[type-abstract]
    if window is not None:
        window.draw_line(rows._id)


def _drawn(rows: EffectFields, row: Drawn) -> None:
    button = QPushButton("Edit in the picture", objectName="link")
    button.setToolTip("Drag its points there; double-click for more of them, or to round one.")
    button.clicked.connect(lambda: _draw(rows))
    parts = rows.keyed(row.label, [button], row.name)
    _only_when(rows, row.when, parts)


_BUILD: dict[type[Row], Callable[[EffectFields, Any], None]] = {
    Numbers: _numbers, Edge: _edge, Whole: _whole, Choice: _choice, Menu: _menu, Switch: _switch,
    Colour: _colour, Paint: _paint, Variation: _variation, OtherLayer: _other_layer, Drawn: _drawn,
}  # fmt: skip
