"""Contrast by WCAG 2.2, against its own figures and another library."""

import numpy as np
import pytest
import wcag_contrast_ratio

from rovix.check import contrast_ratio, relative_luminance


def test_black_on_white_is_twenty_one_and_alike_is_one():
    """WCAG 2.2: ratios go from 1:1 to 21:1."""
    assert contrast_ratio((0, 0, 0), (255, 255, 255)) == pytest.approx(21.0)
    assert contrast_ratio((10, 20, 30), (10, 20, 30)) == pytest.approx(1.0)
    assert relative_luminance(np.array([[0, 0, 0], [255, 255, 255]])) == pytest.approx([0.0, 1.0])


def test_the_well_known_greys_stand_on_either_side_of_the_limit():
    """#767676 on white passes 4.5:1, #777777 does not (WebAIM's and others' worked example, from memory)."""
    assert contrast_ratio((0x76,) * 3, (255,) * 3) >= 4.5
    assert contrast_ratio((0x77,) * 3, (255,) * 3) < 4.5


@pytest.mark.parametrize("seed", range(3))
def test_it_agrees_with_another_library_whichever_is_first(seed):
    chance = np.random.default_rng(seed)
    a, b = chance.integers(0, 256, (2, 300, 3), dtype=np.uint8)
    asked = [
        wcag_contrast_ratio.rgb(tuple(one / 255), tuple(other / 255)) for one, other in zip(a, b, strict=True)
    ]
    assert np.allclose(contrast_ratio(a, b), asked, rtol=1e-6)
    assert np.array_equal(contrast_ratio(a, b), contrast_ratio(b, a))


def test_pictures_go_together_as_arrays_do():
    picture = np.zeros((4, 5, 3), np.uint8)
    assert contrast_ratio(picture, (255, 255, 255)).shape == (4, 5)
    assert relative_luminance(np.zeros((0, 3))).shape == (0,)


@pytest.mark.parametrize(
    "wrong", [5, (1, 2), [(1, 2, 3, 4)], (0, 0, 256), (-1, 0, 0), ("a", "b", "c"), (float("nan"), 0, 0)]
)
def test_what_is_no_colour_is_refused(wrong):
    with pytest.raises(ValueError, match="colours"):
        relative_luminance(wrong)
