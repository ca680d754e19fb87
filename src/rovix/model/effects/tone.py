"""Saturation, levels and tint."""

from __future__ import annotations

from typing import TYPE_CHECKING

from rovix.model.channel import KeyedColour, Share, keyed
from rovix.model.effects.effect import Effect, Strength
from rovix.model.effects.rows import Colour, Facts, Numbers, percent

if TYPE_CHECKING:
    Gamma = float
else:
    Gamma = keyed(0.05, 20)


class Tone(Effect, frozen=True, kw_only=True, tag="tone"):
    """Saturation, 1 as it is; levels: what becomes black and white, and the middle's gamma; a tint
    that takes the place of the colours by a share, light and dark staying."""

    facts = Facts(
        "Tone",
        50,
        (
            percent("saturation", "Saturation"),
            Numbers(("black", "white"), "Black, white", ("black from", "white from"), "%"),
            Numbers(("gamma",), "Gamma", ("gamma",), step=0.02, decimals=2),
            percent("tint", "Tint"),
            Colour(),
        ),
        {"saturation": 0.0},
    )

    saturation: Strength = 1.0
    black: Share = 0.0
    white: Share = 1.0
    gamma: Gamma = 1.0
    tint: Share = 0.0
    colour: KeyedColour = "#f2b13c"

    @property
    def is_neutral(self) -> bool:
        levels = (self.black, self.white, self.gamma)
        return self.saturation == 1 and levels == (0, 1, 1) and self.tint == 0
