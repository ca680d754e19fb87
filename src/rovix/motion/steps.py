"""What treatments do to a layer's picture, as plain data for the painter.

Points and lengths are px of the picture's frame, from its top left corner.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rovix.model import Linear, Radial

Floats = NDArray[np.float64]
Bgra = tuple[int, int, int, int]
Paint = Bgra | Linear | Radial
Polygons = tuple[Floats, ...]


@dataclass(frozen=True, slots=True, eq=False)
class MaskStep:
    """Only what polygons (k, 2) cover stays, or with `hides` what they do not; soft by a sigma."""

    polygons: Polygons
    feather: float = 0.0
    hides: bool = False


@dataclass(frozen=True, slots=True, eq=False)
class WrapStep:
    """Drawn at each of the shifts (k, 2), of which the parts within the `frame` (4, 2) add up."""

    shifts: Floats
    frame: Floats


@dataclass(frozen=True, slots=True)
class SoftStep:
    """Sigmas across and down, then one along an angle in degrees."""

    across: float
    down: float
    along: float
    angle: float


@dataclass(frozen=True, slots=True)
class RoundStep:
    """Smeared about a point by degrees, and to and from it by a share of the distance."""

    x: float
    y: float
    spin: float
    zoom: float


@dataclass(frozen=True, slots=True)
class HaloStep:
    """Light around, sigma `size`."""

    size: float
    strength: float
    colour: Bgra
    opacity: float


@dataclass(frozen=True, slots=True)
class CastStep:
    """A shadow behind, moved and blurred."""

    x: float
    y: float
    blur: float
    colour: Bgra
    opacity: float


@dataclass(frozen=True, slots=True)
class LongCastStep:
    """A shadow behind, swept to the edge at an angle."""

    angle: float
    colour: Bgra
    opacity: float


@dataclass(frozen=True, slots=True)
class RimStep:
    """An outline behind, `width` px round what is there."""

    width: float
    colour: Bgra
    opacity: float


@dataclass(frozen=True, slots=True)
class ToneStep:
    """Saturation, levels, tint."""

    saturation: float
    black: float
    white: float
    gamma: float
    tint: float
    colour: Bgra


@dataclass(frozen=True, slots=True)
class TurnStep:
    """Hues turned by degrees."""

    degrees: float


@dataclass(frozen=True, slots=True)
class TearStep:
    """Bands pushed aside, red and blue apart; `draw` is the seed of this very drawing."""

    bands: int
    shift: float
    split: float
    draw: int


@dataclass(frozen=True, slots=True)
class GrainStep:
    """Noise in grains; `draw` is the seed of this very drawing."""

    amount: float
    size: float
    draw: int


@dataclass(frozen=True, slots=True, eq=False)
class PaintStep:
    """Every colour replaced by a paint, as opaque as it was. The paint lies over a `box` (left, top,
    right, bottom) that `matrix` (3, 3) takes to the picture."""

    paint: Paint
    box: tuple[float, float, float, float]
    matrix: Floats


@dataclass(frozen=True, slots=True)
class MixStep:
    """A colour laid over every colour by a share, as opaque as it was; in code values or in light."""

    colour: Bgra
    share: float
    linear: bool


Step = (
    MaskStep | WrapStep | SoftStep | RoundStep | HaloStep | CastStep | LongCastStep | RimStep | ToneStep
    | TurnStep | TearStep | GrainStep | PaintStep | MixStep
)  # fmt: skip
