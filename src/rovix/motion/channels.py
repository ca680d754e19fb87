"""What each channel is: its neutral value, and how departures combine."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]


How = Literal["add", "multiply", "variance", "smaller", "larger", "over", "last"]


@dataclass(frozen=True, slots=True)
class ChannelRule:
    """How departures from the neutral value combine; values stay in bounds.

    `add`: from 0. `multiply`: factors around 1. `variance`: blurs, of which the squares add up.
    `smaller` from 1 and `larger` from 0: the one that goes farthest. `over`: shares, each of what the
    one before left. `last`: the last that is not neutral. A `stepped` channel holds through a frame.
    """

    how: How = "add"
    low: float = -np.inf
    high: float = np.inf
    stepped: bool = False

    @property
    def neutral(self) -> float:
        return 1.0 if self.how in ("multiply", "smaller") else 0.0

    def combine(self, base: Floats, departure: Floats) -> Floats:
        return self.kept(_COMBINED[self.how](base, departure))

    def kept(self, values: Floats) -> Floats:
        """Values within the bounds."""
        return values if np.isinf(self.low) and np.isinf(self.high) else np.clip(values, self.low, self.high)


_COMBINED: dict[str, Callable[[Floats, Floats], Floats]] = {
    "add": np.add,
    "multiply": np.multiply,
    "variance": np.hypot,
    "smaller": np.minimum,
    "larger": np.maximum,
    "over": lambda base, departure: 1.0 - (1.0 - base) * (1.0 - departure),
    "last": lambda base, departure: np.where(departure != 0, departure, base),
}
_SHARE = ChannelRule("multiply", low=0.0, high=1.0)
_SCALE = ChannelRule("multiply", low=0.0)
# As much as a layer at rest may be blurred.
_BLUR = ChannelRule("variance", low=0.0, high=1000.0)
SIDES = ("open_left", "open_top", "open_right", "open_bottom")
_OPACITIES = ("opacity", "fill_opacity", "outline_opacity", "shadow_opacity", "glow_opacity")
_ADDED = ("x", "y", "depth", "turn", "slant", "tip", "swing", "offset_x", "offset_y", "tracking", *SIDES)

CHANNELS: dict[str, ChannelRule] = {
    **{name: ChannelRule() for name in _ADDED},
    "scale_x": _SCALE,
    "scale_y": _SCALE,
    **dict.fromkeys(_OPACITIES, _SHARE),
    "blur_across": _BLUR,
    "blur_down": _BLUR,
    "colour": ChannelRule("over", low=0.0, high=1.0),
    "wipe": ChannelRule("smaller", low=0.0, high=1.0),
    "typed": ChannelRule("smaller", low=0.0, high=1.0, stepped=True),
    "letters": ChannelRule("last", low=0.0, stepped=True),
    "figures": ChannelRule("last", stepped=True),
    "echo": ChannelRule("larger", low=0.0, high=1.0),
}


def moved(channel: str) -> tuple[str, ...]:
    """The channels that a move's channel acts on: `scale` is both scales, `blur` both blurs."""
    return {"scale": ("scale_x", "scale_y"), "blur": ("blur_across", "blur_down")}.get(channel, (channel,))
