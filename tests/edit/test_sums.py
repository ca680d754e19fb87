"""What is typed into a field in which a value stands already."""

import pytest

from rovix.edit.sums import sum_from


@pytest.mark.parametrize(
    ("typed", "unit", "made"),
    [("+10", "px", 42.0), ("*1.5", "px", 48.0), ("×2", "px", 64.0), ("/4", "px", 8.0), ("÷ 4", "", 8.0),
     ("-=2", "px", 30.0), ("−= 1px", "px", 31.0), ("-10", "px", -10.0), ("10", "px", 10.0),
     ("+1turn", "°", 392.0), ("+(2*3)", "px", 38.0), ("+0,5", "s", 32.5)],
)  # fmt: skip
def test_what_is_typed_goes_on_from_the_value_or_takes_its_place(typed, unit, made):
    change = sum_from(typed, unit)
    assert change(32.0) == pytest.approx(made)
    assert change.goes_on == (typed not in ("-10", "10"))


def test_frames_go_on_from_seconds():
    assert sum_from("+12f", "s", 24.0)(1.0) == pytest.approx(1.5)


@pytest.mark.parametrize(
    ("typed", "why"),
    [("/0", "no value"), ("*2px", "no unit"), ("+", "no number"), ("*", "no number"), ("-=", "no number"),
     ("+x", "no number"), ("*1e308", "no value")],
)  # fmt: skip
def test_what_cannot_be_done_is_refused_with_a_reason(typed, why):
    with pytest.raises(ValueError, match=why):
        sum_from(typed, "px")(1e200)
