"""Px cut off each side."""

from __future__ import annotations

from typing import TYPE_CHECKING

from rovix.model.channel import keyed
from rovix.model.effects.effect import Effect
from rovix.model.effects.rows import Facts, Numbers

if TYPE_CHECKING:
    Inset = float
else:
    Inset = keyed(0, 100_000)


class Crop(Effect, frozen=True, kw_only=True, tag="crop"):
    """So many px cut off each side of what the layer shows; 0 cuts nothing."""

    facts = Facts(
        "Crop",
        10,
        (
            Numbers(("left", "right"), "Left, right", ("from the left", "from the right"), "px"),
            Numbers(("top", "bottom"), "Top, bottom", ("from the top", "from the bottom"), "px"),
        ),
        {"left": 20.0, "right": 20.0},
    )

    left: Inset = 0.0
    top: Inset = 0.0
    right: Inset = 0.0
    bottom: Inset = 0.0
