"""Repetition, there and back: which frame of the material a position stands for."""

from fractions import Fraction

import pytest

from rovix.time import pass_length, played


@pytest.mark.parametrize(
    ("span", "and_back", "shown"),
    [
        (None, False, [0, 1, 2, 3, 4, 5, 6]),
        (3, False, [0, 1, 2, 0, 1, 2, 0]),
        (3, True, [0, 1, 2, 1, 0, 1, 2]),
        (2, True, [0, 1, 0, 1, 0, 1, 0]),
        (1, True, [0, 0, 0, 0, 0, 0, 0]),
        (1, False, [0, 0, 0, 0, 0, 0, 0]),
    ],
)
def test_positions_by_hand(span, and_back, shown):
    assert [played(Fraction(at), span, and_back) for at in range(7)] == shown


def test_there_and_back_joins_after_a_pass():
    for span in (1, 2, 5, 8):
        whole = pass_length(span, and_back=True)
        first = [played(Fraction(at), span, True) for at in range(whole)]
        again = [played(Fraction(at + whole), span, True) for at in range(whole)]
        assert first == again
    assert pass_length(7) == 7


def test_between_frames_it_goes_evenly():
    assert played(Fraction(5, 2), 3, True) == Fraction(3, 2)
    assert played(Fraction(7, 2), 3) == Fraction(1, 2)
