"""What fills a whole frame without a file."""

from __future__ import annotations

from typing import Annotated

import msgspec

from rovix.model.colour import Colour
from rovix.model.node import Node


class Plain(Node, frozen=True, kw_only=True, tag="plain", tag_field="fill"):
    """One colour."""

    colour: Colour = "#20303a"


class Paper(Node, frozen=True, kw_only=True, tag="paper", tag_field="fill"):
    """Fibrous paper grown from a seed: the same on every machine.

    `strength` is how far the grain departs from the colour, as a share of full scale.
    """

    colour: Colour = "#e9dfc8"
    strength: Annotated[float, msgspec.Meta(ge=0, le=1)] = 0.08
    seed: Annotated[int, msgspec.Meta(ge=0, le=2**53)] = 1


Ground = Plain | Paper
