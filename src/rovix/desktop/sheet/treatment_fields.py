"""The fields of treatments."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Any

from PySide6.QtWidgets import QCheckBox, QComboBox, QPushButton, QWidget

from rovix.desktop.sheet.card import CardFields, Item
from rovix.desktop.sheet.layer_box import LayerBox
from rovix.desktop.sheet.number_field import NumberField
from rovix.edit.following import layers_of
from rovix.edit.treatments import ride
from rovix.model.blend import BLEND_MODES
from rovix.model.treatment import (
    Blur,
    Cast,
    Crop,
    Echo,
    Grain,
    Halo,
    LongCast,
    Opening,
    Rim,
    Sweep,
    Tear,
    Tone,
    Wipe,
    Wrap,
)

if TYPE_CHECKING:
    from rovix.desktop.sheet.treat_page import TreatPage

SIDES = ("left", "top", "right", "bottom")
WAYS = {
    "straight": "Straight", "round": "Round", "middle": "From the middle", "blinds": "Blinds",
    "pieces": "Letter by letter",
}  # fmt: skip
_PINS = {"words": "To the layer", "frame": "To the frame"}
_PIN_TIPS = {
    "words": "The edges go with the layer, its moves within them.",
    "frame": "The edges stay in the frame, whatever the layer does.",
}
_POINTS = {
    "middle": "its middle",
    "left": "its left",
    "right": "its right",
    "top": "its top",
    "bottom": "its bottom",
}


class TreatmentFields(CardFields):
    """The fields of one treatment."""

    def __init__(self, page: TreatPage, item: Item) -> None:
        super().__init__(page, item)
        self._more: list[Callable[[Item], None]] = []
        _BUILD[type(item)](self)

    def show_part(self, part: Item) -> None:
        super().show_part(part)
        for show in self._more:
            show(part)

    def summary(self, item: Item) -> str:
        return _SUMMARIES.get(type(item), lambda _: "")(item)

    def px(self, name: str, said: str, low: float, high: float) -> NumberField:
        return self.number(name, said, "px", 1, 1, low, high)

    def share(self, name: str, said: str, low: float = 0, high: float = 100) -> NumberField:
        return self.number(name, said, "%", 1, 1, low, high, factor=100)

    def degrees(self, name: str, said: str) -> NumberField:
        return self.number(name, said, "°", 1, 1)

    def combo(self, name: str, said: str, choices: dict[str, str], tip: str) -> QComboBox:
        """A longer list of choices of a plain field."""
        box = QComboBox(accessibleName=f"{self._name} {said.lower()}", toolTip=tip)
        for value, text in choices.items():
            box.addItem(text, value)
        title = f"Change the {self._name.lower()}'s {said.lower()}"
        box.activated.connect(lambda _: self.set(title, **{name: box.currentData()}))
        self._more.append(lambda item: box.setCurrentIndex(box.findData(getattr(item, name))))
        return box

    def check(self, name: str, said: str, tip: str) -> QCheckBox:
        """A switch of a plain field."""
        box = QCheckBox(said, toolTip=tip)
        box.clicked.connect(lambda on: self.set(f"{self._name}: {said.lower()}", **{name: on}))
        self._more.append(lambda item: box.setChecked(getattr(item, name)))
        return box

    def edge(self, side: str) -> None:
        """An edge of an opening: there or not, and how far in."""
        field = self.px(side, f"{side.capitalize()} edge", -100_000, 100_000)
        on = QCheckBox(toolTip=f"Whether there is an edge on the {side} side.")
        on.setAccessibleName(f"{side.capitalize()} edge")

        def turn(there: bool) -> None:
            title = f"{'Add' if there else 'Remove'} the {side} edge"
            self.set(title, **{side: 0.0 if there else None})

        on.clicked.connect(turn)

        def show(item: Item) -> None:
            on.setChecked(getattr(item, side) is not None)
            field.setEnabled(getattr(item, side) is not None)

        self._more.append(show)
        self.keyed(side.capitalize(), [on, field], side)

    def only_if(self, widgets: list[QWidget], wanted: Callable[[Item], bool]) -> None:
        """Show widgets only while they count for something."""

        def show(item: Item) -> None:
            for widget in widgets:
                widget.setVisible(wanted(item))

        self._more.append(show)

    def rider(self) -> tuple[LayerBox, QComboBox]:
        """The layer that a wipe's edge stays on, and where on it."""
        layers = LayerBox("Rides", "The layer that the edge stays on, through all that it does.")
        points = QComboBox(accessibleName="Rides at", toolTip="Where on that layer the edge lies.")
        for value, text in _POINTS.items():
            points.addItem(text, value)
        for box in (layers, points):
            box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
            box.setMinimumContentsLength(4)

        def choose() -> None:
            layer, at = layers.currentData(), points.currentData() or "middle"
            title = "Ride nothing" if layer is None else f"Ride {layers.currentText()}"
            self._page._do(title, lambda p: ride(p, self._page._id, self._id, layer, at))

        def show(item: Item) -> None:
            others = layers_of(self._page._document.project, without=self._page._id)
            layers.show_layers(others, item.ride.layer if item.ride else None)
            points.setCurrentIndex(points.findData(item.ride.at if item.ride else "middle"))
            points.setVisible(item.ride is not None)

        layers.chosen.connect(lambda _: choose())
        points.activated.connect(lambda _: choose())
        self._more.append(show)
        return layers, points

    def again(self) -> QPushButton:
        """Another draw of what comes from a seed."""
        button = QPushButton("Draw again", objectName="link", toolTip="Another random draw.")
        button.clicked.connect(
            lambda: self.set(f"Draw the {self._name.lower()} again", seed=self._part.seed + 1)
        )
        return button


def _opening(rows: TreatmentFields) -> None:
    rows.add_wide(rows.choice("pin", "Pinned", _PINS, _PIN_TIPS))
    for side in SIDES:
        rows.edge(side)
    rows.keyed("Feather", [rows.px("feather", "Feather", 0, 1000)], "feather")
    rows.keyed("Corners", [rows.px("radius", "Corner radius", 0, 10_000)], "radius")


def _crop(rows: TreatmentFields) -> None:
    across = [rows.px(side, f"From the {side}", 0, 100_000) for side in ("left", "right")]
    down = [rows.px(side, f"From the {side}", 0, 100_000) for side in ("top", "bottom")]
    rows.keyed("Left, right", list(across), "left", "right")
    rows.keyed("Top, bottom", list(down), "top", "bottom")


def _wipe(rows: TreatmentFields) -> None:
    rows.add("Way", [rows.combo("way", "Way", WAYS, "How the layer is uncovered.")])
    rows.keyed("Share", [rows.share("share", "Share shown")], "share")
    rows.keyed("Angle", [rows.degrees("angle", "Angle")], "angle")
    rows.keyed("Feather", [rows.px("feather", "Feather", 0, 1000)], "feather")
    _count(rows)
    layers, points = rows.rider()
    rows.add("Rides", [layers, points])
    rows.add_wide(rows.choice("pin", "Pinned", _PINS, _PIN_TIPS))
    rows.add_wide(rows.check("hides", "Hides instead", "Covers what it would uncover."))


def _count(rows: TreatmentFields, ways: tuple[str, ...] = ("blinds",)) -> None:
    count = rows.plain("count", "Strips", "", 0.1, 1, 200)
    label = rows.add("Strips", [count])
    rows.only_if([label, count], lambda item: item.way in ways)


def _sweep(rows: TreatmentFields) -> None:
    rows.add_wide(rows.paint())
    rows.add("Way", [rows.combo("way", "Way", WAYS | {"blocks": "In blocks"}, "How the colour runs over.")])
    rows.keyed("Share", [rows.share("share", "Share covered")], "share")
    rows.keyed("Angle", [rows.degrees("angle", "Angle")], "angle")
    rows.keyed("Feather", [rows.px("feather", "Feather", 0, 1000)], "feather")
    _count(rows, ("blinds", "blocks"))


def _offset(rows: TreatmentFields) -> None:
    rows.add_wide(rows.choice("unit", "Counted in", {"px": "px", "frame": "Frame sizes"}))
    fields = [rows.number(name, said, "", 0.05, 3, -2_000_000, 2_000_000)
              for name, said in (("x", "Offset across"), ("y", "Offset down"))]  # fmt: skip
    rows.keyed("Across, down", list(fields), "x", "y")


def _echo(rows: TreatmentFields) -> None:
    rows.add("Copies", [rows.plain("copies", "Copies", "", 0.1, 0, 60)])
    rows.keyed("Gap", [rows.number("gap", "Gap", "", 0.1, 3, 0, 10_000)], "gap")
    units = {"frames": "Frames", "seconds": "Seconds", "px": "px"}
    rows.add_wide(rows.choice("unit", "Gap in", units))
    rows.keyed("Kept", [rows.share("kept", "Strength kept")], "kept")
    rows.keyed("Hue", [rows.degrees("shift", "Hue shift per copy")], "shift")
    modes = {mode: mode.replace("-", " ").capitalize() for mode in BLEND_MODES}
    rows.add("Blend", [rows.combo("blend", "Blend", modes, "How copies are laid over each other.")])
    rows.add_wide(rows.check("front", "In front", "Copies lie over the layer instead of behind it."))


def _blur(rows: TreatmentFields) -> None:
    both = [rows.number(name, f"Blur {name}", "px", 0.5, 1, 0, 1000) for name in ("across", "down")]
    rows.keyed("Across, down", list(both), "across", "down")
    rows.keyed("Along", [rows.number("along", "Blur along the motion", "px", 0.5, 1, 0, 1000)], "along")
    rows.keyed("Round", [rows.degrees("spin", "Blur round the point")], "spin")
    rows.keyed("Zoom", [rows.share("zoom", "Blur to and from the point")], "zoom")
    point = [
        rows.share(name, f"Point {said}", -1000, 1100) for name, said in (("x", "across"), ("y", "down"))
    ]
    rows.keyed("Point", list(point), "x", "y")


def _coloured(rows: TreatmentFields) -> None:
    rows.keyed("Colour", [rows.colour()], "colour")
    rows.keyed("Opacity", [rows.share("opacity", "Opacity")], "opacity")


def _halo(rows: TreatmentFields) -> None:
    rows.keyed("Size", [rows.px("size", "Size", 0, 1000)], "size")
    rows.keyed("Strength", [rows.share("strength", "Strength", 0, 2000)], "strength")
    _coloured(rows)


def _cast(rows: TreatmentFields) -> None:
    way = [
        rows.px(name, f"Offset {said}", -20_000, 20_000) for name, said in (("x", "across"), ("y", "down"))
    ]
    rows.keyed("Offset", list(way), "x", "y")
    rows.keyed("Blur", [rows.px("blur", "Blur", 0, 1000)], "blur")
    _coloured(rows)


def _long_cast(rows: TreatmentFields) -> None:
    rows.keyed("Angle", [rows.degrees("angle", "Angle")], "angle")
    _coloured(rows)


def _rim(rows: TreatmentFields) -> None:
    rows.keyed("Width", [rows.number("width", "Width", "px", 0.5, 1, 0, 500)], "width")
    _coloured(rows)


def _tone(rows: TreatmentFields) -> None:
    rows.keyed("Saturation", [rows.share("saturation", "Saturation", 0, 2000)], "saturation")
    levels = [rows.share(name, f"{name.capitalize()} from") for name in ("black", "white")]
    rows.keyed("Black, white", list(levels), "black", "white")
    rows.keyed("Gamma", [rows.number("gamma", "Gamma", "", 0.02, 2, 0.05, 20)], "gamma")
    rows.keyed("Tint", [rows.share("tint", "Tint")], "tint")
    rows.keyed("Colour", [rows.colour()], "colour")


def _tear(rows: TreatmentFields) -> None:
    rows.add("Bands", [rows.plain("bands", "Bands", "", 0.2, 1, 500)])
    rows.keyed("Shift", [rows.px("shift", "Shift", -20_000, 20_000)], "shift")
    rows.keyed("Split", [rows.px("split", "Colours apart", -20_000, 20_000)], "split")
    _drawn(rows)


def _grain(rows: TreatmentFields) -> None:
    rows.keyed("Amount", [rows.share("amount", "Amount")], "amount")
    rows.add("Size", [rows.plain("size", "Size", "px", 0.1, 1, 100)])
    _drawn(rows)


def _drawn(rows: TreatmentFields) -> None:
    """What comes from a seed: how long a draw is held, and another."""
    every = rows.plain("every", "Held for", "f", 0.1, 0, 10_000)
    every.setToolTip("Drawn anew after so many frames; 0 draws once and for all.")
    rows.add("Held for", [every])
    rows.add("", [rows.again()])


_BUILD: dict[type, Callable[[TreatmentFields], None]] = {
    Opening: _opening, Crop: _crop, Wipe: _wipe, Sweep: _sweep, Wrap: _offset, Echo: _echo, Blur: _blur,
    Halo: _halo, Cast: _cast, LongCast: _long_cast, Rim: _rim, Tone: _tone, Tear: _tear, Grain: _grain,
}  # fmt: skip
_SUMMARIES: dict[type, Callable[[Any], str]] = {
    Opening: lambda t: "to the frame" if t.pin == "frame" else "to the layer",
    Wipe: lambda t: "rides" if t.ride else f"{t.share * 100:.0f} %",
    Sweep: lambda t: f"{t.share * 100:.0f} %",
    Wrap: lambda t: f"{t.x:.4g}, {t.y:.4g} {'×' if t.unit == 'frame' else 'px'}",
    Echo: lambda t: f"{t.copies} × {t.kept * 100:.0f} %",
    Blur: lambda t: f"{max(t.across, t.down, t.along):.3g} px",
    Halo: lambda t: f"{t.size:.3g} px",
    LongCast: lambda t: f"{t.angle:.4g}°",
    Rim: lambda t: f"{t.width:.3g} px",
    Grain: lambda t: f"{t.amount * 100:.0f} %",
}
