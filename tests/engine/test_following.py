"""Following in real files: the demo's kites, whose true places its generator knows."""

from dataclasses import replace
from fractions import Fraction
from math import cos, radians, sin

import numpy as np
import pytest

from rovix.demo.kites import CROSSING_KITES
from rovix.engine.following import Region, follow, followed
from rovix.errors import RovixError
from rovix.media.probe import probe
from rovix.vision.alignment import Freedom

FILM = "kite-crossing.mp4"
LOW = 0.12
"""The middle of a kite's sail lies so much of its height under the point that it swings about."""


def true_place(kite, frame, rate):
    (x, y), turn = kite.place(frame / float(rate))
    down = LOW * kite.height
    return np.array([x - down * sin(radians(turn)), y + down * cos(radians(turn))]), turn


def region_of(kite, frame, rate):
    (x, y), _ = true_place(kite, frame, rate)
    half = kite.height / 2
    return Region(frame, (x - half, y - half, 2 * half, 2 * half), Freedom(rotation=True))


@pytest.fixture
def film(demo_data):
    media = probe(demo_data / FILM)
    return demo_data / FILM, Fraction(media.rate), media


def test_the_demos_kite_is_followed_forwards_and_backwards(film):
    path, rate, media = film
    size = np.array([media.width, media.height])
    for kite in CROSSING_KITES[:1]:
        frames = range(round(media.length * rate))
        inside = [
            n
            for n in frames
            if (np.abs(true_place(kite, n, rate)[0] / size - 0.5) < 0.5 - kite.height / size).all()
        ]
        picked = inside[len(inside) // 2]
        region = region_of(kite, picked, rate)
        first, last = max(inside[0], picked - 30), min(inside[-1], picked + 20)
        inside = [n for n in inside if first <= n <= last]
        found = followed(path, replace(region, first=first, last=last), lambda done, total: None)
        assert sorted(found) == list(range(first, last + 1))
        places = found
        errors = [np.hypot(*(true_place(kite, n, rate)[0] - (places[n].x, places[n].y))) for n in inside]
        turns = [
            places[n].rotation - (true_place(kite, n, rate)[1] - true_place(kite, picked, rate)[1])
            for n in inside
        ]
        assert len(inside) > 40
        assert np.median(errors) < 0.3
        assert max(errors) <= 1.5
        assert np.abs(turns).max() < 1.5


def test_it_can_be_stopped_and_says_how_far_it_is(film):
    path, rate, _ = film
    told = []

    def stop(done, total):
        told.append((done, total))
        if done == 5:
            raise KeyboardInterrupt

    with pytest.raises(KeyboardInterrupt):
        follow(path, region_of(CROSSING_KITES[0], 100, rate), stop)
    assert told == [(n, told[0][1]) for n in range(2, 6)]


@pytest.mark.parametrize(
    ("frame", "box", "said"),
    [(9999, (10, 10, 40, 40), "no frame 9999"), (-1, (10, 10, 40, 40), "no frame -1"),
     (0, (10, 10, 3, 40), "px are too few"), (0, (5000, 10, 40, 40), "beyond the picture")],
)  # fmt: skip
def test_what_cannot_be_followed_is_a_sentence(film, frame, box, said):
    with pytest.raises(RovixError, match=said):
        follow(film[0], Region(frame, box))


def test_what_is_no_video_is_a_sentence(tmp_path, demo_data):
    (tmp_path / "a.mp4").write_bytes(b"no film")
    with pytest.raises(RovixError, match=r"a\.mp4"):
        follow(tmp_path / "a.mp4", Region(0, (0, 0, 20, 20)))
    still = next(demo_data.glob("*.png"))
    with pytest.raises(RovixError, match="is no video"):
        follow(still, Region(0, (0, 0, 20, 20)))
