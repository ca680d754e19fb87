"""What has a colour is made clear."""

from __future__ import annotations

from typing import TYPE_CHECKING

from rovix.model.channel import KeyedColour, Share, keyed
from rovix.model.effects.effect import Effect
from rovix.model.effects.rows import Colour, Facts, Switch, percent

if TYPE_CHECKING:
    Softness = float
else:
    Softness = keyed(0.001, 1)


class ColourKey(Effect, frozen=True, kw_only=True, tag="colour-key"):
    """Clear where the hue is that of a `colour`, whatever the light.

    Hues lie in the plane of BT.709's colour differences, where a pure colour is about a half from grey. Up to
    `tolerance` from the key a px is clear, from there over `softness` it comes. `spill` takes as much of the
    key's hue out of what stays.
    """

    facts = Facts(
        "Colour key",
        4,
        (
            Colour("Key"),
            percent("tolerance", "Tolerance"),
            percent("softness", "Softness"),
            percent("spill", "Spill", "spill taken out"),
            Switch("hides", "Keeps instead", "Keeps what has the colour, and clears all else."),
        ),
        {},
        lambda key: f"{key.tolerance * 100:.0f} %" if isinstance(key.tolerance, float) else "",
    )

    colour: KeyedColour = "#2fae4e"
    tolerance: Share = 0.16
    softness: Softness = 0.12
    spill: Share = 0.8
    hides: bool = False
