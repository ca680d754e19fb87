"""Colours in other spaces, against the web's standards."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from rovix.curve.colour_spaces import (
    contrast,
    hsv_from_srgb,
    luminance,
    oklch_from_srgb,
    srgb_from_hsv,
    srgb_from_oklch,
)

codes = st.tuples(*[st.integers(0, 255)] * 3).map(lambda rgb: tuple(part / 255 for part in rgb))


@pytest.mark.parametrize(
    ("rgb", "lch"),
    [
        # CSS Color Level 4, section 9.4, and the table of its tests; values from memory.
        ((1, 0, 0), (0.62796, 0.25768, 29.234)),
        ((0, 1, 0), (0.86644, 0.29483, 142.495)),
        ((0, 0, 1), (0.45201, 0.31321, 264.052)),
    ],
)
def test_the_primaries_are_where_css_has_them(rgb, lch):
    assert oklch_from_srgb(rgb) == pytest.approx(lch, abs=2e-3)


def test_greys_have_no_chroma_and_white_is_light_one():
    for level in (0.0, 0.2, 0.5, 1.0):
        assert oklch_from_srgb((level,) * 3)[1] < 1e-4
    assert oklch_from_srgb((1, 1, 1))[0] == pytest.approx(1, abs=1e-4)


@given(codes)
def test_every_colour_comes_back_to_its_code_values(rgb):
    assert np.allclose(srgb_from_oklch(oklch_from_srgb(rgb)), rgb, atol=0.4 / 255)
    assert np.allclose(srgb_from_hsv(hsv_from_srgb(rgb)), rgb, atol=1e-9)


@given(st.floats(0.1, 1), st.floats(0, 0.5), st.floats(0, 359.9))
def test_what_srgb_lacks_keeps_its_lightness_and_hue(lightness, chroma, hue):
    rgb = srgb_from_oklch((lightness, chroma, hue))
    assert all(0 <= part <= 1 for part in rgb)
    found, left, turned = oklch_from_srgb(rgb)
    assert found == pytest.approx(lightness, abs=0.02)
    assert left <= chroma + 0.01
    if left > 0.03:
        assert abs((turned - hue + 180) % 360 - 180) < 3


def test_contrast_is_that_of_wcag():
    # WCAG 2.2: black on white is 21:1; #767676 is the lightest grey that reaches 4.5:1 on white (common practice).
    white, black = luminance(np.ones(3)), luminance(np.zeros(3))
    assert contrast(white, black) == pytest.approx(21)
    assert contrast(luminance(np.full(3, 0x76 / 255)), white) >= 4.5
    assert contrast(luminance(np.full(3, 0x77 / 255)), white) < 4.5
