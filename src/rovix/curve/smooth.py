"""Keys joined smoothly: cubic pieces whose slopes come from the neighbours."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
SMOOTH, LOOSE = "smooth", "smooth-loose"
"""Never beyond the keys' own values; or free to swing a little beyond them."""


def monotone_slopes(times: Floats, values: Floats) -> Floats:
    """(n, ...): slopes at keys of times (n,) with which each curve rises and falls only where they do.

    Fritsch and Butland, SIAM Journal on Scientific and Statistical Computing 5 (1984), with the
    three-point ends of Moler, Numerical Computing with MATLAB, section 3.6 (both as in SciPy's PCHIP).
    """
    step = np.diff(times).reshape(-1, *[1] * (values.ndim - 1))
    secant = np.diff(values, axis=0) / step
    if len(secant) < 2:
        return np.repeat(secant, 2, axis=0)
    before, after = 2 * step[1:] + step[:-1], step[1:] + 2 * step[:-1]
    turns = secant[:-1] * secant[1:] <= 0
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        mean = (before + after) / (before / secant[:-1] + after / secant[1:])
    inner = np.where(turns, 0.0, mean)
    first = _end_slope(step[0], step[1], secant[0], secant[1])
    last = _end_slope(step[-1], step[-2], secant[-1], secant[-2])
    return np.concatenate([first[None], inner, last[None]])


def _end_slope(near: Floats, next_: Floats, secant: Floats, further: Floats) -> Floats:
    slope = ((2 * near + next_) * secant - near * further) / (near + next_)
    turns = np.sign(secant) != np.sign(further)
    slope = np.where(turns & (np.abs(slope) > 3 * np.abs(secant)), 3 * secant, slope)
    return np.where(np.sign(slope) != np.sign(secant), 0.0, slope)


def loose_slopes(times: Floats, values: Floats) -> Floats:
    """(n, ...): at each key the slope from the key before to the key after; at the ends that of the piece."""
    times = times.reshape(-1, *[1] * (values.ndim - 1))
    secant = np.diff(values, axis=0) / np.diff(times, axis=0)
    inner = (values[2:] - values[:-2]) / (times[2:] - times[:-2])
    return np.concatenate([secant[:1], inner, secant[-1:]])


def hermite(share: Floats, low: Floats, high: Floats, rise: Floats, fall: Floats) -> Floats:
    """Between two values with slopes per whole piece at its ends; `share` runs from 0 to 1.

    Exactly the values at 0 and at 1.
    """
    back, way = 1.0 - share, high - low
    return low + way * share + share * back * (back * (rise - way) - share * (fall - way))
