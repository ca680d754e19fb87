"""A solid shadow to the frame's edge."""

from __future__ import annotations

from rovix.model.channel import KeyedColour, Number, Share
from rovix.model.effects.effect import Effect
from rovix.model.effects.rows import COLOURED, Facts, degrees


class LongShadow(Effect, frozen=True, kw_only=True, tag="long-shadow"):
    """A solid shadow of what the layer shows, to the frame's edge."""

    facts = Facts(
        "Long shadow", 90, (degrees("angle"), *COLOURED), summary=lambda shadow: f"{shadow.angle:.4g}°"
    )

    angle: Number = 45.0
    colour: KeyedColour = "#16222a"
    opacity: Share = 1.0

    @property
    def is_neutral(self) -> bool:
        return self.opacity <= 0
