"""Light and code values: the transfer function of sRGB (IEC 61966-2-1:1999)."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
LUMINANCE = np.array([0.2126, 0.7152, 0.0722])
"""What red, green and blue give to it: of sRGB's light, and of BT.709's luma (ITU-R BT.709-6, item 3.2)."""


def srgb_to_light(value: Floats) -> Floats:
    """Linear light 0..1 of sRGB code values 0..1."""
    value = np.asarray(value, dtype=np.float64)
    return np.where(value <= 0.04045, value / 12.92, ((value + 0.055) / 1.055) ** 2.4)


def light_to_srgb(light: Floats) -> Floats:
    """sRGB code values 0..1 of linear light 0..1."""
    light = np.asarray(light, dtype=np.float64)
    high = 1.055 * np.maximum(light, 0.0) ** (1 / 2.4) - 0.055
    return np.where(light <= 0.0031308, light * 12.92, high)
