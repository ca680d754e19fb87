"""One file read for several: what is kept, what is gone, what is decoded ahead."""

from fractions import Fraction

import numpy as np
import pytest

from made_files import video
from rovix.media import shared_video
from rovix.media.glimpses import Glimpses
from rovix.media.shared_video import Gone, SharedVideo
from rovix.media.video import VideoReader

RATE, COUNT = 30, 120


@pytest.fixture(scope="module")
def film(tmp_path_factory):
    """120 pictures, each a grey of its own."""
    path = tmp_path_factory.mktemp("film") / "greys.mp4"
    video(path, [np.full((48, 64, 3), 2 * number, np.uint8) for number in range(COUNT)], g="40")
    return path


def at(number):
    return Fraction(2 * number + 1, 2 * RATE)


def alone(path, number):
    reader = VideoReader(path)
    try:
        return reader.picture(at(number))
    finally:
        reader.close()


@pytest.fixture
def shared(film):
    made = SharedVideo(film)
    yield made
    made.close()


def test_two_who_draw_stretches_in_turn_are_both_served(shared, film):
    for stretch in range(0, COUNT, 16):
        for number in range(8):
            for mine in (stretch + 8 + number, stretch + number):
                assert np.array_equal(shared.picture(at(mine)), alone(film, mine)), mine


def test_one_who_lags_far_behind_does_not_take_the_others_place(shared, film):
    shared.picture(at(100))
    with pytest.raises(Gone):
        shared.picture(at(3))
    assert np.array_equal(shared.picture(at(101)), alone(film, 101))
    with pytest.raises(Gone):
        shared.picture(at(4))


def test_one_who_goes_back_for_good_is_followed(shared, film):
    shared.picture(at(100))
    for number in (3, 4):
        with pytest.raises(Gone):
            shared.picture(at(number))
    assert np.array_equal(shared.picture(at(5)), alone(film, 5))
    assert np.array_equal(shared.picture(at(100)), alone(film, 100))


def test_some_are_decoded_ahead_and_no_more(shared):
    assert not shared.look_ahead(), "nobody asked for anything yet"
    shared.picture(at(10))
    ahead = 0
    while shared.look_ahead():
        ahead += 1
    assert 1 <= ahead <= shared_video._AHEAD
    shared.picture(at(11))
    assert shared.look_ahead()
    shared.picture(at(COUNT - 1))
    while shared.look_ahead():
        pass
    assert shared.picture(at(COUNT + 50)).max() == shared.picture(at(COUNT - 1)).max(), "the last one stays"


def test_what_is_kept_has_a_bound_in_bytes(film, monkeypatch):
    one = 64 * 48 * 3
    monkeypatch.setattr(shared_video, "_BYTES", 5 * one)
    made = SharedVideo(film)
    for number in range(0, COUNT, 7):
        made.picture(at(number))
        assert 1 <= len(made._kept) <= 6
        assert made._bytes == sum(shared_video._size(kept.frame) for kept in made._kept)
    made.close()


def test_decoding_towards_a_time_goes_frame_by_frame(shared, film):
    steps = 0
    while not shared.come_nearer(at(30), lags=False):
        steps += 1
    assert 25 <= steps <= 31
    assert np.array_equal(shared.picture(at(30)), alone(film, 30))


def test_what_is_nearest_comes_where_the_picture_itself_takes_long(shared, film, monkeypatch):
    monkeypatch.setattr(shared_video, "_AT_ONCE", 0.0)
    shared.picture(at(2))
    pixels, exact = shared.nearest(at(36), None, False)
    assert not exact
    assert np.array_equal(pixels, alone(film, 2)), "nothing nearer is decoded"
    while not shared.come_nearer(at(36), lags=False):
        pass
    assert shared.nearest(at(36), None, False)[1]
    pixels, exact = shared.nearest(at(100), None, False)
    assert not exact
    assert np.array_equal(pixels, alone(film, 80)), "its group begins there"


def test_what_was_passed_by_is_glimpsed_later(shared, film, monkeypatch):
    monkeypatch.setattr(shared_video, "_AT_ONCE", 0.0)
    monkeypatch.setattr(shared_video, "_MOST", 2)
    shared.nearest(at(39), None, False)
    while not shared.come_nearer(at(39), lags=False):
        pass
    for wanted in (8, 20, 31):
        pixels, exact = shared.nearest(at(wanted), None, False)
        grey = pixels[..., 1].mean() / 2
        assert not exact
        assert abs(grey - wanted) <= 4, "an eighth of a second is four frames"
    assert np.array_equal(shared.picture(at(39)), alone(film, 39)), "looking back cost no place"


def test_what_is_at_hand_is_what_is_kept_gone_or_soon_decoded(shared):
    shared.picture(at(50))
    assert shared.is_at_hand(at(50))
    assert shared.is_at_hand(at(52)), "two frames on"
    assert shared.is_at_hand(at(3)), "who lags is told at once that it is gone"
    shared._takes = 1.0
    assert not shared.is_at_hand(at(58))
    assert not shared.is_at_hand(at(119))


def test_glimpses_stay_small(film):
    glimpses = Glimpses()
    assert not glimpses.lacks(0, Fraction(1, 30)), "none before they are wanted"
    glimpses.wanted = True
    assert glimpses.size((3840, 2160)) == (640, 360)
    glimpses.shrunk = (200, 112)
    assert glimpses.size((3840, 2160)) == (200, 112)
    assert glimpses.size((120, 60)) == (120, 60)
    for tick in range(0, 600, 4):
        if glimpses.lacks(tick, Fraction(1, 30)):
            glimpses.add(tick, np.zeros((1000, 1000, 4), np.uint8))
    assert len(glimpses) == 12, "48 MB"
    assert glimpses.off(596) == 0
    assert glimpses.off(0) > 500, "those farthest from the last go first"


def test_in_one_group_decoding_on_is_sooner_than_going_back(tmp_path):
    path = video(tmp_path / "long.mp4", [np.full((48, 64, 3), n, np.uint8) for n in range(COUNT)], g="120")
    reader = SharedVideo(path)
    sought = []
    seek = reader._seek
    reader._seek = lambda tick: (sought.append(tick), seek(tick))
    reader.picture(at(3))
    reader.picture(at(110))
    assert len(sought) == 1
    reader.close()
