"""Flashes as WCAG 2.2 counts them (2.3.1, three flashes or below threshold), picture by picture.

A flash is a pair of opposing changes in relative luminance of 10 % of the maximum or more, the darker picture
below 0.80; or any pair of opposing transitions involving a saturated red. More than three within one second
fail, where they take at least a quarter of any 10 degrees of sight at once: a block of 341 x 256 px where the
content is shown at 1024 x 768, a third of the frame across and down here. The numbers are from memory of the
standard's definitions of general flash and red flash thresholds.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

from rovix.curve.transfer import srgb_to_light
from rovix.time import Rate

Floats = NDArray[np.float32]
CHANGE, DARKER = 0.10, 0.80
RED_SHARE, RED_CHANGE = 0.8, 20.0
MOST, AREA = 3, 0.25
"""Flashes within a second, and the share of a block, beyond which it fails."""
_BLOCK = 3  # blocks across and down the frame
_REDNESS = np.float32(320.0)
_TABLE = srgb_to_light(np.arange(256) / 255.0).astype(np.float32)
_LINEAR = np.array([0.2126, 0.7152, 0.0722], np.float32)


@dataclass(frozen=True, slots=True)
class Flashing:
    """At which picture, counted from the first that was given, more flashes than allowed have come within a
    second: how many, and over what share of the worst block."""

    frame: int
    flashes: float
    share: float


class FlashMeter:
    """Takes the pictures of a video in order; `general` and `red` are the worst so far, None while all is
    well."""

    def __init__(self, rate: Rate) -> None:
        self._within = max(1, round(float(rate.fraction)))
        self._light = _Turns(self._within, CHANGE, DARKER)
        self._red = _Turns(self._within, RED_CHANGE, None)
        self._count = 0
        self.general: Flashing | None = None
        self.red: Flashing | None = None

    def add(self, picture: NDArray[np.uint8]) -> None:
        """A picture (h, w, 3) of sRGB bytes, red first, all of one size."""
        red, green, blue = (_TABLE[picture[..., part]] for part in range(3))
        light = _LINEAR[0] * red + _LINEAR[1] * green + _LINEAR[2] * blue
        self.general = _worse(self.general, self._count, self._light.add(light))
        self.red = _worse(self.red, self._count, self._red.add(_redness(red, green, blue)))
        self._count += 1


def _redness(red: Floats, green: Floats, blue: Floats) -> Floats:
    """How red each px is where it is saturated: (R - G - B) x 320 of the linear values, 0 where not."""
    others = green + blue
    saturated = (red > 0) & (red * (1 - RED_SHARE) >= RED_SHARE * others)
    if not saturated.any():
        return _none(red.shape)
    return np.where(saturated, np.maximum(np.float32(0), (red - others) * _REDNESS), np.float32(0))


@lru_cache(maxsize=4)
def _none(shape: tuple[int, ...]) -> Floats:
    return np.zeros(shape, np.float32)


class _Turns:
    """Counts how often values turn by a change or more, px by px, within the last pictures."""

    def __init__(self, within: int, change: float, darker: float | None) -> None:
        self._within, self._change, self._darker = within, change, darker
        self._extreme: Floats | None = None
        self._way: NDArray[np.int8] | None = None
        self._past: list[NDArray[np.bool_]] = []
        self._sum: NDArray[np.int16] | None = None

    def add(self, values: Floats) -> NDArray[np.int16]:
        """(h, w): opposing changes within the last second, this picture's among them."""
        if self._extreme is None or self._way is None or self._sum is None:
            self._extreme = values.copy()
            self._way = np.zeros(values.shape, np.int8)
            self._sum = np.zeros(values.shape, np.int16)
            return self._sum
        rise = values - self._extreme
        up, down = (self._way <= 0) & (rise >= self._change), (self._way >= 0) & (rise <= -self._change)
        turned = up | down
        if self._darker is not None and turned.any():
            dark = np.minimum(values, self._extreme) < self._darker
            up, down, turned = up & dark, down & dark, turned & dark
        # What goes on the same way only moves the extreme on.
        moved = turned | (self._way * rise > 0)
        np.copyto(self._extreme, values, where=moved)
        self._way[up], self._way[down] = 1, -1
        self._past.append(turned)
        self._sum += turned
        if len(self._past) > self._within:
            self._sum -= self._past.pop(0)
        return self._sum


def _worse(known: Flashing | None, frame: int, turns: NDArray[np.int16]) -> Flashing | None:
    """The worse of what is known and a picture; a flash is a pair of opposing changes."""
    over = turns > 2 * MOST
    if not over.any():
        return known
    size = tuple(max(1, round(side / _BLOCK)) for side in over.shape)
    share = float(ndimage.uniform_filter(over.astype(np.float32), size, mode="constant").max())
    if share < AREA - 1e-6:
        return known
    flashes = float(turns[over].max()) / 2
    if known is not None and (known.flashes, known.share) >= (flashes, share):
        return known
    return Flashing(frame, flashes, share)
