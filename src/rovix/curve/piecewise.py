"""CSS `steps()` and `linear()`."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]


def steps(count: int, position: str) -> Callable[[Floats], Floats]:
    """CSS Easing Functions Level 1, section 2.3; further steps follow outside 0..1.

    `position` is jump-start, jump-end, jump-none or jump-both.
    """
    rise = position in ("jump-start", "jump-both")
    jumps = count + {"jump-both": 1, "jump-none": -1}.get(position, 0)

    def ease(progress: Floats) -> Floats:
        step = np.floor(progress * count) + rise
        step = np.where((progress >= 0) & (step < 0), 0, step)
        step = np.where((progress <= 1) & (step > jumps), jumps, step)
        return step / jumps

    return ease


def linear_points(stops: list[tuple[float, float | None]]) -> Callable[[Floats], Floats]:
    """CSS Easing Functions Level 2, section 2.2: straight lines through (input, output) points.

    `stops` holds (output, input or None) in order, two or more; missing inputs are spread evenly.
    """
    inputs = _spread([share for _, share in stops])
    outputs = np.array([output for output, _ in stops])

    def ease(progress: Floats) -> Floats:
        # The last point at or before the input starts the segment; at the far end the last
        # segment goes on, before the near end the first.
        after = np.clip(np.searchsorted(inputs, progress, side="right"), 1, len(inputs) - 1)
        before = after - 1
        width = inputs[after] - inputs[before]
        share = (progress - inputs[before]) / np.where(width > 0, width, 1.0)
        value = outputs[before] + share * (outputs[after] - outputs[before])
        level = np.where(progress < inputs[before], outputs[before], outputs[after])
        value = np.where(width > 0, value, level)
        # Several points at one input: the last of them holds exactly there.
        last = np.clip(np.searchsorted(inputs, progress, side="right") - 1, 0, None)
        return np.where(inputs[last] == progress, outputs[last], value)

    return ease


def _spread(inputs: list[float | None]) -> Floats:
    known = list(inputs)
    known[0] = 0.0 if known[0] is None else known[0]
    largest = -np.inf
    for index, share in enumerate(known):
        if share is not None:
            largest = known[index] = max(share, largest)
    if known[-1] is None:
        known[-1] = max(1.0, largest)
    places = [index for index, share in enumerate(known) if share is not None]
    return np.interp(np.arange(len(known)), places, [share for share in known if share is not None])
