"""A form that a layer shows inside, or outside, of; several of them combined."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal

from rovix.model.channel import Number, Share, Sigma, keyed
from rovix.model.effects.effect import Effect, Pin
from rovix.model.effects.rows import (
    FEATHER,
    PINNED,
    Choice,
    Facts,
    Menu,
    Numbers,
    Switch,
    degrees,
    percent,
    px,
)

if TYPE_CHECKING:
    Long = float
    Grown = float
    Radius = float
else:
    Long = keyed(0, 100_000)
    Grown = keyed(-10_000, 10_000)
    Radius = keyed(0, 10_000)

Joins = Literal["add", "subtract", "intersect", "exclude"]
JOINS = {
    "add": "Adds to those above", "subtract": "Takes from those above",
    "intersect": "Only where both are", "exclude": "Only where one is",
}  # fmt: skip


class Mask(Effect, frozen=True, kw_only=True, tag="mask"):
    """A `form` of `width` by `height` px about a point, px from the middle of the layer's block, or of the
    frame where it is pinned there; turned by an `angle`.

    Its edge is soft by `feather` both ways, and lies `grown` px farther out. It counts by a `strength`; with
    `hides` what is outside of it shows. Masks that follow each other are one: each `joins` those before it as
    CSS Masking Level 1 composites masks (mask-composite); the first stands for itself, or is taken from all.
    """

    facts = Facts(
        "Mask",
        6,
        (
            Choice("form", "Form", {"box": "Box", "ellipse": "Ellipse"}),
            Menu("joins", "Joins", JOINS, "How it goes together with the masks just above."),
            PINNED,
            Numbers(("x", "y"), "Place", ("place across", "place down"), "px"),
            Numbers(("width", "height"), "Size", ("width", "height"), "px"),
            degrees("angle"),
            px("radius", "Corners", "corner radius"),
            FEATHER,
            px("grown", "Grown"),
            percent("strength", "Strength"),
            Switch("hides", "Shows outside", "What is outside of it shows, instead of what is inside."),
        ),
        {},
        lambda mask: {"box": "box", "ellipse": "ellipse"}[mask.form],
    )

    form: Literal["box", "ellipse"] = "ellipse"
    joins: Joins = "add"
    pin: Pin = "words"
    x: Number = 0.0
    y: Number = 0.0
    width: Long = 400.0
    height: Long = 240.0
    angle: Number = 0.0
    radius: Radius = 0.0
    feather: Sigma = 0.0
    grown: Grown = 0.0
    strength: Share = 1.0
    hides: bool = False
