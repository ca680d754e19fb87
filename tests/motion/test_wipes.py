"""What wipes and openings cover, against areas by the shoelace formula."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from rovix.motion.wipes import FAR, line_polygon, opening_polygon, wipe_polygons

BOX = (-120.0, -40.0, 200.0, 90.0)
WIDTH, HEIGHT = 320.0, 130.0
shares = st.floats(0.0, 1.0)


def clipped(polygon, box=BOX):
    """A convex polygon cut to a box, by Sutherland and Hodgman's algorithm."""
    left, top, right, bottom = box
    points = [tuple(point) for point in polygon]
    for axis, limit, sign in ((0, left, 1), (0, right, -1), (1, top, 1), (1, bottom, -1)):
        cut = []
        for one, other in zip(points, points[1:] + points[:1], strict=True):
            ins = [sign * (point[axis] - limit) >= 0 for point in (one, other)]
            if ins[0]:
                cut.append(one)
            if ins[0] != ins[1]:
                share = (limit - one[axis]) / (other[axis] - one[axis])
                cut.append(tuple(a + share * (b - a) for a, b in zip(one, other, strict=True)))
        points = cut
    return points


def area(points):
    """The shoelace formula."""
    if len(points) < 3:
        return 0.0
    x, y = np.array(points).T
    return abs(float(np.dot(x, np.roll(y, -1)) - np.dot(y, np.roll(x, -1)))) / 2


def covered(way, share, angle=0.0, **more):
    return sum(area(clipped(polygon)) for polygon in wipe_polygons(way, BOX, angle, share, **more))


@given(shares, st.sampled_from([0.0, 90.0, 180.0, 270.0]))
def test_a_straight_wipe_covers_its_share(share, angle):
    assert covered("straight", share, angle) == pytest.approx(share * WIDTH * HEIGHT, abs=1e-4)


@given(shares, st.floats(0, 360))
def test_at_any_angle_it_starts_with_nothing_and_ends_with_all(share, angle):
    assert covered("straight", 0.0, angle) == pytest.approx(0, abs=1e-3)
    assert covered("straight", 1.0, angle) == pytest.approx(WIDTH * HEIGHT, rel=1e-6)
    # More of the share never covers less.
    assert covered("straight", share, angle) <= covered("straight", min(1.0, share + 0.05), angle) + 1e-3


@given(shares, st.sampled_from([0.0, 90.0]), st.integers(1, 20))
def test_blinds_cover_their_share_in_strips(share, angle, count):
    assert covered("blinds", share, angle, count=count) == pytest.approx(share * WIDTH * HEIGHT, abs=1e-3)
    assert len(wipe_polygons("blinds", BOX, angle, share, count=count)) == count


@given(shares, st.sampled_from([0.0, 90.0]))
def test_from_the_middle_both_ways(share, angle):
    assert covered("middle", share, angle) == pytest.approx(share * WIDTH * HEIGHT, abs=1e-3)


@given(st.floats(0.0, 0.5), st.floats(0, 360))
def test_a_round_wipe_turns_clockwise(share, angle):
    (polygon,) = wipe_polygons("round", BOX, angle, share)
    turn = np.degrees(np.arctan2(*(polygon[1:] - polygon[0]).T[::-1]))
    swept = np.diff(np.unwrap(turn, period=360.0))
    assert swept.sum() == pytest.approx(360 * share, abs=1e-6)
    assert (swept >= -1e-9).all()


def test_a_round_wipe_of_a_quarter_covers_a_quarter():
    assert covered("round", 0.25) == pytest.approx(WIDTH * HEIGHT / 4)


@given(st.sampled_from([0.0, *np.linspace(0.001, 1.0, 37).tolist()]), st.integers(1, 24))
def test_blocks_travel_in_and_the_far_end_fills_first(share, count):
    polygons = wipe_polygons("blocks", BOX, 0.0, share, count=count)
    come = share * count
    assert len(polygons) == int(np.ceil(come))
    width = WIDTH / count
    for number, polygon in enumerate(polygons):
        end = polygon[:, 0].max()
        place = BOX[2] - number * width
        if come - number >= 1:
            assert end == pytest.approx(place)
        else:
            assert BOX[0] <= end <= place + 1e-9


@given(shares, st.floats(0.1, 60))
def test_a_feather_lets_the_edge_begin_and_end_beyond(share, feather):
    (polygon,) = wipe_polygons("straight", BOX, 0.0, share, feather)
    edge = polygon[:, 0].max()
    assert edge == pytest.approx(BOX[0] - 3 * feather + share * (WIDTH + 6 * feather))


def test_an_opening_has_only_the_edges_that_it_has():
    inside = opening_polygon(BOX, (10.0, None, None, -5.0))
    assert inside[:, 0].min() == BOX[0] + 10
    assert inside[:, 1].max() == BOX[3] + 5
    assert inside[:, 1].min() == -FAR
    assert inside[:, 0].max() == FAR
    assert len(opening_polygon(BOX, (200.0, None, 130.0, None))) == 0


def test_corners_are_rounded_by_at_most_half_a_side():
    edges = (0.0, 0.0, 0.0, 0.0)
    round_ = opening_polygon(BOX, edges, 20.0)
    # A quarter circle cut off each corner, in straight parts.
    assert area(round_) == pytest.approx(WIDTH * HEIGHT - (4 - np.pi) * 400, rel=1e-3)
    assert area(opening_polygon(BOX, edges, 1e9)) == pytest.approx(
        WIDTH * HEIGHT - (4 - np.pi) * (HEIGHT / 2) ** 2, rel=2e-3
    )


def test_a_ridden_line_goes_through_its_point():
    polygon = line_polygon((30.0, -7.0), 0.0)
    assert polygon[:, 0].max() == pytest.approx(30.0)
    polygon = line_polygon((30.0, -7.0), 90.0)
    assert polygon[:, 1].max() == pytest.approx(-7.0)
