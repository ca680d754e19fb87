"""Springs against SciPy's solver of the equation of motion."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from rovix.curve import Spring, Track, easing, reversed_easing, settling_time, spring
from rovix.curve.spring import SETTLED

CASES = [
    (1.0, 100.0, 10.0, 0.0),  # swings
    (1.0, 100.0, 20.0, 0.0),  # critical
    (1.0, 100.0, 60.0, 0.0),  # creeps
    (2.5, 170.0, 4.0, 3.0),
    (0.2, 30.0, 9.0, -5.0),
    (1.0, 100.0, 20.0, 12.0),
    (1.0, 100.0, 19.999999, 0.0),
    (1.0, 100.0, 20.000001, 0.0),
    (1.0, 50.0, 0.0, 0.0),
]


@pytest.mark.parametrize(("mass", "stiffness", "damping", "velocity"), CASES)
def test_a_spring_is_the_solution_of_its_equation(mass, stiffness, damping, velocity):
    def motion(_, state):
        return [state[1], (stiffness * (1 - state[0]) - damping * state[1]) / mass]

    times = np.linspace(0, 3, 301)
    solved = solve_ivp(motion, (0, 3), [0.0, velocity], t_eval=times, rtol=1e-11, atol=1e-12, method="DOP853")
    np.testing.assert_allclose(spring(mass, stiffness, damping, velocity)(times), solved.y[0], atol=2e-8)


def test_it_starts_at_nought_with_its_velocity_and_ends_at_one():
    position = spring(1.0, 120.0, 9.0, 4.0)
    assert float(position(0.0)) == 0.0
    assert float(position(1e-7) / 1e-7) == pytest.approx(4.0, rel=1e-4)
    assert float(position(60.0)) == pytest.approx(1.0, abs=1e-12)
    assert float(position(-1.0)) == 0.0
    assert position(np.zeros((2, 3))).shape == (2, 3)


@pytest.mark.parametrize(
    ("mass", "stiffness", "damping", "velocity"), [case for case in CASES if case[2] > 0]
)
def test_the_settling_time_is_the_last_moment_outside(mass, stiffness, damping, velocity):
    whole = settling_time(mass, stiffness, damping, velocity)
    position = spring(mass, stiffness, damping, velocity)
    after = position(np.linspace(whole, whole * 4, 4001))
    assert np.abs(after - 1).max() <= SETTLED * 1.000001
    assert abs(float(position(whole * (1 - 1e-6))) - 1) >= SETTLED * 0.99


def test_what_no_spring_can_be_is_said():
    for numbers, said in (
        ((0, 1, 1), "mass"),
        ((1, -2, 1), "stiffness"),
        ((1, 1, -1), "damping"),
        ((1, 1, np.nan), "finite"),
    ):
        with pytest.raises(ValueError, match=said):
            spring(*numbers)
    with pytest.raises(ValueError, match="never settles"):
        settling_time(1, 100, 0)
    with pytest.raises(ValueError, match="hour"):
        settling_time(1, 100, 1e-7)


@given(st.floats(0.1, 10), st.floats(1, 500), st.floats(0.5, 60), st.floats(-10, 10))
def test_as_an_easing_it_starts_and_ends_exactly(mass, stiffness, damping, velocity):
    ease = easing(
        f"spring(mass {mass:.4f} stiffness {stiffness:.4f} damping {damping:.4f} velocity {velocity:.4f})"
    )
    assert ease([0.0, 1.0, -0.5, 1.5]).tolist() == [0.0, 1.0, 0.0, 1.0]
    whole = settling_time(round(mass, 4), round(stiffness, 4), round(damping, 4), round(velocity, 4))
    shares = np.linspace(0, 1, 50)
    own = spring(round(mass, 4), round(stiffness, 4), round(damping, 4), round(velocity, 4))(shares * whole)
    assert np.abs(ease(shares) - own).max() <= SETTLED * 1.01


def test_the_evaluator_itself_uses_it():
    track = Track([(0, 0.0, "spring(mass 1 stiffness 200 damping 10)"), (30, 10.0)])
    whole = settling_time(1, 200, 10)
    frames = np.arange(31)
    expected = 10 * spring(1, 200, 10)(frames / 30 * whole)
    np.testing.assert_allclose(track(frames), expected, atol=10 * SETTLED)
    assert track(30).item() == 10.0
    assert track(frames).max() > 12, "it swings beyond"


def test_a_mirrored_spring_is_its_reverse_and_back():
    text = "spring(mass 1 stiffness 200 damping 10)"
    shares = np.linspace(0, 1, 41)
    mirrored = reversed_easing(text)
    np.testing.assert_allclose(easing(mirrored)(shares), 1 - easing(text)(1 - shares))
    assert reversed_easing(mirrored) == text
    with pytest.raises(ValueError, match="'1' is no number of a spring"):
        easing("spring(1, 2)")
    with pytest.raises(ValueError, match="'damping' stands alone"):
        easing("spring(mass 1 damping)")
    with pytest.raises(ValueError, match="twice"):
        easing("spring(mass 1 mass 2)")
    with pytest.raises(ValueError, match="'soft' is no number for its damping"):
        easing("spring(damping soft)")


def test_a_springs_numbers_stand_in_any_order_and_default():
    shares = np.linspace(0, 1, 41)
    plain = easing("spring()")(shares)
    np.testing.assert_array_equal(plain, easing("spring(damping 23 mass 1 stiffness 145)")(shares))
    np.testing.assert_array_equal(plain, easing(Spring().text)(shares))
    assert Spring(2.0, 80.0, 5.5, -1.0).text == "spring(mass 2 stiffness 80 damping 5.5 velocity -1)"


def test_a_spring_without_mass_is_refused():
    with pytest.raises(ValueError, match="above 0"):
        easing("spring(mass 0 stiffness 2 damping 1)")
