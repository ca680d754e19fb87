"""Against CSS Easing Functions Level 1 and 2, by their text and by independent solving."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import brentq

from rovix.curve import easing, easing_names, reversed_easing

SHARES = np.linspace(0, 1, 101)


def bezier(x1, y1, x2, y2, progress):
    """Solved by SciPy's bracketed root finding, to 1e-14."""

    def at(a, b, t):
        return 3 * a * (1 - t) ** 2 * t + 3 * b * (1 - t) * t**2 + t**3

    return at(y1, y2, brentq(lambda t: at(x1, x2, t) - progress, 0, 1, xtol=1e-15))


@pytest.mark.parametrize(
    "points",
    [
        (0.25, 0.1, 0.25, 1),
        (0.42, 0, 1, 1),
        (0, 0, 0.58, 1),
        (0.42, 0, 0.58, 1),
        (1, 0, 0, 1),
        (0, 1.5, 1, -0.5),
        (0, 0, 0, 0),
    ],
)
def test_bezier_agrees_with_root_finding(points):
    expected = [bezier(*points, share) for share in SHARES[1:-1]]
    found = easing(f"cubic-bezier({', '.join(map(str, points))})")(SHARES[1:-1])
    assert np.max(np.abs(found - expected)) < 1e-9


def test_keywords_are_the_beziers_that_the_standard_names():
    # CSS Easing Functions Level 1, section 2.2.1.
    for name, points in {
        "ease": "0.25, 0.1, 0.25, 1",
        "ease-in": "0.42, 0, 1, 1",
        "ease-out": "0, 0, 0.58, 1",
        "ease-in-out": "0.42, 0, 0.58, 1",
    }.items():
        assert np.array_equal(easing(name)(SHARES), easing(f"cubic-bezier({points})")(SHARES))


def test_bezier_goes_on_along_its_end_tangents():
    # Level 1, section 2.2: beyond the ends the curve is extended by the tangent there.
    ease = easing("cubic-bezier(0.25, 0.5, 0.5, 0.75)")
    assert ease(-1.0) == pytest.approx(-2.0)
    assert ease(2.0) == pytest.approx(1 + 0.25 / 0.5)
    # The first control point lies on the start: the second gives the tangent.
    assert easing("cubic-bezier(0, 0, 0.5, 1)")(-1.0) == pytest.approx(-2.0)
    # Both lie on the start: the slope is zero.
    assert easing("cubic-bezier(0, 0.3, 0, 0.6)")(-1.0) == 0.0
    assert easing("cubic-bezier(1, 0.3, 1, 0.6)")(2.0) == 1.0


@pytest.mark.parametrize(
    ("text", "progress", "expected"),
    [
        # Level 1, section 2.3, its table of step positions worked out by hand.
        ("steps(4)", [0, 0.24, 0.25, 0.99, 1], [0, 0, 0.25, 0.75, 1]),
        ("steps(4, start)", [0, 0.24, 0.25, 0.99, 1], [0.25, 0.25, 0.5, 1, 1]),
        ("steps(3, jump-none)", [0, 0.32, 0.34, 0.67, 1], [0, 0, 0.5, 1, 1]),
        ("steps(3, jump-both)", [0, 0.32, 0.34, 0.67, 1], [0.25, 0.25, 0.5, 0.75, 1]),
        ("step-start", [-0.1, 0, 0.5, 1], [0, 1, 1, 1]),
        ("step-end", [-0.1, 0, 0.99, 1], [-1, 0, 0, 1]),
        # Outside 0..1 the algorithm goes on stepping.
        ("steps(4, end)", [-0.1, 1.25], [-0.25, 1.25]),
        ("steps(4, start)", [-0.1, -0.3, 1.25], [0, -0.25, 1.5]),
    ],
)
def test_steps(text, progress, expected):
    assert easing(text)(progress).tolist() == expected


@pytest.mark.parametrize(
    ("text", "progress", "expected"),
    [
        ("linear(0, 1)", [-0.5, 0, 0.3, 1, 1.5], [-0.5, 0, 0.3, 1, 1.5]),
        # Level 2, section 2.2: missing inputs are spread evenly.
        ("linear(0, 0.25, 1)", [0.25, 0.5, 0.75], [0.125, 0.25, 0.625]),
        ("linear(0, 0.25 75%, 1)", [0.375, 0.75, 0.875], [0.125, 0.25, 0.625]),
        # Two inputs hold the output between them.
        ("linear(0, 0.5 25% 75%, 1)", [0.25, 0.5, 0.75, 0.875], [0.5, 0.5, 0.5, 0.75]),
        # Several points at one input: the last holds there.
        ("linear(0, 0.2 50%, 0.8 50%, 1)", [0.25, 0.5, 0.75], [0.1, 0.8, 0.9]),
        # An input smaller than one before it is raised to it.
        ("linear(0, 0.5 60%, 1 20%, 1)", [0.3, 0.6, 0.8], [0.25, 1, 1]),
        # The first and last segment go on outside.
        ("linear(0 20%, 1 80%)", [0, 1.1], [-1 / 3, 1.5]),
        ("linear(75% 0.5, 1)", [0.75], [0.5]),
    ],
)
def test_linear_points(text, progress, expected):
    assert easing(text)(progress) == pytest.approx(expected)


@pytest.mark.parametrize(
    "text",
    [
        "", "quick", "ease-", "cubic-bezier(0, 0, 1)", "cubic-bezier(1.1, 0, 1, 1)", "cubic-bezier(-0.1, 0, 1, 1)",
        "cubic-bezier(a, 0, 1, 1)", "cubic-bezier(0, inf, 1, 1)", "cubic-bezier(0, 1e999, 1, 1)", "cubic-bezier(0,0,1,1",
        "steps(0)", "steps(1, jump-none)", "steps(2.5)", "steps(2, middle)", "steps()", "steps(2, start, end)",
        "linear()", "linear(1)", "linear(0, 10%)", "linear(0, 1 10% 20% 30%)", "linear(0, 5% 1 10%, 1)",
        "linear(0, 1px)", "linear(0, , 1)", "back", "back-up", "spring-out", "bounce-in-in", "wiggle(3)",
    ],
)  # fmt: skip
def test_bad_text_is_refused_by_name(text):
    with pytest.raises(ValueError) as refused:  # noqa: PT011 - the message is checked below
        easing(text)
    assert f"'{text}'" in str(refused.value)


def test_spelling_is_as_free_as_in_css():
    assert easing(" Cubic-Bezier( .25,0.1 , 0.25, 1 ) ")(0.5) == easing("ease")(0.5)
    assert easing("STEPS( 3 , JUMP-BOTH )")(0.5) == 0.5


@pytest.mark.parametrize("name", easing_names())
def test_every_named_easing_meets_its_ends(name):
    start, end = easing(name)([0.0, 1.0])
    assert end == 1.0
    assert start == (1.0 if name == "step-start" else 0.0)


def test_an_array_of_any_shape_comes_back_in_that_shape():
    for name in easing_names():
        assert easing(name)(np.zeros((2, 3, 4))).shape == (2, 3, 4)
        assert easing(name)(0.5).shape == ()


continuous = [name for name in easing_names() if not name.startswith(("step", "hold"))]


@given(
    st.sampled_from([*continuous, "cubic-bezier(0.2, -1, 0.3, 2)", "linear(0, 0.7 20% 40%, 1)"]),
    # expo jumps by 1/1024 at its foot; nearer to the ends, 1 - share is the end itself
    st.floats(1e-9, 1 - 1e-9),
)
def test_reversed_is_the_same_way_from_the_other_end(name, share):
    turned = easing(reversed_easing(name))
    assert turned(share) == pytest.approx(1 - float(easing(name)(1 - share)), abs=1e-9)


def test_reversed_steps_jump_at_the_other_end():
    assert reversed_easing("steps(5, start)") == "steps(5, end)"
    assert reversed_easing("hold") == "step-start"
