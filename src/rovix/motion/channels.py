"""How departures of several moves combine, channel by channel."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rovix.model.move_channels import MOVE_CHANNELS, How

Floats = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class ChannelRule:
    """How departures from the neutral value combine; values stay in bounds. As the channel's row says."""

    how: How
    low: float
    high: float
    stepped: bool
    neutral: float

    def combine(self, base: Floats, departure: Floats) -> Floats:
        return self.kept(_COMBINED[self.how](base, departure))

    def kept(self, values: Floats) -> Floats:
        """Values within the bounds."""
        return values if np.isinf(self.low) and np.isinf(self.high) else np.clip(values, self.low, self.high)


_COMBINED: dict[How, Callable[[Floats, Floats], Floats]] = {
    "add": np.add,
    "multiply": np.multiply,
    "variance": np.hypot,
    "smaller": np.minimum,
    "larger": np.maximum,
    "over": lambda base, departure: 1.0 - (1.0 - base) * (1.0 - departure),
    "last": lambda base, departure: np.where(departure != 0, departure, base),
}
SIDES = ("open_left", "open_top", "open_right", "open_bottom")

CHANNELS: dict[str, ChannelRule] = {
    name: ChannelRule(row.how, row.low, row.high, row.stepped, row.neutral)
    for name, row in MOVE_CHANNELS.items()
    if not row.acts_on
}
"""Those that have values of their own."""


def moved(channel: str) -> tuple[str, ...]:
    """The channels that a move's channel acts on: `scale` is both scales, `blur` both blurs."""
    return MOVE_CHANNELS[channel].acts_on or (channel,)
