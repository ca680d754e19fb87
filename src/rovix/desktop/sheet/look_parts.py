"""The fields of the parts of a look."""

from __future__ import annotations

from collections.abc import Callable
from math import atan2, cos, degrees, hypot, radians, sin
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen

from rovix.desktop.sheet.card import CardFields, Item
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.theme import colour
from rovix.model import Box, Fill, Glow, LongShadow, LookPart, Outline, Shadow

if TYPE_CHECKING:
    from rovix.desktop.sheet.cards_page import CardsPage


def kind_of(part: LookPart) -> str:
    """The part's kind as the file names it."""
    return str(type(part).__struct_config__.tag)


class PartFields(CardFields):
    """The fields of one part."""

    def __init__(self, page: CardsPage, part: LookPart) -> None:
        super().__init__(page, part)
        _BUILD[type(part)](self)
        opacity = self.number("opacity", "Opacity", "%", 1, 0, 0, 100, factor=100)
        self.keyed("Opacity", [opacity], "opacity")

    def paint_swatch(self, painter: QPainter, box: QRectF, item: Item) -> bool:
        if not isinstance(item, Outline):
            return super().paint_swatch(painter, box, item)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        # A dark line would be lost on the dark head.
        for pen in (QPen(colour("muted"), 5), QPen(QColor(item.colour[:7]), 3)):
            painter.setPen(pen)
            painter.drawRoundedRect(box.adjusted(2, 2, -2, -2), 3, 3)
        return True

    def summary(self, item: Item) -> str:
        if isinstance(item, Outline):
            return f"{round(item.width, 1):g} px"
        if isinstance(item, Shadow):
            return f"{hypot(item.x, item.y):.0f} px"
        if isinstance(item, LongShadow):
            return f"{round(item.angle, 1):g}°"
        if isinstance(item, Glow):
            return f"{round(item.size, 1):g} px"
        return "by letter" if item.over == "letter" else "by line" if item.over == "line" else ""

    def shown(self, part: Item, name: str) -> float | None:
        return _polar(part)[name] if name in ("angle_", "distance_") else super().shown(part, name)

    def changes(self, part: Item, name: str, value: float) -> dict[str, float]:
        return _turned(part, name, value) if name in ("angle_", "distance_") else {name: value}


def _fill_fields(rows: PartFields) -> None:
    rows.add_wide(rows.paint())
    rows.add_wide(rows.choice("over", "Reach", {"block": "Over the block", "letter": "Each letter"}))


def _outline_fields(rows: PartFields) -> None:
    rows.keyed("Colour", [rows.colour()], "colour")
    rows.keyed("Width", [rows.number("width", "Width", "px", 0.5, 1, 0.1, 2000)], "width")
    rows.add_wide(rows.choice("side", "Side", {"outside": "Outside", "centre": "Centre", "inside": "Inside"}))
    rows.add_wide(rows.choice("join", "Corners", {"round": "Round", "miter": "Pointed", "bevel": "Cut"}))


def _shadow_fields(rows: PartFields) -> None:
    rows.keyed("Colour", [rows.colour()], "colour")
    rows.keyed("Offset", [_offset(rows, "x", "Offset across"), _offset(rows, "y", "Offset down")], "x", "y")
    angle = rows.number("angle_", "Angle", "°", 1, 1)
    distance = rows.number("distance_", "Distance", "px", 0.5, 1, 0, 20_000)
    rows.add("Angle, way", [angle, distance])
    blur = rows.number("blur", "Blur", "px", 0.5, 1, 0, 1000)
    spread = rows.number("spread", "Spread", "px", 0.5, 1, -2000, 2000)
    rows.keyed("Blur, spread", [blur, spread], "blur", "spread")


def _offset(rows: PartFields, name: str, said: str) -> NumberField:
    return rows.number(name, said, "px", 0.5, 1, -20_000, 20_000)


def _long_shadow_fields(rows: PartFields) -> None:
    rows.keyed("Colour", [rows.colour()], "colour")
    rows.keyed("Angle", [rows.number("angle", "Angle", "°", 1, 1)], "angle")


def _glow_fields(rows: PartFields) -> None:
    rows.keyed("Colour", [rows.colour()], "colour")
    rows.keyed("Size", [rows.number("size", "Size", "px", 0.5, 1, 0, 1000)], "size")
    strength = rows.number("strength", "Strength", "%", 5, 0, 0, 2000, factor=100)
    rows.keyed("Strength", [strength], "strength")


def _box_fields(rows: PartFields) -> None:
    rows.add_wide(rows.paint())
    padding = [_padding(rows, "padding_x", "across"), _padding(rows, "padding_y", "down")]
    rows.keyed("Padding", list(padding), "padding_x", "padding_y")
    rows.keyed("Corners", [rows.number("radius", "Corner radius", "px", 1, 1, 0, 10_000)], "radius")
    rows.add_wide(rows.choice("over", "Reach", {"block": "Round the block", "line": "Each line"}))


def _padding(rows: PartFields, name: str, way: str) -> NumberField:
    return rows.number(name, f"Padding {way}", "px", 1, 1, -10_000, 10_000)


_BUILD: dict[type, Callable[[PartFields], None]] = {
    Fill: _fill_fields, Outline: _outline_fields, Shadow: _shadow_fields, LongShadow: _long_shadow_fields,
    Glow: _glow_fields, Box: _box_fields,
}  # fmt: skip


def _polar(part: Any) -> dict[str, float]:
    """A shadow's offset as an angle, clockwise from rightwards, and a distance."""
    return {"angle_": degrees(atan2(part.y, part.x)), "distance_": hypot(part.x, part.y)}


def _turned(part: Any, name: str, value: float) -> dict[str, float]:
    polar = _polar(part) | {name: value}
    angle, distance = radians(polar["angle_"]), polar["distance_"]
    return {"x": round(distance * cos(angle), 4), "y": round(distance * sin(angle), 4)}
