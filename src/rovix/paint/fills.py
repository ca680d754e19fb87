"""Fills of grounds and shapes as Skia shaders."""

from __future__ import annotations

from itertools import pairwise
from math import cos, radians, sin

import numpy as np
import skia
from numpy.typing import NDArray

from rovix.curve.transfer import light_to_srgb, srgb_to_light
from rovix.model import Linear, Radial, Stop, bgra
from rovix.paint.canvas import swapped

Floats = NDArray[np.float64]
# Parts of a segment that is mixed in linear light, closer where a dark end bends the code values most;
# the error stays under a code value.
_SHARES = sorted({share for step in range(1, 17) for share in ((step / 16) ** 3, 1 - (1 - step / 16) ** 3)})


def gradient(fill: Linear | Radial, box: tuple[float, float, float, float]) -> skia.Shader:
    """The shader of a gradient over a box: left, top, right, bottom in px."""
    width, height = box[2] - box[0], box[3] - box[1]
    middle = box[0] + width / 2, box[1] + height / 2
    positions, colours = ramp(fill.stops, fill.mix)
    packed = [swapped(*colour) for colour in colours]
    flags = skia.GradientShader.kInterpolateColorsInPremul_Flag
    argb = [colour.toColor() for colour in packed]
    mode = skia.TileMode.kClamp
    if isinstance(fill, Linear):
        ends = [skia.Point(middle[0] + x, middle[1] + y) for x, y in linear_ends(fill.angle, width, height)]
        return skia.GradientShader.MakeLinear(ends, argb, positions, mode, flags)
    centre = (box[0] + fill.x * width, box[1] + fill.y * height)
    # A circle of radius 1, stretched to the ellipse.
    ellipse = skia.Matrix.MakeAll(
        fill.radius * width, 0, centre[0], 0, fill.radius * height, centre[1], 0, 0, 1
    )
    return skia.GradientShader.MakeRadial(skia.Point(0, 0), 1.0, argb, positions, mode, flags, ellipse)


def linear_ends(angle: float, width: float, height: float) -> tuple[tuple[float, float], ...]:
    """Where a gradient's line starts and ends, so that the corners have the first and last colour.

    CSS Images Level 3, section 3.1, with the angle counted clockwise from rightwards.
    """
    across, down = cos(radians(angle)), sin(radians(angle))
    half = (abs(width * across) + abs(height * down)) / 2
    return (-across * half, -down * half), (across * half, down * half)


def ramp(stops: tuple[Stop, ...], mix: str) -> tuple[list[float], list[tuple[float, ...]]]:
    """Positions 0..1 and straight RGBA colours 0..1, fine enough to be joined by straight lines."""
    ordered = sorted(stops, key=lambda stop: stop.at)
    known = [(stop.at, _rgba(stop.colour)) for stop in ordered]
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
