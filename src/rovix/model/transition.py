"""How one clip gives way to the next on its track."""

from __future__ import annotations

from typing import Annotated, Literal

import msgspec

from rovix.model.colour import Colour
from rovix.model.limits import Curve, Far
from rovix.model.node import Id, Node, new_id

TransitionKind = Literal["dissolve", "slide", "wipe", "dip"]


class Transition(Node, frozen=True, kw_only=True):
    """Over `length` seconds, centred on the cut, the clip before gives way to this one.

    It works while the two touch. `curve` is an easing over the join. `angle`, in degrees clockwise
    from rightwards, is where the incoming picture of a slide comes from, and the edge of a wipe;
    `feather` is the width of that edge in px; `colour` is what a dip passes through.
    """

    id: Id = msgspec.field(default_factory=new_id)
    kind: TransitionKind = "dissolve"
    length: Annotated[float, msgspec.Meta(gt=0, le=3600)] = 0.5
    curve: Curve = "linear"
    angle: Far = 0.0
    feather: Annotated[float, msgspec.Meta(ge=0, le=10_000)] = 0.0
    colour: Colour = "#000000"
