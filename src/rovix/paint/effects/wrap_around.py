"""A shift that wraps round the frame, drawn as shapes, so it is exact between px."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
import skia
from numpy.typing import NDArray

from rovix.motion.steps import WrapStep
from rovix.paint.cache import LayerPicture, around
from rovix.paint.canvas import Canvas

Floats = NDArray[np.float64]
Size = tuple[int, int]


def wrapped(
    step: WrapStep, draw: Callable[[Floats, Size], LayerPicture | None], view: Floats, size: Size
) -> LayerPicture | None:
    """The layer drawn once for each shift, each cut to the frame before and after it; they add up."""
    made = [(shift, draw(view @ _shifted(shift), size)) for shift in step.shifts]
    seen = [(shift, picture) for shift, picture in made if picture is not None]
    if not seen:
        return None
    region = around([picture for _, picture in seen])
    assert region is not None
    canvas = Canvas(region.width, region.height, region.left, region.top)
    for shift, picture in seen:
        with canvas.clipped(view, [_polygon(step.frame), _polygon(step.frame + shift)], []):
            canvas.draw_pixels(picture.pixels, picture.left, picture.top, blend="plus-lighter")
    return LayerPicture(canvas.pixels, region.left, region.top)


def _shifted(shift: Floats) -> Floats:
    return np.array([[1.0, 0.0, shift[0]], [0.0, 1.0, shift[1]], [0.0, 0.0, 1.0]])


def _polygon(corners: Floats) -> skia.Path:
    path = skia.Path()
    path.addPoly([skia.Point(*corner) for corner in corners.tolist()], True)
    return path
