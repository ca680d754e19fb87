"""Where the playhead is to go, as people type it."""

from fractions import Fraction

import pytest

from rovix.time.timecode import frame_from, timecode

NTSC = Fraction(30000, 1001)


@pytest.mark.parametrize(
    ("typed", "rate", "now", "frame"),
    [("1:12", 25, 0, 37), ("350f", 25, 0, 350), ("350", 25, 0, 350), ("+15", 25, 100, 115), ("-15", 25, 100, 85),
     ("−15", 25, 100, 85), ("2.5s", 24, 0, 60), ("2,5 s", 24, 0, 60), ("400ms", 25, 0, 10), ("+1:00", 30, 7, 37),
     ("1:02:03", 30, 0, 62 * 30 + 3), ("1:00:00:00", 30, 0, 108_000), ("00:00:01:12", 25, 0, 37),
     ("00:01:00;02", NTSC, 0, 1800), ("-5", 25, 2, -3), ("+ 12f", 25, 1, 13), ("1;05", NTSC, 0, 35), ("0", 25, 9, 0)],
)  # fmt: skip
def test_a_time_is_typed_in_many_ways(typed, rate, now, frame):
    assert frame_from(typed, rate, now) == frame


@pytest.mark.parametrize(
    "typed", ["", "x", "1:", ":12", "1:2:3:4:5", "--3", "5 kg", "1e9", "+", "0x10", "１２"]
)
def test_what_is_no_time_is_refused_with_the_ways_to_write_one(typed):
    with pytest.raises(ValueError, match="Write 1:12, 350f"):
        frame_from(typed, 25)


@pytest.mark.parametrize("rate", [24, 25, NTSC, Fraction(60000, 1001)])
def test_every_label_that_is_shown_can_be_typed(rate):
    for frame in (0, 1, 59, 1799, 1800, 17982, 107_892):
        assert frame_from(timecode(frame, rate), rate, 5) == frame
