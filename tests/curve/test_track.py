import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from rovix.curve import Key, Track, easing


def test_values_hold_outside_and_meet_the_keys():
    track = Track([Key(10, 5.0), Key(20, 9.0, "ease"), Key(30, 1.0)])
    assert track([0, 10, 20, 30, 99]).tolist() == [5, 5, 9, 1, 1]
    assert track(15.0) == 7.0


def test_each_segment_has_the_easing_of_its_first_key():
    track = Track([(0, 0.0, "quad-in"), (10, 1.0, "hold"), (20, 3.0)])
    assert track([5, 15, 19.999, 20]).tolist() == [0.25, 1.0, 1.0, 3.0]


def test_an_overshooting_curve_goes_beyond_the_next_value():
    track = Track([(0, 0.0, "back-out"), (10, 100.0)])
    assert track(np.linspace(0, 10, 50)).max() > 108


def test_one_key_is_a_constant():
    assert Track([(3, 7.0)])(np.zeros((2, 2))).tolist() == [[7, 7], [7, 7]]


@pytest.mark.parametrize(
    ("keys", "said"),
    [
        ([], "at least one"),
        ([(0, 1.0), (0, 2.0)], "rise"),
        ([(0, 1.0), (-1, 2.0)], "rise"),
        ([(0, float("nan"))], "finite"),
        ([(float("inf"), 0.0)], "finite"),
        ([(0, 1.0, "wobble"), (1, 2.0)], "wobble"),
    ],
)
def test_bad_keys_are_refused(keys, said):
    with pytest.raises(ValueError, match=said):
        Track(keys)


times = st.lists(st.integers(-500, 500), min_size=2, max_size=12, unique=True).map(sorted)


@given(times, st.data())
def test_a_track_agrees_with_numpy_interpolation(places, data):
    values = data.draw(st.lists(st.floats(-1e3, 1e3), min_size=len(places), max_size=len(places)))
    asked = np.linspace(places[0] - 5, places[-1] + 5, 77)
    assert Track(zip(places, values, strict=True))(asked) == pytest.approx(
        np.interp(asked, places, values), abs=1e-9
    )


@given(times, st.sampled_from(["ease", "back-in-out", "elastic-out", "linear", "hold"]))
def test_evaluating_at_a_key_gives_its_value_exactly(places, curve):
    values = [np.sin(place) * 100 for place in places]
    track = Track([(place, value, curve) for place, value in zip(places, values, strict=True)])
    assert track(places).tolist() == values


def test_mixed_curves_evaluate_as_each_would_alone():
    track = Track([(0, 0.0, "ease-in"), (10, 1.0, "bounce-out"), (20, 0.0)])
    asked = np.linspace(0, 9.99, 31)
    assert np.array_equal(track(asked), easing("ease-in")(asked / 10))
