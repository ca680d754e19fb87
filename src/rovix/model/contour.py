"""A closed line of straight and curved pieces, by its points; and over time, keyed as a whole."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated

import msgspec

from rovix.model.limits import Curve, Far, Frame
from rovix.model.node import Id, Node, new_id

Point = tuple[Far, Far, Far, Far, Far, Far]
"""px across and down; then the ways, px from the point, to the handles before and after it. A way of nothing
is none: the line is straight there, or has a corner."""
Points = Annotated[tuple[Point, ...], msgspec.Meta(min_length=2, max_length=1000)]


class ContourKey(Node, frozen=True, kw_only=True):
    """All points at a whole frame of the clip; `curve` is the easing of their ways to the next key."""

    frame: Frame
    value: Points
    curve: Curve = "smooth"


class ContourKeys(Node, frozen=True, kw_only=True):
    """Keys of a contour, frames rising, all of as many points, each of which goes to its like."""

    id: Id = msgspec.field(default_factory=new_id)
    keys: Annotated[tuple[ContourKey, ...], msgspec.Meta(min_length=1)]


if TYPE_CHECKING:
    Contour = tuple[tuple[float, float, float, float, float, float], ...]
else:
    Contour = Points | ContourKeys


def box_contour(width: float, height: float) -> Contour:
    """The four corners of a box around (0, 0), clockwise from the left top one."""
    across, down = width / 2, height / 2
    corners = ((-across, -down), (across, -down), (across, down), (-across, down))
    return tuple((x, y, 0.0, 0.0, 0.0, 0.0) for x, y in corners)
