"""A path that a layer's position runs along."""

from __future__ import annotations

from typing import Annotated

import msgspec

from rovix.model.limits import Curve, Far, Frame
from rovix.model.node import Id, Node, new_id

Way = tuple[Far, Far]
"""px across and down, from the key's own point."""


class PathKey(Node, frozen=True, kw_only=True):
    """A point of a path, reached at a whole frame of the clip.

    `curve` is the easing of the way on, along the path's length. Between two points it is straight,
    or a Bezier curve with the tangents `after` and `before`; `joined` ones keep one line.
    """

    frame: Frame
    x: Far
    y: Far
    curve: Curve = "linear"
    before: Way | None = None
    after: Way | None = None
    joined: bool = True


class MotionPath(Node, frozen=True, kw_only=True):
    """Points in order of their frames; the layer's x and y are added to where it runs.

    `along` turns the layer with the path, its turn added.
    """

    id: Id = msgspec.field(default_factory=new_id)
    keys: Annotated[tuple[PathKey, ...], msgspec.Meta(min_length=1)]
    along: bool = False
