import opentimelineio as otio
import pytest
from hypothesis import given
from hypothesis import strategies as st
from timecode import Timecode

from rovix.time import frame_of, timecode

# Frame numbers around every place where drop-frame counting turns (SMPTE ST 12-1).
TURNS = [0, 1, 29, 30, 1799, 1800, 1801, 17981, 17982, 17983, 19781, 19782, 107891, 107892, 2589407]


@pytest.mark.parametrize("frame", TURNS)
def test_drop_frame_labels_agree_with_the_timecode_package(frame):
    expected = str(Timecode("29.97", frames=frame + 1))  # it counts frames from 1 and drops by itself
    assert timecode(frame, "29.97", drop=True) == expected
    assert frame_of(expected, "29.97") == frame


@pytest.mark.parametrize("frame", TURNS)
def test_drop_frame_labels_agree_with_opentimelineio(frame):
    moment = otio.opentime.RationalTime(frame, 30000 / 1001)
    expected = otio.opentime.to_timecode(moment, 30000 / 1001, drop_frame=True)
    assert timecode(frame, "30000/1001", drop=True) == expected


def test_sixty_drops_four_labels_a_minute():
    assert timecode(3600, "59.94", drop=True) == "00:01:00;04"
    assert timecode(3599, "59.94", drop=True) == "00:00:59;59"


@given(st.integers(0, 2589407))
def test_drop_frame_round_trip(frame):
    assert frame_of(timecode(frame, "29.97", drop=True), "29.97") == frame


@given(st.integers(0, 24 * 3600 * 25 - 1))
def test_non_drop_round_trip(frame):
    label = timecode(frame, 25)
    assert frame_of(label, 25) == frame
    assert label.count(":") == 3


@pytest.mark.parametrize(
    "label",
    [
        "00:01:00;00",
        "00:01:00;01",
        "10:59:00;00",
        "00:00:00:30",
        "24:00:00:00",
        "00:60:00:00",
        "00:00:60:00",
        "1:2:3:4",
        "",
    ],
)
def test_labels_that_do_not_exist_are_refused(label):
    with pytest.raises(ValueError, match=r"not exist|no timecode"):
        frame_of(label, "29.97")


def test_the_tenth_minute_keeps_its_labels():
    assert frame_of("00:10:00;00", "29.97") == 17982
    assert frame_of("00:01:00:00", "29.97") == 1800  # non-drop has every label


def test_there_is_no_drop_frame_at_film_rate():
    with pytest.raises(ValueError, match="no drop-frame"):
        timecode(0, "24000/1001", drop=True)
    with pytest.raises(ValueError, match="no drop-frame"):
        frame_of("00:00:00;00", 25)


@pytest.mark.parametrize("frame", [-1, 24 * 3600 * 30])
def test_frames_without_a_label_are_refused(frame):
    with pytest.raises(ValueError, match="24 hours"):
        timecode(frame, 30)
