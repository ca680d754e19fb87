"""The fields of a fill: plain, gradient or paper, with its colours."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from rovix.desktop.sheet.colour_button import ColourButton
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.page import ABSENT, Page
from rovix.desktop.sheet.parts import Rows, Segments
from rovix.edit.paints import refilled
from rovix.edit.tree import replace
from rovix.errors import RovixError
from rovix.model import Linear, Paper, Project, Radial, Stop

PAINTS = {"none": "None", "plain": "Plain", "linear": "Straight", "radial": "Round"}
_STOPS_MOST = 8
_SHOWN = {
    "plain": {"colour"}, "paper": {"colour", "grain"}, "linear": {"angle"}, "radial": {"centre", "radius"},
}  # fmt: skip
PaintEdit = Callable[[Project, str, Callable[[Any], Any]], Project]


def _addresses(paint: Callable[[], str], names: tuple[str, ...]) -> list[str]:
    """The addresses of fields of a paint, which may have another place by now."""
    return [f"{paint()}.{name}" for name in names]


class PaintFields(QWidget):
    """Fields of a fill called `name`; `edit(project, identity, change)` gives the project with `change`
    applied to that fill of a clip, and `address` says where in the leading clip it stands."""

    def __init__(
        self, page: Page, name: str, kinds: dict[str, str], edit: PaintEdit, address: Callable[[], str]
    ) -> None:
        # Long: the controls in the order in which they stand, a statement or two each.
        super().__init__()
        self._page, self._name, self._edit, self._address = page, name, edit, address
        self._kind = Segments(kinds, name)
        self._kind.chosen.connect(self._refill)
        self._colour = page.colour(
            ColourButton(f"{name} colour"), f"Colour the {name.lower()}",
            lambda value: page.setting({f"{address()}.colour": value}),
        )  # fmt: skip
        page.watch(lambda clip: page.value_in(clip, f"{address()}.colour"), self._colour.show_colour)
        self._angle = self._number(NumberField("Angle", "°", 1, 1), "angle")
        self._x = self._number(NumberField("Centre across", "%", 1, 0, factor=100), "x")
        self._y = self._number(NumberField("Centre down", "%", 1, 0, factor=100), "y")
        self._radius = self._number(
            NumberField("Radius", "%", 1, 0, factor=100, low=1, high=10_000), "radius"
        )
        self._strength = self._number(
            NumberField("Grain", "%", 0.5, 1, factor=100, low=0, high=100), "strength"
        )
        self._seed = self._number(NumberField("Seed", "", 1, 0, low=0, high=2**53), "seed", whole=True)
        self._mix = Segments(
            {"srgb": "As screens", "linear": "As light"}, "Mix",
            {"srgb": "Mixed as code values of sRGB.", "linear": "Mixed as light adds up."},
        )  # fmt: skip
        self._mix.chosen.connect(lambda value: self._set("Mix the colours", mix=value))
        self._rows: dict[str, Rows] = {}
        for row, said, fields, names in (
            ("colour", "Colour", [self._colour], ("colour",)),
            ("angle", "Angle", [self._angle], ("angle",)),
            ("centre", "Centre", [self._x, self._y], ("x", "y")),
            ("radius", "Radius", [self._radius], ("radius",)),
            ("grain", "Grain, seed", [self._strength, self._seed], ("strength",)),
        ):
            self._rows[row] = Rows()
            pip = page.pips.pip(f"{name} {said.lower()}", partial(_addresses, address, names))
            self._rows[row].add(said, fields, pip)
        self._stops = StopRows(page, edit, address)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(7)
        for widget in (self._kind, *self._rows.values(), self._stops, self._mix):
            column.addWidget(widget)

    def offer(self, kinds: set[str]) -> None:
        """Offer only some of the kinds."""
        self._kind.show_only(kinds)

    def show_paint(self, paint: Any) -> None:
        """Show a fill, None for none."""
        kind = "none" if paint is None else type(paint).__struct_config__.tag
        self._kind.show_choice(kind)
        for name, row in self._rows.items():
            row.setVisible(name in _SHOWN.get(kind, set()))
        graded = isinstance(paint, Linear | Radial)
        self._mix.setVisible(graded)
        self._stops.setVisible(graded)
        if isinstance(paint, Paper):
            self._seed.show_value(float(paint.seed))
        if isinstance(paint, Linear | Radial):
            self._mix.show_choice(paint.mix)
            self._stops.show_stops(paint.stops)

    def _refill(self, kind: str) -> None:
        wanted = None if kind == "none" else kind
        title = f"Change the {self._name.lower()}"
        self._page._do(title, lambda p, i: self._edit(p, i, lambda paint: refilled(paint, wanted)))

    def _number(self, field: NumberField, name: str, whole: bool = False) -> NumberField:
        title = f"Change the {self._name.lower()}'s {name}"
        if not whole:
            return self._page.channel(field, title, lambda: f"{self._address()}.{name}")

        def edit(project: Project, identity: str, value: float) -> Project:
            return self._edit(project, identity, lambda paint: _with(paint, **{name: round(value)}))

        return self._page._bind(field, title, edit, lambda clip: ABSENT)

    def _set(self, title: str, **changes: Any) -> None:
        self._page._do(title, lambda p, i: self._edit(p, i, lambda paint: _with(paint, **changes)))


def _with(paint: Any, **changes: Any) -> Any:
    """The paint with fields changed; RovixError where it is of a kind that has none of these."""
    if not set(changes) <= set(getattr(paint, "__struct_fields__", ())):
        raise RovixError("Its fill is of another kind.")
    return replace(paint, **changes)


class StopRows(QWidget):
    """The colours of a gradient and where they stand."""

    def __init__(self, page: Page, edit: PaintEdit, address: Callable[[], str]) -> None:
        super().__init__()
        self._page, self._edit, self._address = page, edit, address
        self._list = QVBoxLayout()
        self._list.setSpacing(6)
        self._rows: list[tuple[ColourButton, NumberField, Rows]] = []
        self._shown: tuple[Stop, ...] = ()
        self._add = QPushButton(
            "Add a colour", objectName="link", toolTip="One more colour, before the last."
        )
        self._add.clicked.connect(self._add_stop)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addLayout(self._list)
        column.addWidget(self._add, 0, Qt.AlignmentFlag.AlignLeft)

    def show_stops(self, stops: tuple[Stop, ...]) -> None:
        self._shown = stops
        self._add.setEnabled(len(stops) < _STOPS_MOST)
        while len(self._rows) > len(stops):
            gone = self._rows.pop()[2]
            self._page.forget(gone)
            gone.deleteLater()
        while len(self._rows) < len(stops):
            self._rows.append(self._new_row(len(self._rows)))
        for (button, _, _), stop in zip(self._rows, stops, strict=True):
            button.show_colour(stop.colour)

    def _new_row(self, number: int) -> tuple[ColourButton, NumberField, Rows]:
        where = lambda name: f"{self._address()}.stops.{number}.{name}"  # noqa: E731
        button = self._page.colour(
            ColourButton(f"Colour {number + 1}"), "Colour the gradient",
            lambda value: self._page.setting({where("colour"): value}),
        )  # fmt: skip
        field = self._page.channel(
            NumberField(f"Place of colour {number + 1}", "%", 1, 0, factor=100, low=0, high=100),
            "Move a colour",
            lambda: where("at"),
        )
        pip = self._page.pips.pip(f"Colour {number + 1}", lambda: [where("colour"), where("at")])
        remove = QPushButton("×", objectName="link", toolTip="Take this colour out; two stay.")
        remove.setAccessibleName(f"Remove colour {number + 1}")
        remove.setMaximumWidth(24)
        remove.clicked.connect(lambda: self._remove(number))
        rows = Rows()
        rows.add("", [button, field, remove], pip)
        self._list.addWidget(rows)
        return button, field, rows

    def _set(self, title: str, change: Callable[[tuple[Stop, ...]], tuple[Stop, ...]]) -> None:
        self._page._do(
            title, lambda p, i: self._edit(p, i, lambda paint: _with(paint, stops=change(_stops_of(paint))))
        )

    def _add_stop(self) -> None:
        before, last = self._shown[-2:]
        middle = Stop(at=(before.at + last.at) / 2, colour=before.colour)
        self._set("Add a colour", lambda stops: (*stops[:-1], middle, stops[-1]))

    def _remove(self, number: int) -> None:
        if len(self._shown) > 2:
            self._set("Remove a colour", lambda stops: (*stops[:number], *stops[number + 1 :]))


def _stops_of(paint: Any) -> tuple[Stop, ...]:
    return getattr(paint, "stops", ())
