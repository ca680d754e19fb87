"""An uncovering edge."""

from __future__ import annotations

from typing import Annotated, Literal

import msgspec

from rovix.model.channel import Number, Share, Sigma
from rovix.model.effects.effect import Effect, Pin
from rovix.model.effects.rows import (
    FEATHER,
    PINNED,
    Facts,
    Menu,
    OtherLayer,
    Switch,
    Whole,
    degrees,
    percent,
)
from rovix.model.node import Node
from rovix.model.reference import refers

Way = Literal["straight", "round", "middle", "blinds", "pieces"]
WAYS = {
    "straight": "Straight", "round": "Round", "middle": "From the middle", "blinds": "Blinds",
    "pieces": "Letter by letter",
}  # fmt: skip
Strips = Annotated[int, msgspec.Meta(ge=1, le=200)]


class Follow(Node, frozen=True, kw_only=True):
    """A layer whose `at` a wipe's edge stays on: its middle, the farthest of a side, or an edge itself.

    Through the first two the wipe's line goes at its own angle; an edge's line is the edge's own, turned,
    scaled and in perspective as the layer is, and the angle says which side of it is shown.
    """

    layer: Annotated[str, refers("layer", "follow")]
    at: Literal[
        "middle", "left", "right", "top", "bottom", "left-edge", "right-edge", "top-edge", "bottom-edge"
    ] = "middle"


class Wipe(Effect, frozen=True, kw_only=True, tag="wipe"):
    """Shows a `share` of the layer, 1 all of it.

    `straight` goes at an angle; `round` clockwise about the middle from there; `middle` out from the
    middle line across the angle; `blinds` at an angle in `count` strips; `pieces` one letter after
    the other. `hides` turns round what is shown. Where it `follows` a layer the edge goes through
    that, and the share counts for nothing.
    """

    facts = Facts(
        "Wipe",
        40,
        (
            Menu("way", "Way", WAYS, "How the layer is uncovered."),
            percent("share", "Share", "share shown"),
            degrees("angle"),
            FEATHER,
            Whole("count", "Strips", when=lambda wipe: wipe.way == "blinds"),
            OtherLayer(
                "follows",
                "Edge follows",
                {
                    "middle": "its middle", "left": "its left", "right": "its right", "top": "its top",
                    "bottom": "its bottom", "left-edge": "its left edge itself",
                    "right-edge": "its right edge itself", "top-edge": "its top edge itself",
                    "bottom-edge": "its bottom edge itself",
                },
                "The layer that the edge stays on, through all that it does.",
                "Where on that layer the edge lies. An edge itself turns, grows and tips as the layer does.",
                Follow,
            ),
            PINNED,
            Switch("hides", "Hides instead", "Covers what it would uncover."),
        ),
        {"share": 0.5},
        lambda wipe: "edge follows" if wipe.follows else f"{wipe.share * 100:.0f} %",
    )  # fmt: skip

    way: Way = "straight"
    share: Share = 1.0
    angle: Number = 0.0
    feather: Sigma = 0.0
    count: Strips = 6
    hides: bool = False
    pin: Pin = "words"
    follows: Follow | None = None
