"""Copies of a layer as it was a little earlier."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

import msgspec

from rovix.model.blend import BLEND_MODES, BlendMode
from rovix.model.channel import Number, Share, keyed
from rovix.model.effects.effect import Effect
from rovix.model.effects.rows import Choice, Facts, Menu, Numbers, Switch, Whole, degrees, percent

if TYPE_CHECKING:
    Gap = float
else:
    Gap = keyed(0, 10_000)

_UNITS = {"frames": "f", "seconds": "s", "px": "px"}


class EchoTrail(Effect, frozen=True, kw_only=True, tag="echo-trail"):
    """Copies of the layer as it was a little earlier, each with a share `strength` of that of the one
    before and `hue` degrees further. The gap is frames, seconds, or px along the layer's way."""

    facts = Facts(
        "Echo trail",
        120,
        (
            Whole("copies", "Copies"),
            Numbers(("gap",), "Gap", ("gap",), lambda echo: _UNITS[echo.unit], step=0.1, decimals=3),
            Choice("unit", "Gap in", {"frames": "Frames", "seconds": "Seconds", "px": "px"}),
            percent("strength", "Strength", "strength kept per copy"),
            degrees("hue", "Hue", "hue shift per copy"),
            Menu(
                "blend",
                "Blend",
                {mode: mode.replace("-", " ").capitalize() for mode in BLEND_MODES},
                "How copies are laid over each other.",
            ),
            Switch("front", "In front", "Copies lie over the layer instead of behind it."),
        ),
        summary=lambda echo: f"{echo.copies} × {echo.strength * 100:.0f} %",
    )

    copies: Annotated[int, msgspec.Meta(ge=0, le=60)] = 4
    gap: Gap = 2.0
    unit: Literal["frames", "seconds", "px"] = "frames"
    strength: Share = 0.6
    blend: BlendMode = "normal"
    front: bool = False
    hue: Number = 0.0
