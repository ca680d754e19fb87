"""Closed lines over time against SciPy and shapely; points added where all keys keep their lines."""

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from scipy.interpolate import CubicSpline, PchipInterpolator

from builders import project_of, title
from rovix.edit.contours import (
    add_to_line,
    cornered,
    is_smooth,
    moved,
    pulled,
    set_line,
    smoothed,
    split,
    take_from_line,
)
from rovix.edit.tree import clip_of
from rovix.errors import RovixError
from rovix.formats.path_data import line_of, path_data
from rovix.model import ContourKey, ContourKeys
from rovix.model.effects.mask import Mask
from rovix.motion.at_frame import at_frame
from rovix.motion.contours import contour_at, contours_at, flattened, travelled
from rovix.motion.reading import reading

ARC = 0.5522847498  # of the radius: four cubic pieces come within 0.03 % of a circle (from memory)


def circle(radius=100.0, x=0.0, y=0.0):
    way = ARC * radius
    return (
        (x, y - radius, -way, 0.0, way, 0.0),
        (x + radius, y, 0.0, -way, 0.0, way),
        (x, y + radius, way, 0.0, -way, 0.0),
        (x - radius, y, 0.0, way, 0.0, -way),
    )


def corners(*points):
    return tuple((float(x), float(y), 0.0, 0.0, 0.0, 0.0) for x, y in points)


def keys(*lines, curve="smooth", step=10):
    made = tuple(ContourKey(frame=n * step, value=line, curve=curve) for n, line in enumerate(lines))
    return ContourKeys(keys=made)


LINES = [circle(80 + 13 * n, 30.0 * n * n, 9.0 * n) for n in range(4)]


def test_a_line_of_arcs_covers_what_a_circle_does():
    assert shapely.Polygon(flattened(circle())).area == pytest.approx(np.pi * 100**2, rel=2e-3)


def shoelace(points):
    x, y = points.T
    return abs(float(np.dot(x, np.roll(y, -1)) - np.dot(y, np.roll(x, -1)))) / 2


def test_a_line_of_corners_covers_what_the_shoelace_formula_says():
    line = corners((0, 0), (90, 10), (120, 80), (40, 110))
    assert len(flattened(line)) == 4
    assert shapely.Polygon(flattened(line)).area == pytest.approx(shoelace(np.array(line)[:, :2]))


@pytest.mark.parametrize(
    ("curve", "reference"),
    [
        ("smooth", PchipInterpolator),
        ("linear", None),
        ("hold", None),
    ],
)
def test_between_keys_every_number_goes_as_a_channel_of_its_own(curve, reference):
    held = keys(*LINES, curve=curve)
    frames = np.linspace(-5, 35, 41)
    found = contours_at(held, frames)
    times, values = np.arange(4) * 10.0, np.array(LINES)
    inside = np.clip(frames, 0, 30)
    if reference is not None:
        wanted = reference(times, values, axis=0)(inside)
    elif curve == "hold":
        wanted = values[np.minimum(inside // 10, 3).astype(int)]
    else:
        share = (inside / 10)[:, None, None] - np.minimum(inside // 10, 2)[:, None, None]
        at = np.minimum(inside // 10, 2).astype(int)
        wanted = values[at] + share * (values[at + 1] - values[at])
    assert np.abs(found - wanted).max() < 1e-9


def test_loose_ways_swing_beyond_as_a_spline_of_central_slopes_does():
    held = keys(*LINES, curve="smooth-loose")
    values = np.array(LINES)
    slopes = np.concatenate(
        [[values[1] - values[0]], (values[2:] - values[:-2]) / 2, [values[3] - values[2]]]
    )
    piece = CubicSpline([10, 20], values[1:3], bc_type=((1, slopes[1] / 10), (1, slopes[2] / 10)))
    assert np.abs(contours_at(held, np.array([13.0, 17.5])) - piece([13.0, 17.5])).max() < 1e-9


def test_level_tangents_come_and_go_slowly():
    held = keys(LINES[0], LINES[1], curve="tangents")
    low, high = (np.array(line) for line in LINES[:2])
    assert np.allclose(np.array(contour_at(held, 5)), (low + high) / 2)
    assert np.allclose(np.array(contour_at(held, 2.5)), low + 0.15625 * (high - low))  # 3/16 - 2/64


def test_how_far_it_went_is_what_its_points_go_in_the_mean():
    held = keys(circle(), circle(x=60.0), circle(x=60.0, y=30.0), curve="linear")
    assert travelled(held, np.array([0.0, 5.0, 10.0, 20.0])).tolist() == pytest.approx([0, 30, 60, 90])
    assert reading(held).fastest == pytest.approx(6.0)


@given(st.integers(0, 3), st.floats(0.05, 0.95))
def test_a_point_more_leaves_the_line_as_it_is(number, share):
    more = split(circle(), number, share)
    assert len(more) == 5
    before, after = shapely.Polygon(flattened(circle())), shapely.Polygon(flattened(more))
    assert before.symmetric_difference(after).area < 0.002 * before.area


def layer(contour):
    return project_of(title(id="t", effects=(Mask(id="m", form="drawn", contour=contour),)))


def contour_of(project):
    return clip_of(project, "t").effects[0].contour


def test_a_point_more_stands_in_every_key_on_its_own_line():
    held = keys(*LINES)
    made = contour_of(add_to_line(layer(held), "t", "effects.m.contour", 2, 0.4))
    assert [key.value for key in made.keys] == [split(line, 2, 0.4) for line in LINES]
    for frame in (0, 4, 10, 17, 30):
        one, other = (shapely.Polygon(flattened(contour_at(own, frame))) for own in (held, made))
        # Points go straight from key to key, what lies between them not quite: a few px of some thousands.
        assert one.symmetric_difference(other).area < 0.004 * one.area


def test_points_go_from_every_key_and_two_stay():
    made = take_from_line(layer(keys(*LINES)), "t", "effects.m.contour", (1, 3))
    assert [len(key.value) for key in contour_of(made).keys] == [2, 2, 2, 2]
    with pytest.raises(RovixError, match="at least two points"):
        take_from_line(made, "t", "effects.m.contour", (0,))


def test_a_line_of_as_many_points_sets_a_key_and_any_other_takes_the_place_of_all():
    project = layer(keys(*LINES))
    same = contour_of(set_line(project, "t", "effects.m.contour", 5, circle(50)))
    assert [key.frame for key in same.keys] == [0, 5, 10, 20, 30]
    assert same.keys[1].curve == "smooth"
    other = contour_of(set_line(project, "t", "effects.m.contour", 5, corners((0, 0), (9, 0), (0, 9))))
    assert len(other) == 3


def test_points_are_moved_bent_rounded_and_made_corners():
    line = circle()
    assert moved(line, [1], 5, -3)[1][:2] == (105, -3)
    assert moved(line, [1], 5, -3)[0] == line[0]
    bent = pulled(line, 1, "after", (0.0, 80.0))[1]
    assert bent[4:] == (0, 80)
    assert bent[2:4] == pytest.approx((0, -ARC * 100), abs=1e-3)
    turned = pulled(line, 1, "after", (40.0, 40.0))[1]
    assert is_smooth(turned)
    assert not is_smooth(pulled(line, 1, "after", (40.0, 40.0), apart=True)[1])
    assert not is_smooth(cornered(line, 1)[1])
    assert is_smooth(smoothed(cornered(line, 1), 1)[1])


def test_a_mask_has_its_line_as_it_is_at_a_frame():
    settled = at_frame(Mask(form="drawn", contour=keys(*LINES)), 15)
    assert settled.contour == contour_at(keys(*LINES), 15)


@given(st.lists(st.tuples(*[st.floats(-3000, 3000)] * 6), min_size=3, max_size=9))
def test_lines_come_back_from_path_data(points):
    line = tuple(tuple(round(n, 3) for n in point) for point in points)
    back = line_of(path_data(line))
    assert np.abs(np.array(back) - np.array(line)).max() < 0.02


@pytest.mark.parametrize(
    ("data", "points"),
    [
        # Made by hand by the grammar of SVG 2, section 9.3.
        ("M0,0 L100,0 L100,50 Z", 3),
        ("m 10 10 h 30 v 20 h -30 z", 4),
        ("M0,0 Q50,-50 100,0 L50,80 Z", 3),
    ],
)
def test_path_data_of_others_is_read(data, points):
    assert len(line_of(data)) == points


@pytest.mark.parametrize(("data", "why"), [("M0,0", "has 1 points"), ("M0,0 L9,9 Z M1,1 L2,2 L3,0 Z", "several"),
                                           ("M nonsense", "no path data")])  # fmt: skip
def test_other_path_data_is_refused(data, why):
    with pytest.raises(RovixError, match=why):
        line_of(data)
