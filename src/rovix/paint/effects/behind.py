"""What lies behind a layer and is made from how opaque it is."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from rovix.paint.cache import LayerPicture
from rovix.paint.canvas import Canvas

Mask = NDArray[np.uint8]


def alpha_with_room(picture: LayerPicture, across: int, down: int) -> Mask:
    """(height, width): how opaque a picture is, with so many empty px on each side."""
    return np.pad(picture.pixels[..., 3], ((down, down), (across, across)))


def with_behind(
    picture: LayerPicture,
    shade: Mask,
    room: tuple[int, int],
    colour: tuple[int, int, int, int],
    opacity: float,
) -> LayerPicture:
    """A colour as strong as a shade, which has so much room before the picture, and the picture on it."""
    left, top = picture.left - room[0], picture.top - room[1]
    canvas = Canvas(shade.shape[1], shade.shape[0], left, top)
    canvas.draw_shade(shade, left, top, colour, opacity)
    canvas.draw_pixels(picture.pixels, picture.left, picture.top)
    return LayerPicture(canvas.pixels, left, top)
