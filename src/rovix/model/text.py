"""The words of a text layer and how they are set."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

import msgspec

from rovix.model.channel import keyed
from rovix.model.colour import Colour
from rovix.model.limits import MOST_LETTERS, Far, Name
from rovix.model.node import Node

Align = Literal["left", "centre", "right", "justify", "columns"]
Case = Literal["as-typed", "upper", "lower", "title"]
Weight = Annotated[int, msgspec.Meta(ge=1, le=1000)]
Tag = Annotated[str, msgspec.Meta(pattern="^[\\x20-\\x7e]{4}$")]
if TYPE_CHECKING:
    Tracking = float
    Leading = float
else:
    Tracking = keyed(-5, 50)
    Leading = keyed(0, 20)
ColumnGap = Annotated[float, msgspec.Meta(ge=0, le=100)]
At = Annotated[int, msgspec.Meta(ge=0, le=100_000)]


class Axis(Node, frozen=True, kw_only=True):
    """Where a variable face stands on one of its axes beside the weight, by its four letter tag."""

    tag: Tag
    value: Far


class Feature(Node, frozen=True, kw_only=True):
    """An OpenType feature by its four letter tag: 0 off, 1 on, higher a choice among alternates."""

    tag: Tag
    value: Annotated[int, msgspec.Meta(ge=0, le=1000)] = 1


class OwnStyle(Node, frozen=True, kw_only=True):
    """Characters `start` to `end` (not included) set otherwise than the layer; None: as the layer.

    `size` is a share of the layer's.
    """

    start: At
    end: At
    family: Name | None = None
    weight: Weight | None = None
    italic: bool | None = None
    size: Annotated[float, msgspec.Meta(gt=0, le=100)] | None = None
    colour: Colour | None = None


class Text(Node, frozen=True, kw_only=True):
    """Text and type.

    `size` is px of the em; `tracking` is em added between letters; `leading` is the distance of
    baselines as a share of the size, `paragraph` what a line feed adds to it. Lines part at line
    feeds and, with a `wrap` in px, where they would grow wider; `balance` then makes them about as
    long as each other. Aligned as `columns`, what stands before a line's first tab ends left of the middle
    and what stands behind it begins right of it, `column_gap` em apart; lines without a tab are centred.
    Words that run from right to left have it the other way about. `styles` stand in order and do not
    overlap. Where the tracking has keys, lines part as at frame 0 throughout.
    """

    content: Annotated[str, msgspec.Meta(max_length=MOST_LETTERS)] = ""
    family: Name = "Outfit"
    weight: Weight = 700
    italic: bool = False
    axes: tuple[Axis, ...] = ()
    size: Annotated[float, msgspec.Meta(gt=0, le=20_000)] = 120.0
    align: Align = "centre"
    column_gap: ColumnGap = 0.8
    tracking: Tracking = 0.0
    leading: Leading = 1.2
    paragraph: Leading = 0.0
    wrap: Annotated[float, msgspec.Meta(gt=0, le=100_000)] | None = None
    balance: bool = False
    case: Case = "as-typed"
    features: tuple[Feature, ...] = ()
    fixed_figures: bool = False
    styles: tuple[OwnStyle, ...] = ()
