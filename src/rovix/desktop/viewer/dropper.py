"""Colours of the picture: the one under a click, and those around a layer."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Pixels = NDArray[np.uint8]
_AROUND = 0.35  # of the box's height, how far around it is looked
_MOST = 4000


def colour_at(pixels: Pixels, across: float, down: float) -> str | None:
    """The colour, `#rrggbb`, of premultiplied BGRA pixels at shares 0 to 1 of width and height.

    None outside, and where there is nothing.
    """
    height, width = pixels.shape[:2]
    if not (0 <= across < 1 and 0 <= down < 1):
        return None
    blue, green, red, alpha = (int(part) for part in pixels[int(down * height), int(across * width)])
    if alpha == 0:
        return None
    return "#" + "".join(f"{min(255, round(part * 255 / alpha)):02x}" for part in (red, green, blue))


def around(pixels: Pixels, box: tuple[float, float, float, float]) -> NDArray[np.float64] | None:
    """(N, 3) code values 0 to 1 of what surrounds a box (left, top, right, bottom, in shares of the picture).

    None where nothing of it is in the picture, or the picture is see-through there.
    """
    height, width = pixels.shape[:2]
    left, top, right, bottom = box[0] * width, box[1] * height, box[2] * width, box[3] * height
    if not np.all(np.isfinite((left, top, right, bottom))):
        return None
    away = max(2.0, _AROUND * (bottom - top))
    outer = _within(pixels, left - away, top - away, right + away, bottom + away)
    inner = np.zeros((height, width), dtype=bool)
    inner[outer] = True
    inner[_within(pixels, left, top, right, bottom)] = False
    found = pixels[inner]
    found = found[found[:, 3] == 255][:: max(1, len(found) // _MOST)]
    return found[:, 2::-1] / 255.0 if len(found) else None


def _within(pixels: Pixels, left: float, top: float, right: float, bottom: float) -> tuple[slice, slice]:
    height, width = pixels.shape[:2]
    across = [int(min(max(edge, 0), width)) for edge in (left, right)]
    down = [int(min(max(edge, 0), height)) for edge in (top, bottom)]
    return slice(*down), slice(*across)
