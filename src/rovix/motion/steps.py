"""What effects do to a layer's picture, as plain data for the painter.

Points and lengths are px of the picture's frame, from its top left corner.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Generic, Literal, TypeVar

import numpy as np
from numpy.typing import NDArray

from rovix.model import Linear, Radial
from rovix.model.effects import Effect

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
class MaskPart:
    """What polygons (k, 2) cover, or with `hides` what they do not, soft by a sigma, as far as a `strength`;
    and how it `joins` the parts before it."""

    polygons: Polygons
    feather: float
    joins: Literal["add", "subtract", "intersect", "exclude"]
    strength: float
    hides: bool


@dataclass(frozen=True, slots=True, eq=False)
class MasksStep:
    """Only what several parts cover together stays."""

    parts: tuple[MaskPart, ...]


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
class TurnStep:
    """Hues turned by degrees."""

    degrees: float


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


Kind = TypeVar("Kind", bound=Effect)


@dataclass(frozen=True, slots=True)
class EffectStep(Generic[Kind]):
    """An effect of pixels as it is at a moment. Its lengths are to be made `scale` times as large for
    px of the picture; `draw` is the seed of this very drawing, of those that are drawn at random."""

    effect: Kind
    scale: float
    draw: int


Step = (
    MaskStep | MasksStep | WrapStep | SoftStep | RoundStep | TurnStep | PaintStep | MixStep
    | EffectStep[Any]
)  # fmt: skip
