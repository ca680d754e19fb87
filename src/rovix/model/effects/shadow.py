"""A soft shadow of a layer."""

from __future__ import annotations

from rovix.model.channel import KeyedColour, Offset, Share, Sigma
from rovix.model.effects.effect import Effect, Sides
from rovix.model.effects.rows import COLOURED, Facts, Numbers, px


class Shadow(Effect, frozen=True, kw_only=True, tag="shadow"):
    """A soft shadow of what the layer shows, moved and blurred."""

    facts = Facts(
        "Shadow",
        80,
        (Numbers(("x", "y"), "X, Y", ("offset X", "offset Y"), "px"), px("blur", "Blur"), *COLOURED),
    )

    x: Offset = 6.0
    y: Offset = 8.0
    blur: Sigma = 6.0
    colour: KeyedColour = "#0b1014"
    opacity: Share = 0.7

    @property
    def is_neutral(self) -> bool:
        return self.opacity <= 0

    def beyond(self, sigmas: float) -> Sides:
        soft = sigmas * self.blur
        sides = soft - self.x, soft - self.y, soft + self.x, soft + self.y
        return max(0.0, sides[0]), max(0.0, sides[1]), max(0.0, sides[2]), max(0.0, sides[3])
