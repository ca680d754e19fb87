"""Colours as eyes and screens see them: HSV, OKLCH, and the contrast of two colours.

OKLab is that of CSS Color Level 4, section 9; contrast is that of WCAG 2.2, "contrast ratio".
"""

from __future__ import annotations

import colorsys

import numpy as np
from numpy.typing import NDArray

from rovix.curve.transfer import LUMINANCE, light_to_srgb, srgb_to_light

Floats = NDArray[np.float64]
Triple = tuple[float, float, float]

_CONES = np.array([
    [0.4122214708, 0.5363325363, 0.0514459929],
    [0.2119034982, 0.6806995451, 0.1073969566],
    [0.0883024619, 0.2817188376, 0.6299787005],
])  # fmt: skip
_LAB = np.array([
    [0.2104542553, 0.7936177850, -0.0040720468],
    [1.9779984951, -2.4285922050, 0.4505937099],
    [0.0259040371, 0.7827717662, -0.8086757660],
])  # fmt: skip
_FROM_CONES, _FROM_LAB = np.linalg.inv(_CONES), np.linalg.inv(_LAB)
MOST_CHROMA = 0.33
"""A little above what any colour of sRGB has."""
_HALVINGS = 24
_SLACK = 1e-5  # of light; ten times as much turned the hue of what is nearly black by more than 3 degrees


def hsv_from_srgb(colour: Triple) -> Triple:
    """Hue 0 to 360 degrees (not included), saturation and value 0 to 1, of code values 0 to 1."""
    hue, saturation, value = colorsys.rgb_to_hsv(*colour)
    return hue * 360, saturation, value


def srgb_from_hsv(hsv: Triple) -> Triple:
    """Code values 0 to 1 of hue in degrees, saturation and value."""
    return colorsys.hsv_to_rgb(hsv[0] / 360 % 1, hsv[1], hsv[2])


def oklch_from_srgb(colour: Triple) -> Triple:
    """Lightness 0 to 1, chroma from 0, hue 0 to 360 degrees, of code values 0 to 1."""
    lightness, a, b = _LAB @ np.cbrt(_CONES @ srgb_to_light(np.array(colour)))
    hue = float(np.degrees(np.arctan2(b, a))) % 360
    return float(lightness), float(np.hypot(a, b)), hue


def srgb_from_oklch(lch: Triple) -> Triple:
    """Code values 0 to 1 of the nearest colour of that lightness and hue that sRGB has.

    Its chroma is what is taken back, as CSS Color Level 4, section 13, does.
    """
    lightness, chroma, hue = min(max(lch[0], 0.0), 1.0), max(lch[1], 0.0), lch[2]
    low, high = 0.0, chroma
    if not shows(light_of_oklch(lightness, chroma, hue)):
        for _ in range(_HALVINGS):
            middle = (low + high) / 2
            if shows(light_of_oklch(lightness, middle, hue)):
                low = middle
            else:
                high = middle
        chroma = low
    red, green, blue = np.clip(light_to_srgb(light_of_oklch(lightness, chroma, hue)), 0.0, 1.0).tolist()
    return red, green, blue


def light_of_oklch(lightness: Floats | float, chroma: Floats | float, hue: float) -> Floats:
    """(..., 3) linear light of colours of one hue in degrees; beyond 0 to 1 where sRGB has none."""
    turned = np.radians(hue)
    parts = np.broadcast_arrays(lightness, np.cos(turned) * chroma, np.sin(turned) * chroma)
    lab = np.stack(parts, axis=-1)
    return np.asarray((lab @ _FROM_LAB.T) ** 3 @ _FROM_CONES.T)


def shows(light: Floats) -> NDArray[np.bool_]:
    """Whether sRGB has these colours, (...,) of (..., 3) linear light."""
    return np.asarray(np.all((light >= -_SLACK) & (light <= 1 + _SLACK), axis=-1))


def luminance(colours: Floats) -> Floats:
    """Relative luminance 0 to 1, (...,) of (..., 3) code values 0 to 1."""
    return np.asarray(srgb_to_light(colours) @ LUMINANCE)


def contrast(one: Floats, other: Floats) -> Floats:
    """1 to 21: how far two colours stand apart, of their relative luminances."""
    high, low = np.maximum(one, other), np.minimum(one, other)
    return np.asarray((high + 0.05) / (low + 0.05))
