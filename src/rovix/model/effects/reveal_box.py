"""Straight edges that a layer shows through."""

from __future__ import annotations

from typing import TYPE_CHECKING

from rovix.model.channel import Sigma, keyed
from rovix.model.effects.effect import Effect, Pin
from rovix.model.effects.rows import FEATHER, PINNED, Edge, Facts, px

if TYPE_CHECKING:
    Side = float | None
    Radius = float
else:
    Side = keyed(-100_000, 100_000) | None
    Radius = keyed(0, 10_000)


class RevealBox(Effect, frozen=True, kw_only=True, tag="reveal-box"):
    """Straight edges that the layer shows through, each so far in from that side of its block, or of
    the frame where it is pinned there; below 0 it lies outside. None is no edge on that side."""

    facts = Facts(
        "Reveal box",
        30,
        (
            PINNED,
            *(Edge(side) for side in ("left", "top", "right", "bottom")),
            FEATHER,
            px("radius", "Corners", "corner radius"),
        ),
        {"bottom": 0.0},
        lambda box: "to the frame" if box.pin == "frame" else "to the layer",
    )

    pin: Pin = "words"
    left: Side = None
    top: Side = None
    right: Side = None
    bottom: Side = None
    feather: Sigma = 0.0
    radius: Radius = 0.0
