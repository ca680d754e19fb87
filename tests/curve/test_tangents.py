"""Tangents between keys, against SciPy's root finding and the Bezier curve's own formula."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import brentq

from rovix.curve import TANGENTS, Key, Track, easing


def bezier(a, b, c, d, t):
    return (1 - t) ** 3 * a + 3 * (1 - t) ** 2 * t * b + 3 * (1 - t) * t * t * c + t**3 * d


def expected(keys, time):
    """The value where the curve's time is `time`, by SciPy's root finding."""
    first, second = keys
    times = (first.time, first.time + first.after[0], second.time - second.before[0], second.time)
    values = (first.value, first.value + first.after[1], second.value + second.before[1], second.value)
    t = brentq(lambda t: bezier(*times, t) - time, 0.0, 1.0, xtol=1e-15, rtol=1e-15)
    return bezier(*values, t)


lengths = st.floats(0.1, 30)
rises = st.floats(-400, 400)


@given(lengths, rises, lengths, rises, st.floats(0.001, 0.999))
def test_values_lie_on_the_bezier_curve(after, rise, before, fall, share):
    keys = (Key(0, -50.0, TANGENTS, after=(after, rise)), Key(30, 120.0, before=(before, fall)))
    assert float(Track(keys)(30 * share)) == pytest.approx(expected(keys, 30 * share), abs=1e-6, rel=1e-9)


def test_one_way_is_right_to_nine_digits():
    keys = (Key(0, 0.0, TANGENTS, after=(8, 40.0)), Key(20, 10.0, before=(6, -90.0)))
    for frame in (1.0, 7.5, 13.0, 19.0):
        assert float(Track(keys)(frame)) == pytest.approx(expected(keys, frame), abs=1e-9)


@given(st.floats(0, 500), rises, st.floats(0, 500), rises)
def test_time_never_runs_back(after, rise, before, fall):
    # A handle that would reach beyond the other key is cut there; each time has one value, and the
    # curve goes from key to key.
    keys = (Key(5, 1.0, TANGENTS, after=(after, rise)), Key(25, 2.0, before=(before, fall)))
    values = Track(keys)(np.linspace(5, 25, 401))
    assert np.isfinite(values).all()
    assert (values[0], values[-1]) == (1.0, 2.0)
    least, most = min(1, 2, 1 + rise, 2 + fall), max(1, 2, 1 + rise, 2 + fall)
    assert least - 1e-9 <= values.min()
    assert values.max() <= most + 1e-9


def test_handles_not_given_are_level_thirds():
    # Level thirds are the smooth step 3 s^2 - 2 s^3, as the Bezier's formula gives.
    times = np.linspace(0, 12, 49)
    track = Track((Key(0, 10.0, TANGENTS), Key(12, 30.0)))
    share = times / 12
    np.testing.assert_allclose(track(times), 10 + 20 * share * share * (3 - 2 * share), atol=1e-9)
    assert easing(TANGENTS)(0.5) == 0.5


def test_a_track_may_mix_tangents_with_other_ways():
    track = Track(
        (Key(0, 0.0, "linear"), Key(10, 10.0, TANGENTS, after=(5, 0.0)), Key(20, 0.0), Key(30, 5.0))
    )
    assert track([5.0, 10.0, 20.0, 25.0]).tolist() == [5.0, 10.0, 0.0, 2.5]
    assert 0 < float(track(15.0)) < 10
