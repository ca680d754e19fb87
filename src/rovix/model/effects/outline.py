"""An outline round a layer."""

from __future__ import annotations

from typing import TYPE_CHECKING

from rovix.model.channel import KeyedColour, Share, keyed
from rovix.model.effects.effect import Effect, Sides
from rovix.model.effects.rows import COLOURED, Facts, Numbers

if TYPE_CHECKING:
    Width = float
else:
    Width = keyed(0, 500)


class Outline(Effect, frozen=True, kw_only=True, tag="outline"):
    """An outline round what the layer shows, from how opaque it is."""

    facts = Facts(
        "Outline",
        60,
        (Numbers(("width",), "Width", ("width",), "px", step=0.5), *COLOURED),
        summary=lambda outline: f"{outline.width:.3g} px",
    )

    width: Width = 6.0
    colour: KeyedColour = "#fff8ea"
    opacity: Share = 1.0

    @property
    def is_neutral(self) -> bool:
        return self.opacity <= 0 or self.width <= 0

    def beyond(self, sigmas: float) -> Sides:
        return self.width, self.width, self.width, self.width
