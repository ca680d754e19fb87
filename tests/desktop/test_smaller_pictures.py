"""Pictures that were drawn smaller, for playing in time, as the viewer shows them."""

import numpy as np
import pytest

from rovix.engine.picture_service import Picture
from rovix.engine.quality import Quality


def sloping(width, height):
    """(height, width, 4): opaque, rising from left to right."""
    pixels = np.full((height, width, 4), 255, dtype=np.uint8)
    pixels[..., :3] = np.linspace(0, 255, width).astype(np.uint8)[None, :, None]
    return pixels


def put_up(window, scale):
    viewer = window.viewer
    width, height = window.projector.size
    size = Quality(scale).size((width, height))
    viewer.show_picture(Picture(0, sloping(*size), (), 1.0, quality=Quality(scale)))
    return viewer


@pytest.mark.parametrize("scale", [0.75, 0.5, 1 / 3])
def test_a_smaller_picture_is_shown_as_large_as_a_full_one_and_smooth(window, scale):
    viewer = put_up(window, scale)
    assert (viewer.image.width(), viewer.image.height()) == window.projector.size
    image = viewer.image.copy()
    viewer.grab()
    places = np.linspace(0.05, 0.95, 10)
    found = [image.pixelColor(round(image.width() * place), image.height() // 2).red() for place in places]
    assert np.abs(np.array(found) - 255 * places).max() < 4


def test_a_smaller_picture_under_a_magnifier_is_left_to_the_painter(window):
    window.viewer.zoom_to(4.0)
    viewer = put_up(window, 0.5)
    assert viewer.image.width() < window.projector.size[0]
    viewer.grab()


def test_the_room_for_it_follows_the_size_of_the_window(window):
    put_up(window, 0.5)
    window.viewer.zoom_to(0.2)
    viewer = put_up(window, 0.5)
    assert (viewer.image.width(), viewer.image.height()) == window.projector.size
