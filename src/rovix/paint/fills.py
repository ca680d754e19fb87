"""Fills of grounds and shapes as Skia shaders."""

from __future__ import annotations

from functools import lru_cache
from itertools import pairwise
from math import cos, radians, sin

import numpy as np
import skia
from numpy.typing import NDArray

from rovix.curve.transfer import light_to_srgb, srgb_to_light
from rovix.model import Linear, Radial, bgra
from rovix.paint.canvas import swapped

Floats = NDArray[np.float64]
Stops = tuple[tuple[float, str], ...]
_PREMULTIPLIED = skia.GradientShader.kInterpolateColorsInPremul_Flag
# Parts of a segment that is mixed in linear light, closer where a dark end bends the code values most;
# the error stays under a code value.
_SHARES = sorted({share for step in range(1, 17) for share in ((step / 16) ** 3, 1 - (1 - step / 16) ** 3)})


Box = tuple[float, float, float, float]


def gradient(fill: Linear | Radial, box: Box) -> skia.Shader:
    """The shader of a gradient over a box: left, top, right, bottom in px."""
    stops = tuple((stop.at, stop.colour) for stop in sorted(fill.stops, key=lambda stop: stop.at))
    if isinstance(fill, Linear):
        return _linear(fill.angle, stops, fill.mix, box)
    return _radial((fill.x, fill.y, fill.radius), stops, fill.mix, box)


# Kept, as letters are filled one by one, and in motion blur and echoes again and again.
@lru_cache(maxsize=512)
def _linear(angle: float, stops: Stops, mix: str, box: Box) -> skia.Shader:
    width, height = box[2] - box[0], box[3] - box[1]
    middle = box[0] + width / 2, box[1] + height / 2
    ends = [skia.Point(middle[0] + x, middle[1] + y) for x, y in linear_ends(angle, width, height)]
    return skia.GradientShader.MakeLinear(ends, *_colours(stops, mix), skia.TileMode.kClamp, _PREMULTIPLIED)


@lru_cache(maxsize=512)
def _radial(ellipse: tuple[float, float, float], stops: Stops, mix: str, box: Box) -> skia.Shader:
    """A circle of radius 1, stretched to the ellipse."""
    (x, y, radius), width, height = ellipse, box[2] - box[0], box[3] - box[1]
    centre = (box[0] + x * width, box[1] + y * height)
    stretched = skia.Matrix.MakeAll(radius * width, 0, centre[0], 0, radius * height, centre[1], 0, 0, 1)
    return skia.GradientShader.MakeRadial(
        skia.Point(0, 0), 1.0, *_colours(stops, mix), skia.TileMode.kClamp, _PREMULTIPLIED, stretched
    )


def _colours(stops: Stops, mix: str) -> tuple[list[int], list[float]]:
    """Colours as Skia packs them, and their positions."""
    positions, colours = ramp(stops, mix)
    return [swapped(*colour).toColor() for colour in colours], positions


def linear_ends(angle: float, width: float, height: float) -> tuple[tuple[float, float], ...]:
    """Where a gradient's line starts and ends, so that the corners have the first and last colour.

    CSS Images Level 3, section 3.1, with the angle counted clockwise from rightwards.
    """
    across, down = cos(radians(angle)), sin(radians(angle))
    half = (abs(width * across) + abs(height * down)) / 2
    return (-across * half, -down * half), (across * half, down * half)


def ramp(stops: Stops, mix: str) -> tuple[list[float], list[tuple[float, ...]]]:
    """Positions 0..1 and straight RGBA colours 0..1, fine enough to be joined by straight lines.

    `stops` are positions and colours in the order of the positions.
    """
    known = [(at, _rgba(colour)) for at, colour in stops]
    if mix == "srgb":
        return [at for at, _ in known], [tuple(colour) for _, colour in known]
    positions, colours = [known[0][0]], [tuple(known[0][1])]
    for (low, first), (high, last) in pairwise(known):
        for share in _SHARES:
            positions.append(low + (high - low) * share)
            colours.append(tuple(_mixed(first, last, share)))
    return positions, colours


def _rgba(colour: str) -> Floats:
    blue, green, red, alpha = bgra(colour)
    return np.array([red, green, blue, alpha]) / 255


def _mixed(first: Floats, last: Floats, share: float) -> Floats:
    """Two straight colours mixed in linear light, premultiplied as light is."""
    alpha = first[3] + (last[3] - first[3]) * share
    if alpha == 0:
        return np.zeros(4)
    light = srgb_to_light(first[:3]) * first[3] * (1 - share) + srgb_to_light(last[:3]) * last[3] * share
    return np.append(light_to_srgb(light / alpha), alpha)
