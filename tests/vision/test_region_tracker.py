"""Regions followed through made-up shots whose every place is known."""

import numpy as np
import pytest

from made_shots import COUNT, SIDE, shot
from rovix.vision.alignment import Freedom, similarity
from rovix.vision.region_tracker import LOST, RegionTracker


def way(n):
    return 90 + 2.3 * n + 6 * np.sin(n / 5), 110 + 20 * np.sin(n / 9)


def slide(n):
    return similarity(*way(n))


def turn(n):
    return similarity(*way(n), 1.0, 0.02 * n)


def zoom(n):
    return similarity(*way(n), 1 + 0.012 * n)


def both(n):
    return similarity(*way(n), 1 + 0.3 * np.sin(n / 12), 0.3 * np.sin(n / 8))


def fast(n):
    return similarity(80 + 110 * (1 - np.cos(n / 11)) / 1.2, 120)


SHOTS = {
    "slide": (slide, {}, Freedom()),
    "fast": (fast, {}, Freedom()),
    "rotation": (turn, {}, Freedom(rotation=True)),
    "zoom": (zoom, {}, Freedom(scale=True)),
    "both": (both, {}, Freedom(True, True)),
    "slight perspective": (slide, {"slant": lambda n: 0.0006 * np.sin(n / 10)}, Freedom(True, True)),
    "noise": (slide, {"noise": 12.0}, Freedom()),
    "blur": (both, {"blur": 2.5}, Freedom(True, True)),
    "light": (both, {"light": lambda n: (1 - 0.012 * n, 0.9 * n)}, Freedom(True, True)),
    "hidden": (slide, {"hidden": range(20, 26)}, Freedom()),
}


def box_of(matrix, side=SIDE - 6):
    x, y = matrix[:2, 2]
    return x - side / 2, y - side / 2, side, side


def followed(matrix_of, made, freedom, picked=0):
    """Places by frame, forwards and backwards from the picked one."""
    found = {}
    for frames in (range(picked + 1, COUNT), range(picked - 1, -1, -1)):
        tracker = RegionTracker(made[picked], box_of(matrix_of(picked)), freedom)
        for number in frames:
            found[number] = tracker.follow(made[number])
    return found


@pytest.mark.parametrize("name", SHOTS)
@pytest.mark.parametrize("picked", [0, COUNT // 3])
def test_a_region_is_followed_to_a_fraction_of_a_px(name, picked):
    matrix_of, how, freedom = SHOTS[name]
    base = np.linalg.inv(matrix_of(picked))
    hidden = how.get("hidden", ())
    found = followed(matrix_of, shot(matrix_of, **how), freedom, picked)
    seen = {n: place for n, place in found.items() if n not in hidden and n - 5 not in hidden}
    errors = [
        np.hypot(place.x - matrix_of(n)[0, 2], place.y - matrix_of(n)[1, 2]) for n, place in seen.items()
    ]
    assert np.median(errors) < 0.3
    assert max(errors) <= 1.5
    assert min(place.confidence for place in seen.values()) > LOST
    for number, place in seen.items():
        true = matrix_of(number)[:2, :2] @ base[:2, :2]
        if freedom.scale:
            assert place.scale == pytest.approx(np.hypot(true[0, 0], true[1, 0]), abs=0.03)
        if freedom.rotation:
            assert place.rotation == pytest.approx(np.degrees(np.arctan2(true[1, 0], true[0, 0])), abs=1.5)


def test_what_is_hidden_is_said_and_found_again_within_five_frames():
    matrix_of, how, freedom = SHOTS["hidden"]
    found = followed(matrix_of, shot(matrix_of, **how), freedom)
    assert all(found[n].is_lost for n in how["hidden"])
    again = found[max(how["hidden"]) + 5]
    assert not again.is_lost
    assert np.hypot(again.x - matrix_of(30)[0, 2], again.y - matrix_of(30)[1, 2]) < 1.5


def test_a_region_without_anything_in_it_is_lost_and_not_guessed_wildly():
    flat = [np.full((120, 160), 90, np.uint8)] * 5
    tracker = RegionTracker(flat[0], (50, 40, 30, 30), Freedom(True, True))
    for picture in flat[1:]:
        place = tracker.follow(picture)
        assert place.is_lost
        assert abs(place.x - 65) < 1


def test_a_large_region_is_followed_in_a_smaller_picture_of_it():
    made = shot(slide)
    import cv2

    large = [cv2.resize(one, None, fx=5, fy=5, interpolation=cv2.INTER_CUBIC) for one in made[:12]]
    x, y, width, height = box_of(slide(0))
    tracker = RegionTracker(large[0], (x * 5, y * 5, width * 5, height * 5), Freedom())
    for number in range(1, 12):
        place = tracker.follow(large[number])
    assert np.hypot(place.x / 5 - slide(11)[0, 2], place.y / 5 - slide(11)[1, 2]) < 0.3
