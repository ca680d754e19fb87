"""Light around a layer."""

from __future__ import annotations

from rovix.model.channel import KeyedColour, Share, Sigma
from rovix.model.effects.effect import Effect, Sides, Strength
from rovix.model.effects.rows import COLOURED, Facts, percent, px


class Glow(Effect, frozen=True, kw_only=True, tag="glow"):
    """Light around what the layer shows, its sigma the `size`."""

    facts = Facts(
        "Glow",
        70,
        (px("size", "Size"), percent("strength", "Strength"), *COLOURED),
        summary=lambda glow: f"{glow.size:.3g} px",
    )

    size: Sigma = 24.0
    strength: Strength = 1.5
    colour: KeyedColour = "#ffd9a0"
    opacity: Share = 1.0

    @property
    def is_neutral(self) -> bool:
        return self.opacity <= 0 or self.strength <= 0

    def beyond(self, sigmas: float) -> Sides:
        far = sigmas * self.size
        return far, far, far, far
