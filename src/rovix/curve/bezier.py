"""The CSS cubic Bezier easing, solved for whole arrays."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Numbers = float | Floats


def cubic_bezier(x1: float, y1: float, x2: float, y2: float) -> Callable[[Floats], Floats]:
    """Easing through (0, 0), (x1, y1), (x2, y2), (1, 1) with 0 <= x1, x2 <= 1.

    Source: CSS Easing Functions Level 1, section 2.2: outside 0..1 the curve goes on along the
    tangent of the nearer end, and is flat where that end has none.
    """
    low_slope = y1 / x1 if x1 > 0 else (y2 / x2 if x2 > 0 else 0.0)
    high_slope = (1 - y2) / (1 - x2) if x2 < 1 else ((1 - y1) / (1 - x1) if x1 < 1 else 0.0)

    def ease(progress: Floats) -> Floats:
        inside = np.clip(progress, 0.0, 1.0)
        value = coordinate(y1, y2, parameter(x1, x2, inside))
        value = np.where(progress < 0, progress * low_slope, value)
        return np.where(progress >= 1, 1 + (progress - 1) * high_slope, value)

    return ease


def coordinate(p1: Numbers, p2: Numbers, t: Floats) -> Floats:
    """One coordinate of the curve 0, p1, p2, 1 at parameters."""
    return ((1 + 3 * (p1 - p2)) * t + 3 * (p2 - 2 * p1)) * t * t + 3 * p1 * t


def _slope(p1: Numbers, p2: Numbers, t: Floats) -> Floats:
    return 3 * (1 + 3 * (p1 - p2)) * t * t + 6 * (p2 - 2 * p1) * t + 3 * p1


def parameter(x1: Numbers, x2: Numbers, x: Floats) -> Floats:
    """The t in 0..1 whose x coordinate is `x`: Newton's steps, kept inside a shrinking bracket.

    x(t) rises throughout 0..1, so the bracket always holds the root; bisection takes over where
    the slope vanishes. `x1` and `x2` may be arrays of the shape of `x`: a curve each.
    """
    t = x.copy()
    low, high = np.zeros_like(t), np.ones_like(t)
    for _ in range(64):
        error = coordinate(x1, x2, t) - x
        if np.all(np.abs(error) < 1e-15):
            break
        low, high = np.where(error < 0, t, low), np.where(error > 0, t, high)
        with np.errstate(divide="ignore", invalid="ignore"):
            step = t - error / _slope(x1, x2, t)
        usable = (step > low) & (step < high)
        t = np.where(error == 0, t, np.where(usable, step, (low + high) / 2))
    return t
