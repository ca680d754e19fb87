"""Drawn shapes: what form they have, and the layer they hug."""

from __future__ import annotations

from typing import Annotated, Literal

import msgspec

from rovix.model.node import Id, Node

Form = Literal["box", "line", "ellipse"]
Extent = Annotated[float, msgspec.Meta(gt=0, le=100_000)]


class Hug(Node, frozen=True, kw_only=True):
    """A shape as large as the ink of another layer at rest, with a margin in px, and resting there.

    The shape's own place and moves then depart from where that layer rests.
    """

    layer: Id
    margin_x: Annotated[float, msgspec.Meta(ge=-10_000, le=100_000)] = 40.0
    margin_y: Annotated[float, msgspec.Meta(ge=-10_000, le=100_000)] = 24.0
