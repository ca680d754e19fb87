"""Drawn shapes: what form they have, and the layer they fit."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

from rovix.model.channel import keyed
from rovix.model.node import Node
from rovix.model.reference import refers

FittedId = Annotated[str, refers("layer", "fit", places=True)]
FitSide = Literal["all", "under", "over", "left", "right"]
Form = Literal["box", "line", "ellipse"]
if TYPE_CHECKING:
    Extent = float
    Margin = float
    Radius = float
else:
    Extent = keyed(0, 100_000, above=True)
    Margin = keyed(-10_000, 100_000)
    Radius = keyed(0, 50_000)


class Fits(Node, frozen=True, kw_only=True):
    """A shape as large as the ink of another layer at rest, with a margin in px, and resting there.

    Along one `side` it is as long as that and as thick as the shape is high, the margin away from it. The
    shape's own place and moves then depart from where that layer rests.
    """

    layer: FittedId
    margin_x: Margin = 40.0
    margin_y: Margin = 24.0
    side: FitSide = "all"
