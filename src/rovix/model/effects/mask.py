"""A form that a layer shows inside, or outside, of; several of them combined."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

from rovix.model.channel import Number, Share, Sigma, keyed
from rovix.model.contour import Contour, box_contour
from rovix.model.effects.effect import Effect, Pin
from rovix.model.effects.rows import (
    FEATHER,
    PINNED,
    Choice,
    Drawn,
    Facts,
    Menu,
    Numbers,
    OtherLayer,
    Switch,
    degrees,
    percent,
    px,
)
from rovix.model.node import Node
from rovix.model.reference import refers

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


FORMS = {"box": "Box", "ellipse": "Ellipse", "drawn": "Drawn"}
SOFT = {"both": "Both ways", "in": "Inwards", "out": "Outwards"}


class Pinned(Node, frozen=True, kw_only=True):
    """A layer that a mask stays on: `whole` through all that it does, `place` where its middle goes alone."""

    layer: Annotated[str, refers("layer", "follow")]
    at: Literal["whole", "place"] = "whole"


def _is_drawn(mask: Mask) -> bool:
    return mask.form == "drawn"


def _is_made(mask: Mask) -> bool:
    return mask.form != "drawn"


class Mask(Effect, frozen=True, kw_only=True, tag="mask"):
    """A `form` of `width` by `height` px about a point, px from the middle of the layer's block, or of the
    frame where it is pinned there, or of a layer that it stays `on`; turned by an `angle`. A `drawn` one has
    its own `contour` about that point.

    Its edge is soft by `feather`, both ways, or inwards or outwards alone, and lies `grown` px farther out.
    It counts by a `strength`; with `hides` what is outside of it shows. Masks that follow each other are one:
    each `joins` those before it as CSS Masking Level 1 composites masks (mask-composite); the first stands
    for itself, or is taken from all.
    """

    facts = Facts(
        "Mask",
        6,
        (
            Choice("form", "Form", FORMS),
            Drawn("contour", "Line", "line", _is_drawn),
            Menu("joins", "Joins", JOINS, "How it goes together with the masks just above."),
            PINNED,
            OtherLayer(
                "on",
                "Stays on",
                {"whole": "all that it does", "place": "its place alone"},
                "A layer that the mask stays on, instead of this layer or the frame.",
                "What of that layer counts.",
                Pinned,
                "By",
            ),
            Numbers(("x", "y"), "Place", ("place across", "place down"), "px"),
            Numbers(("width", "height"), "Size", ("width", "height"), "px", when=_is_made),
            degrees("angle"),
            Numbers(("radius",), "Corners", ("corner radius",), "px", when=lambda mask: mask.form == "box"),
            FEATHER,
            Menu("soft", "Softens", SOFT, "On which side of its line the edge is soft."),
            px("grown", "Grown"),
            percent("strength", "Strength"),
            Switch("hides", "Shows outside", "What is outside of it shows, instead of what is inside."),
        ),
        {},
        lambda mask: FORMS[mask.form].lower(),
    )

    form: Literal["box", "ellipse", "drawn"] = "ellipse"
    contour: Contour = box_contour(400.0, 240.0)
    joins: Joins = "add"
    pin: Pin = "words"
    on: Pinned | None = None
    x: Number = 0.0
    y: Number = 0.0
    width: Long = 400.0
    height: Long = 240.0
    angle: Number = 0.0
    radius: Radius = 0.0
    feather: Sigma = 0.0
    soft: Literal["both", "in", "out"] = "both"
    grown: Grown = 0.0
    strength: Share = 1.0
    hides: bool = False
