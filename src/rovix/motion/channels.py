"""What each channel is: its neutral value, and how departures combine."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class ChannelRule:
    """How departures from the neutral value combine; values stay in bounds.

    `multiply`: factors around 1. `variance`: blurs, of which the squares add up. Else they add up
    from 0.
    """

    multiply: bool = False
    variance: bool = False
    low: float = -np.inf
    high: float = np.inf

    @property
    def neutral(self) -> float:
        return 1.0 if self.multiply else 0.0

    def combine(self, base: Floats, departure: Floats) -> Floats:
        if self.variance:
            return np.hypot(base, np.clip(departure, self.low, self.high))
        value = base * departure if self.multiply else base + departure
        return value if np.isinf(self.low) and np.isinf(self.high) else np.clip(value, self.low, self.high)


_SHARE = ChannelRule(multiply=True, low=0.0, high=1.0)
_SCALE = ChannelRule(multiply=True, low=0.0)
_BLUR = ChannelRule(variance=True, low=0.0)

CHANNELS: dict[str, ChannelRule] = {
    **{name: ChannelRule() for name in ("x", "y", "depth", "turn", "slant", "tip", "swing")},
    "scale_x": _SCALE,
    "scale_y": _SCALE,
    "opacity": _SHARE,
    "fill_opacity": _SHARE,
    "outline_opacity": _SHARE,
    "blur_across": _BLUR,
    "blur_down": _BLUR,
}


def moved(channel: str) -> tuple[str, ...]:
    """The channels that a move's channel acts on: `scale` is both scales."""
    return ("scale_x", "scale_y") if channel == "scale" else (channel,)
