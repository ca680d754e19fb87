"""Smooth keys against SciPy's PCHIP and cubic Hermite splines."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.interpolate import CubicHermiteSpline, PchipInterpolator

from rovix.curve import Track, easing, reversed_easing
from rovix.curve.smooth import loose_slopes


@st.composite
def points(draw, least=2):
    times = sorted(draw(st.sets(st.integers(-50, 200), min_size=least, max_size=9)))
    return times, [draw(st.integers(-300, 300)) / 3 for _ in times]


def track(times, values, curve):
    return Track([(t, v, curve) for t, v in zip(times, values, strict=True)])


def between(times):
    return np.linspace(times[0], times[-1], 211)


@given(points())
def test_smooth_keys_are_scipys_pchip(found):
    times, values = found
    expected = PchipInterpolator(times, values)(between(times))
    np.testing.assert_allclose(track(times, values, "smooth")(between(times)), expected, atol=1e-9)


@given(points())
def test_smooth_keys_never_go_beyond_their_neighbours(found):
    times, values = found
    made = track(times, values, "smooth")
    for low, high, a, b in zip(times, times[1:], values, values[1:], strict=False):
        inside = made(np.linspace(low, high, 33))
        assert inside.min() >= min(a, b) - 1e-9
        assert inside.max() <= max(a, b) + 1e-9


@given(points())
def test_loose_keys_are_the_hermite_spline_of_their_slopes(found):
    times, values = (np.array(part, dtype=float) for part in found)
    expected = CubicHermiteSpline(times, values, loose_slopes(times, values))(between(times))
    np.testing.assert_allclose(track(times, values, "smooth-loose")(between(times)), expected, atol=1e-8)


@given(points(), st.sampled_from(["smooth", "smooth-loose"]))
def test_a_key_has_its_value_exactly_and_the_way_back_is_the_same(found, curve):
    times, values = found
    made = track(times, values, curve)
    assert made(times).tolist() == values
    back = track([-t for t in reversed(times)], values[::-1], reversed_easing(curve))
    np.testing.assert_allclose(back(-between(times)), made(between(times)), atol=1e-9)


def test_loose_keys_swing_beyond_and_smooth_ones_do_not():
    values = [0, 10, 10, 0]
    times = between([0, 30])
    assert track([0, 10, 20, 30], values, "smooth-loose")(times).max() > 10.5
    assert track([0, 10, 20, 30], values, "smooth")(times).max() == 10


def test_smooth_pieces_stand_beside_others():
    mixed = Track([(0, 0.0, "linear"), (10, 10.0, "smooth"), (20, 0.0, "hold"), (30, 5.0)])
    assert mixed([5.0, 10.0, 20.0, 25.0, 30.0]).tolist() == [5.0, 10.0, 0.0, 0.0, 5.0]
    whole = PchipInterpolator([0, 10, 20, 30], [0, 10, 0, 5])
    assert mixed(13.0) == pytest.approx(float(whole(13.0)))


def test_by_itself_a_smooth_easing_starts_and_ends_at_rest():
    assert easing("smooth")([0.0, 0.5, 1.0]).tolist() == [0.0, 0.5, 1.0]
    assert float(easing("smooth")(1e-4)) < 1e-6
