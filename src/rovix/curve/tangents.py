"""The way from key to key along tangents: Bezier curves of time and value that never run back."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from rovix.curve.bezier import parameter

Floats = NDArray[np.float64]
TANGENTS = "tangents"
"""The way from a key to the next along the handles of both."""
LEVEL = 1 / 3
"""How far a handle that is not given goes, as a share of the way to the other key; it is level."""


def handle_ends(length: Floats, handles: Floats) -> tuple[Floats, Floats]:
    """Ends of handles (n, 2) of (time, value), as (share of the way to the other key, value).

    NaN handles are level. One that is longer than the way is cut there, keeping its angle, so that
    time never runs back.
    """
    level = np.isnan(handles[:, 0])
    time = np.where(level, LEVEL * length, handles[:, 0])
    value = np.where(level, 0.0, handles[:, 1])
    cut = np.where(time > length, length / np.maximum(time, length), 1.0)
    return time * cut / length, value * cut


def along_tangents(
    share: Floats, low: Floats, high: Floats, leaving: tuple[Floats, Floats], coming: tuple[Floats, Floats]
) -> Floats:
    """Values at shares (n,) of the way between two keys.

    `leaving` and `coming` are the ends of the first key's handle and of the second's as
    :func:`handle_ends` gives them, each from its own key; (n,) each.
    """
    inside = np.clip(share, 0.0, 1.0)
    at = parameter(leaving[0], 1.0 - coming[0], inside)
    back = 1.0 - at
    first, second = low + leaving[1], high + coming[1]
    value = back**3 * low + 3 * back * at * (back * first + at * second) + at**3 * high
    # At its ends the curve has the keys' values exactly, whatever rounding does.
    return np.where(inside <= 0, low, np.where(inside >= 1, high, value))
