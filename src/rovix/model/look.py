"""How words are coloured."""

from __future__ import annotations

from typing import Annotated, Literal

import msgspec

from rovix.model.colour import Colour
from rovix.model.node import Id, Node, new_id

Share = Annotated[float, msgspec.Meta(ge=0, le=1)]


class Outline(Node, frozen=True, kw_only=True):
    """A line along the letters' edges; `width` in px of the sequence."""

    id: Id = msgspec.field(default_factory=new_id)
    width: Annotated[float, msgspec.Meta(gt=0, le=2000)] = 6.0
    colour: Colour = "#1c2a33"
    opacity: Share = 1.0
    side: Literal["outside", "centre", "inside"] = "outside"
    join: Literal["round", "miter", "bevel"] = "round"


class Look(Node, frozen=True, kw_only=True):
    """Fill and outlines; the first outline lies nearest to the letters, the others behind it."""

    fill: Colour = "#fff8ea"
    fill_opacity: Share = 1.0
    outlines: tuple[Outline, ...] = ()
