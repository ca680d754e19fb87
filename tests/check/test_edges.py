"""How letters stand out from what is around them, on pictures whose ratios are known; ratios by another
library."""

import numpy as np
import pytest
import wcag_contrast_ratio
from scipy import ndimage

from rovix.check.edges import edges


def picture(ground, *squares, size=(120, 200)):
    """A picture with squares (left, top, side, colour) as letters, and their faces."""
    made, faces = np.empty((*size, 3), np.uint8), np.zeros(size)
    made[:] = ground
    for left, top, side, colour in squares:
        made[top : top + side, left : left + side] = colour
        faces[top : top + side, left : left + side] = 1.0
    return made, faces


def ratio(one, other):
    return wcag_contrast_ratio.rgb(tuple(v / 255 for v in one), tuple(v / 255 for v in other))


@pytest.mark.parametrize(
    ("ground", "letter"),
    [((20, 30, 40), (246, 239, 226)), ((200, 40, 40), (250, 200, 30)), ((90, 90, 90),) * 2],
)
def test_a_letter_on_one_colour_has_its_ratio(ground, letter):
    found = edges(*picture(ground, (40, 40, 30, letter)))
    assert found.tenth == pytest.approx(ratio(ground, letter))
    assert found.letters == pytest.approx([ratio(ground, letter)])
    assert found.boxes == pytest.approx(np.array([[40.0, 40.0, 70.0, 70.0]]))


def test_each_letter_is_told_by_itself_and_the_tenth_percentile_counts_not_the_mean():
    dark, light, cream = (20, 20, 20), (240, 240, 240), (246, 239, 226)
    made, faces = picture(dark, (20, 40, 30, cream), (140, 40, 30, cream))
    made[:, 100:][faces[:, 100:] == 0] = light
    found = edges(made, faces)
    assert found.letters == pytest.approx([ratio(dark, cream), ratio(light, cream)])
    assert found.tenth == pytest.approx(ratio(light, cream))


def test_an_edge_around_the_letters_counts_and_one_thinner_than_the_ring_only_in_part():
    cream, black = (246, 239, 226), (0, 0, 0)
    made, faces = picture(cream, (40, 40, 30, cream))
    near = (ndimage.distance_transform_edt(faces == 0) <= 6) & (faces == 0)
    made[near] = black
    assert edges(made, faces, 4).tenth == pytest.approx(ratio(cream, black))
    assert edges(made, faces, 12).tenth == pytest.approx(1.0)


def test_no_letters_say_nothing_and_other_shapes_are_refused():
    made, faces = picture((0, 0, 0))
    assert edges(made, faces) is None
    assert edges(made, faces + 0.5) is None
    with pytest.raises(ValueError, match="go together"):
        edges(made, faces[:5])
