"""Matrices against hand-worked chains and CSS Transforms Level 2."""

from math import atan, degrees, radians, tan

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from rovix.motion.transform import affine, camera, mapped, projected

ZERO = {name: np.zeros(()) for name in ("x", "y", "z", "rotation_z", "slant", "rotation_x", "rotation_y")}
NEUTRAL = ZERO | {"scale_x": np.ones(()), "scale_y": np.ones(())}
ORIGIN = np.zeros(2)


def matrix(pivot=ORIGIN, **values):
    return affine(
        NEUTRAL | {name: np.asarray(float(value)) for name, value in values.items()}, np.asarray(pivot, float)
    )


def test_neutral_is_the_identity():
    assert np.array_equal(matrix(), np.eye(4))
    assert np.array_equal(matrix(pivot=(40, 70)), np.eye(4))


def test_degrees_are_clockwise_with_y_down():
    assert matrix(rotation_z=90)[:2, :2].tolist() == [[0, -1], [1, 0]]
    # CSS Transforms Level 2, rotateX and rotateY matrices.
    assert matrix(rotation_x=90)[:3, :3].tolist() == [[1, 0, 0], [0, 0, -1], [0, 1, 0]]
    assert matrix(rotation_y=90)[:3, :3].tolist() == [[0, 0, 1], [0, 1, 0], [-1, 0, 0]]


def test_positive_slant_leans_letters_right():
    top = matrix(slant=20) @ np.array([0, -100, 0, 1])
    assert top[0] == pytest.approx(100 * tan(radians(20)))


def test_the_pivot_stays_where_it_is():
    moved = matrix(
        pivot=(30, -20), rotation_z=77, scale_x=2.0, slant=12, rotation_x=30, rotation_y=9
    ) @ np.array([30, -20, 0, 1])
    assert moved[:3] == pytest.approx([30, -20, 0])


@given(*(st.floats(-180, 180) for _ in range(3)), st.floats(-60, 60), st.floats(0.1, 3), st.floats(0.1, 3))
def test_order_is_scale_slant_tip_swing_turn_move(turn, tip, swing, slant, across, down):
    """Each step written out from its own CSS matrix, multiplied by hand."""

    def rotation(axis, angle):
        cosine, sine = np.cos(radians(angle)), np.sin(radians(angle))
        rows = {
            "x": [[1, 0, 0], [0, cosine, -sine], [0, sine, cosine]],
            "y": [[cosine, 0, sine], [0, 1, 0], [-sine, 0, cosine]],
            "z": [[cosine, -sine, 0], [sine, cosine, 0], [0, 0, 1]],
        }
        return np.array(rows[axis])

    shear = np.array([[1, -tan(radians(slant)), 0], [0, 1, 0], [0, 0, 1]])
    expected = (
        rotation("z", turn) @ rotation("y", swing) @ rotation("x", tip) @ shear @ np.diag([across, down, 1])
    )
    found = matrix(
        rotation_z=turn,
        rotation_x=tip,
        rotation_y=swing,
        slant=slant,
        scale_x=across,
        scale_y=down,
        x=5,
        y=6,
        z=7,
    )
    assert found[:3, :3] == pytest.approx(expected, abs=1e-12)
    assert found[:3, 3].tolist() == [5, 6, 7]


def test_the_camera_scales_by_distance():
    # D = (H / 2) / tan(fov / 2); a point at depth z is scaled by D / (D - z).
    distance = 540 / tan(radians(20))
    point = camera((1920, 1080)) @ np.array([100, 50, 300, 1])
    assert point[:2] / point[3] == pytest.approx(np.array([100, 50]) * distance / (distance - 300))
    behind = camera((1920, 1080)) @ np.array([100, 50, distance + 1, 1])
    assert behind[3] < 0


def test_perspective_agrees_with_css_perspective():
    # CSS Transforms Level 2: perspective(d) rotateY(60deg), corners of a 200 x 100 box by hand.
    d, size = 500.0, (800, 600)
    fov = 2 * degrees(atan(size[1] / 2 / d))
    flat = (camera(size, fov) @ matrix(rotation_y=60))[..., [0, 1, 3], :][..., [0, 1, 3]]
    corners = mapped(flat, np.array([[-100.0, -50.0], [100.0, 50.0]]))
    for (x, y), found in zip(((-100, -50), (100, 50)), corners, strict=True):
        depth = -x * np.sin(radians(60))
        share = d / (d - depth)
        assert found == pytest.approx([x * 0.5 * share, y * share])


def test_the_frame_centre_is_the_middle_of_the_picture():
    assert mapped(projected(matrix(x=10, y=-5), (640, 360)), np.zeros((1, 2)))[0].tolist() == [330, 175]


def test_what_is_behind_the_viewer_is_nowhere():
    assert np.isnan(mapped(projected(matrix(z=99_999), (640, 360)), np.zeros((1, 2)))).all()


@pytest.mark.parametrize(
    ("turned", "squeeze", "counter"),
    # Common practice, no source; exact by atan(tan a / s).
    [(-20, 0.60, 31.24), (-20, 0.001, 89.84)],
)
def test_words_turned_and_squeezed_sit_level_after_a_counter_turn(turned, squeeze, counter):
    exact = -degrees(atan(tan(radians(turned)) / squeeze))
    assert exact == pytest.approx(counter, abs=0.02)
    chain = matrix(rotation_z=exact) @ matrix(scale_x=squeeze) @ matrix(rotation_z=turned)
    baseline = chain @ np.array([1, 0, 0, 0])
    assert baseline[1] == pytest.approx(0, abs=1e-12)


def test_turn_and_squeeze_equal_a_slant():
    # Common practice, no source: slant 18.92 degrees, width 0.6594, height 0.9099 for -20 and 60 %.
    exact = -degrees(atan(tan(radians(-20)) / 0.6))
    chain = matrix(rotation_z=exact) @ matrix(scale_x=0.6) @ matrix(rotation_z=-20)
    width, height = chain[0, 0], chain[1, 1]
    assert (width, height) == pytest.approx((0.6594, 0.9099), abs=1e-4)
    # Height first, then the slant: x += -tan(phi) y with y already scaled.
    assert degrees(atan(-chain[0, 1] / height)) == pytest.approx(18.92, abs=0.01)
