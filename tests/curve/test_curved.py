"""Lengths and places on paths, against SciPy's quadrature."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import quad
from scipy.optimize import brentq

from rovix.curve import Curved

px = st.floats(-800, 800)
points = st.tuples(px, px)


def speed(control, t):
    a, b, c, d = np.asarray(control, dtype=float)
    return float(np.hypot(*(3 * ((1 - t) ** 2 * (b - a) + 2 * (1 - t) * t * (c - b) + t * t * (d - c)))))


def place(control, t):
    a, b, c, d = np.asarray(control, dtype=float)
    return (1 - t) ** 3 * a + 3 * (1 - t) ** 2 * t * b + 3 * (1 - t) * t * t * c + t**3 * d


ARC = ((0.0, 0.0), (300.0, -200.0), (500.0, 260.0), (800.0, 40.0))


def curved(control):
    start, first, second, end = np.asarray(control, dtype=float)
    return Curved([tuple(start), tuple(end)], [None, tuple(second - end)], [tuple(first - start), None])


@settings(max_examples=40)
@given(st.tuples(points, points, points, points))
def test_length_is_that_of_quadrature(control):
    # Sharp cusps, where the speed touches 0, are known to 1e-4 of the length.
    length, _ = quad(lambda t: speed(control, t), 0, 1, limit=400)
    assert curved(control).lengths[0] == pytest.approx(length, rel=1e-4, abs=1e-6)


def test_places_are_by_length():
    path, whole = curved(ARC), quad(lambda t: speed(ARC, t), 0, 1)[0]
    assert path.lengths[0] == pytest.approx(whole, rel=1e-10)
    for share in (0.1, 0.37, 0.5, 0.81, 0.999):
        t = brentq(lambda t, s=share: quad(lambda u: speed(ARC, u), 0, t)[0] - s * whole, 0, 1, xtol=1e-14)
        np.testing.assert_allclose(path.at(np.array([0]), np.array([share]))[0], place(ARC, t), atol=1e-7)


def test_equal_shares_are_equally_far_apart():
    shares = np.linspace(0, 1, 2001)
    found = curved(ARC).at(np.zeros(len(shares), dtype=int), shares)
    steps = np.hypot(*np.diff(found, axis=0).T)
    assert np.ptp(steps) / steps.mean() < 1e-4


def test_a_straight_path_is_exact_and_goes_on_beyond_its_ends():
    path = Curved([(0, 0), (30, 40), (30, 140)], [None] * 3, [None] * 3)
    assert path.lengths.tolist() == pytest.approx([50, 100])
    found = path.at(np.array([0, 0, 1, 1]), np.array([0.5, 1.2, 0.25, 1.5]))
    np.testing.assert_allclose(found, [(15, 20), (36, 48), (30, 65), (30, 190)], atol=1e-9)
    np.testing.assert_allclose(
        path.way(np.array([0, 1]), np.array([0.0, 1.0])), [(0.6, 0.8), (0, 1)], atol=1e-9
    )


def test_the_way_at_an_end_without_a_handle_is_that_beside_it():
    path = Curved([(0, 0), (100, 0)], [None, (0, -50)], [None, None])
    way = path.way(np.array([0]), np.array([0.0]))[0]
    # The curve leaves towards the other handle.
    np.testing.assert_allclose(way, np.array([100, -50]) / np.hypot(100, 50), atol=1e-3)


def test_points_in_one_place_have_no_length_and_no_trouble():
    path = Curved([(5, 5), (5, 5)], [None, None], [None, None])
    assert path.lengths[0] == 0
    assert path.at(np.array([0]), np.array([0.5])).tolist() == [[5.0, 5.0]]
    assert np.isfinite(path.way(np.array([0]), np.array([0.5]))).all()
    with pytest.raises(ValueError, match="at least one point"):
        Curved([], [], [])
