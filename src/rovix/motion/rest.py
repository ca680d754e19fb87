"""Rest: what a layer's channels are before any move."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from rovix.curve import Track
from rovix.model import Channel, Keys, Place
from rovix.model.identity import IdentityCache
from rovix.motion.channels import CHANNELS

Floats = NDArray[np.float64]
PLACED = (
    "x", "y", "depth", "scale_x", "scale_y", "turn", "slant", "tip", "swing", "opacity",
    "blur_across", "blur_down",
)  # fmt: skip

_tracks: IdentityCache[Track] = IdentityCache()


def track_of(keys: Keys) -> Track:
    """The track of a channel's keys, over frames of the clip."""
    return _tracks.get(keys, lambda: Track((key.frame, key.value, key.curve) for key in keys.keys))


def channel_at(channel: Channel, frames: Floats) -> Floats:
    """A channel's rest values at real frame numbers of the clip."""
    if isinstance(channel, Keys):
        return track_of(channel)(frames)
    return np.full(frames.shape, float(channel))


def rest_at(place: Place, frames: Floats) -> dict[str, Floats]:
    """Rest values of every placed channel, (t,) each; opacity stays in 0..1, a blur is not below 0."""
    values = {name: channel_at(getattr(place, name), frames) for name in PLACED}
    for name in ("opacity", "blur_across", "blur_down"):
        rule = CHANNELS[name]
        values[name] = np.clip(values[name], rule.low, rule.high)
    return values
