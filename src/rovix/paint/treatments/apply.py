"""One treatment done to a layer's picture: how much room it needs, and what it does."""

from __future__ import annotations

from collections.abc import Callable
from math import ceil
from typing import Any

import numpy as np
from numpy.typing import NDArray

from rovix.motion.steps import (
    CastStep,
    GrainStep,
    HaloStep,
    LongCastStep,
    MaskStep,
    MixStep,
    PaintStep,
    RimStep,
    RoundStep,
    SoftStep,
    Step,
    TearStep,
    ToneStep,
    TurnStep,
    WrapStep,
)
from rovix.paint.cache import LayerPicture
from rovix.paint.treatments.colours import laid_over, toned, turned
from rovix.paint.treatments.light import cast, haloed, long_cast, repainted, rimmed
from rovix.paint.treatments.masks import masked
from rovix.paint.treatments.noise import grained, torn
from rovix.paint.treatments.sight import Sight
from rovix.paint.treatments.smears import smeared, softened
from rovix.paint.treatments.wrapping import wrapped

Floats = NDArray[np.float64]
Size = tuple[int, int]
Drawing = Callable[[Floats, Size], LayerPicture | None]
"""Draws a layer by a view (3, 3) from the frame to a picture of a size."""
_SIGMAS = 4


def treated(step: Step, draw: Drawing, view: Floats, size: Size) -> LayerPicture | None:
    """The picture of a layer with a step done to it, in a picture of `size`.

    What lies beyond the picture's edge is drawn too, as far as it can come in.
    """
    if isinstance(step, WrapStep):
        return wrapped(step, draw, view, size)
    across, down = _room(step, Sight(view, size).scale)
    wide = np.array([[1.0, 0.0, across], [0.0, 1.0, down], [0.0, 0.0, 1.0]]) @ view
    room = size[0] + 2 * across, size[1] + 2 * down
    picture = draw(wide, room)
    if picture is None:
        return None
    done = _DONE[type(step)](step, picture, Sight(wide, room))
    return None if done is None else _cut(done, across, down, size)


def _room(step: Step, scale: float) -> tuple[int, int]:
    """px that a step can bring in from beyond the picture, across and down."""
    if isinstance(step, SoftStep):
        along = _SIGMAS * step.along
        return ceil((_SIGMAS * step.across + along) * scale), ceil((_SIGMAS * step.down + along) * scale)
    if isinstance(step, HaloStep):
        return (ceil(_SIGMAS * step.size * scale),) * 2
    if isinstance(step, CastStep):
        soft = _SIGMAS * step.blur
        return ceil((soft + abs(step.x)) * scale), ceil((soft + abs(step.y)) * scale)
    if isinstance(step, RimStep):
        return (ceil(step.width * scale) + 1,) * 2
    if isinstance(step, TearStep):
        return ceil((abs(step.shift) + abs(step.split)) * scale) + 1, 0
    return 0, 0


_DONE: dict[type, Callable[[Any, LayerPicture, Sight], LayerPicture | None]] = {
    MaskStep: masked, SoftStep: softened, RoundStep: smeared, HaloStep: haloed, CastStep: cast,
    LongCastStep: long_cast, RimStep: rimmed, ToneStep: toned, TurnStep: turned, TearStep: torn,
    GrainStep: grained, PaintStep: repainted, MixStep: laid_over,
}  # fmt: skip


def _cut(picture: LayerPicture, across: int, down: int, size: Size) -> LayerPicture | None:
    """What of a picture with room lies inside of one without."""
    if (across, down) == (0, 0):
        return picture
    left, top = picture.left - across, picture.top - down
    x, y = max(0, -left), max(0, -top)
    right, bottom = min(picture.pixels.shape[1], size[0] - left), min(picture.pixels.shape[0], size[1] - top)
    if right <= x or bottom <= y:
        return None
    return LayerPicture(np.ascontiguousarray(picture.pixels[y:bottom, x:right]), left + x, top + y)
