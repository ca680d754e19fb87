"""How loud, from which side, and how faded: plain formulas over frames of a clip."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from rovix.curve import easing
from rovix.model import Channel, Keys, Sound
from rovix.motion.rest import channel_at

Floats = NDArray[np.float64]
_CONTROL = 48  # samples between two values of an animated channel: a thousandth of a second


def gain_factors(gain: Channel, frames: Floats) -> Floats:
    """(n,) or (1,): 10 to the power of dB / 20."""
    return 10.0 ** (_values(gain, frames) / 20.0)


def pan_factors(pan: Channel, frames: Floats) -> Floats:
    """(n, 2) or (1, 2): factors of left and right, of constant power, 1 for both in the middle.

    At -1 the right is silent and the left 3 dB up (common practice, no source).
    """
    angle = (np.clip(_values(pan, frames), -1.0, 1.0) + 1.0) * (np.pi / 4)
    return np.sqrt(2.0) * np.stack([np.cos(angle), np.sin(angle)], axis=1)


def fade_level(sound: Sound, frames: Floats, length: int) -> Floats:
    """(n,): 0 to 1, what both fades leave at frames of a clip of that length."""
    level = np.ones(len(frames))
    if sound.fade_in:
        level *= _eased(sound.fade_in_curve, frames / sound.fade_in)
    if sound.fade_out:
        level *= _eased(sound.fade_out_curve, (length - frames) / sound.fade_out)
    return level


def _eased(curve: str, share: Floats) -> Floats:
    return np.clip(easing(curve)(np.clip(share, 0.0, 1.0)), 0.0, 1.0)


def _values(channel: Channel, frames: Floats) -> Floats:
    if not isinstance(channel, Keys):
        return np.array([float(channel)])
    coarse = np.append(frames[::_CONTROL], frames[-1:])
    return np.interp(frames, coarse, channel_at(channel, coarse))
