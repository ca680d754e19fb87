"""What is dark, or bright, is made clear."""

from __future__ import annotations

from typing import TYPE_CHECKING

from rovix.model.channel import Share, keyed
from rovix.model.effects.effect import Effect
from rovix.model.effects.rows import Facts, Switch, percent

if TYPE_CHECKING:
    Softness = float
else:
    Softness = keyed(0.001, 1)


class LightKey(Effect, frozen=True, kw_only=True, tag="light-key"):
    """Clear up to a `threshold` of BT.709's luma, from there over `softness` it comes; or the other way
    round, so that the `bright` is clear."""

    facts = Facts(
        "Light key",
        5,
        (
            percent("threshold", "Threshold"),
            percent("softness", "Softness"),
            Switch("bright", "Clears the bright", "Clears what is brighter instead of what is darker."),
        ),
        {},
        lambda key: f"{key.threshold * 100:.0f} %" if isinstance(key.threshold, float) else "",
    )

    threshold: Share = 0.08
    softness: Softness = 0.2
    bright: bool = False
