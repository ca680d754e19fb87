from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rovix.time import Rate, Span


def test_seconds_become_the_nearest_frame_halves_up():
    rate = Rate(30)
    # Python's round takes halves to even: 7.5 would be 8 and 10.5 would be 10.
    assert rate.frames(0.25) == 8
    assert rate.frames(0.35) == 11
    assert rate.frames(0.2499) == 7
    assert Rate(60).frames(0.2) == 12


def test_a_length_is_at_least_one_frame_unless_it_is_nothing():
    assert Rate(25).length(0.001) == 1
    assert Rate(25).length(0.0) == 0


def test_broadcast_rates_are_exact():
    # SMPTE ST 12-1: 29.97 is 30000/1001.
    assert Rate("29.97").fraction == Fraction(30000, 1001)
    assert Rate("23.976") == Rate("24000/1001")
    assert Rate("59.94").nominal == 60
    assert Rate("25").label == "25"
    assert Rate("30000/1001").label == "29.97"


@pytest.mark.parametrize("wrong", ["", "fast", "1/0", "0", "-25", "1001"])
def test_text_that_is_no_rate_is_refused(wrong):
    with pytest.raises(ValueError, match=r"rate|Rate"):
        Rate(wrong)


def test_a_float_is_no_rate():
    with pytest.raises(TypeError, match="30000/1001"):
        Rate(29.97)


def test_positions_within_a_billionth_of_a_frame_are_that_frame():
    assert Rate(30).position(Fraction(1, 3) + Fraction(1, 10**11)) == 10
    assert Rate(30).position(0.35) == Fraction(21, 2)


@given(st.integers(0, 10**7), st.sampled_from(["24", "25", "30000/1001", "60"]))
def test_a_frame_survives_the_way_through_seconds(frame, rate):
    assert Rate(rate).frames(Rate(rate).seconds(frame)) == frame


def test_spans_are_half_open():
    span = Span(10, 20)
    assert 10 in span
    assert 20 not in span
    assert span.length == 10
    assert not span.overlaps(Span(20, 30))
    assert span.overlaps(Span(19, 30))
    assert span.clipped(Span(15, 40)) == Span(15, 20)
    assert span.clipped(Span(30, 40)).length == 0
    with pytest.raises(ValueError, match="before its start"):
        Span(3, 2)
