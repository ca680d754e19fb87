"""One step of an effect done to a layer's picture."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from rovix.motion.steps import EffectStep, Step, WrapStep
from rovix.paint.cache import LayerPicture
from rovix.paint.effects import PAINTERS
from rovix.paint.effects.sight import Sight
from rovix.paint.effects.wrap_around import wrapped

Floats = NDArray[np.float64]
Size = tuple[int, int]
Drawing = Callable[[Floats, Size], LayerPicture | None]
"""Draws a layer by a view (3, 3) from the frame to a picture of a size."""


def stepped(step: Step, draw: Drawing, view: Floats, size: Size) -> LayerPicture | None:
    """The picture of a layer with a step done to it, in a picture of `size`.

    What lies beyond the picture's edge is drawn too, as far as it can come in.
    """
    if isinstance(step, WrapStep):
        return wrapped(step, draw, view, size)
    painter = PAINTERS[type(step.effect) if isinstance(step, EffectStep) else type(step)]
    across, down = painter.room(step, Sight(view, size).scale)
    wide = np.array([[1.0, 0.0, across], [0.0, 1.0, down], [0.0, 0.0, 1.0]]) @ view
    room = size[0] + 2 * across, size[1] + 2 * down
    picture = draw(wide, room)
    if picture is None:
        return None
    done = painter.paint(step, picture, Sight(wide, room))
    return None if done is None else _cut(done, across, down, size)


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
