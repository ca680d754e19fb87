"""A thing cut out and carried on: a textured one on a textured ground, by its true outline."""

import cv2
import numpy as np
import pytest
import shapely

from made_shots import COUNT, SIDE, SIZE, shot
from rovix.vision.alignment import similarity
from rovix.vision.outlines import outlines_of
from rovix.vision.subject_matte import Mark, Patch, SubjectMatte


def way(n):
    return similarity(100 + 2 * n, 118 + 12 * np.sin(n / 9), 1.0, 0.15 * np.sin(n / 10))


def truth(n):
    """(h, w): where the thing is, by the corners that it has."""
    corners = np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]]) * SIDE / 2
    placed = corners @ way(n)[:2, :2].T + way(n)[:2, 2]
    mask = np.zeros(SIZE[::-1], np.uint8)
    cv2.fillConvexPoly(mask, np.round(placed * 16).astype(np.int32), 1, shift=4)
    return mask.astype(bool)


def coloured(pictures, thing=(0.45, 0.6, 1.0), ground=(1.0, 0.8, 0.5)):
    """The ground, which is darker, tinted blue, the thing reddish."""
    made = []
    for number, picture in enumerate(pictures):
        tint = np.where(truth(number)[..., None], thing, ground)
        made.append(np.clip(picture[..., None] * tint, 0, 255).astype(np.uint8))
    return made


def overlap(patch, n):
    found, true = patch.laid_out(SIZE) > 127, truth(n)
    return (found & true).sum() / (found | true).sum()


@pytest.mark.parametrize(
    "how", [{}, {"noise": 8.0}, {"noise": 8.0, "blur": 1.5, "drift": 1.3}], ids=["clean", "noisy", "moving"]
)
def test_a_textured_thing_on_a_textured_ground_is_held(how):
    pictures = coloured(shot(way, **how))
    x, y = way(0)[:2, 2]
    matte = SubjectMatte(pictures[0], (x - 50, y - 50, 100, 100))
    found = [overlap(matte.picked, 0), *(overlap(matte.follow(pictures[n]), n) for n in range(1, COUNT))]
    assert np.mean(found) > 0.9
    assert min(found) > 0.85


def test_a_thing_that_leaves_the_picture_leaves_nothing_behind():
    pictures = []
    for number in range(12):
        picture = np.full((120, 160, 3), (200, 150, 90), np.uint8)
        cv2.rectangle(picture, (100 + 10 * number, 40), (130 + 10 * number, 80), (40, 60, 220), -1)
        pictures.append(picture)
    matte = SubjectMatte(pictures[0], (90, 30, 55, 60))
    last = [matte.follow(picture) for picture in pictures[1:]][-1]
    assert not (last.alpha > 127).any()


def test_the_same_picture_is_cut_out_the_same_way():
    picture = coloured(shot(way)[:1])[0]
    x, y = way(0)[:2, 2]
    one, other = (SubjectMatte(picture, (x - 50, y - 50, 100, 100)).picked for _ in range(2))
    assert np.array_equal(one.alpha, other.alpha)


def scribble(n, share=0.6):
    """A stroke over the thing, as a hand draws it."""
    half = SIDE / 2 * share
    own = np.array([[-half, -half], [half, -half / 2], [-half, half / 4], [half, half]])
    return Mark(own @ way(n)[:2, :2].T + way(n)[:2, 2], 8.0)


def test_a_thing_of_nearly_the_colours_of_a_moving_noisy_blurred_ground_is_held():
    pictures = coloured(shot(way, noise=6.0, blur=1.0, drift=1.3), (0.7, 0.75, 0.9), (0.85, 0.8, 0.7))
    for matte in (
        SubjectMatte(pictures[0], (*(way(0)[:2, 2] - 50), 100, 100)),
        SubjectMatte(pictures[0], None, [scribble(0)]),
    ):
        found = [overlap(matte.picked, 0), *(overlap(matte.follow(pictures[n]), n) for n in range(1, COUNT))]
        assert np.mean(found) > 0.93
        assert min(found) > 0.9


@pytest.mark.parametrize("room", [0, 15, 60, None], ids=["tight", "near", "loose", "stroke"])
def test_a_thing_that_has_some_of_the_colours_of_its_ground_is_no_blots(room):
    """Both of the same grey: what tells them apart is that the thing has lighter parts, too."""
    pictures = coloured(shot(way, noise=4.0, blur=1.0, drift=1.0), (1.0, 1.0, 1.0), (1.0, 1.0, 1.0))
    if room is None:
        matte = SubjectMatte(pictures[0], None, [scribble(0)])
    else:
        box = (*(way(0)[:2, 2] - (SIDE + room) / 2), SIDE + room, SIDE + room)
        matte = SubjectMatte(pictures[0], box)
    found = [overlap(matte.picked, 0), *(overlap(matte.follow(pictures[n]), n) for n in range(1, COUNT))]
    assert np.mean(found) > 0.93
    assert min(found) > 0.9


def test_a_large_thing_with_some_of_the_colours_of_its_ground_is_found_in_its_box():
    """As large as a quarter of a picture of 1080p, of which a smaller one is looked at."""
    chance = np.random.default_rng(3)
    picture = np.full((1080, 1920), 0.0, np.float32)
    for share, area, low, high in ((12, np.s_[:, :], 0, 150), (9, np.s_[180:900, 560:1280], 75, 250)):
        grain = cv2.GaussianBlur(chance.normal(0, 1, picture[area].shape).astype(np.float32), (0, 0), share)
        spread = (grain - grain.min()) / (grain.max() - grain.min())
        picture[area] = low + (high - low) * spread
    noisy = np.clip(cv2.GaussianBlur(picture, (0, 0), 1.2) + chance.normal(0, 3, picture.shape), 0, 255)
    matte = SubjectMatte(np.repeat(noisy[..., None], 3, axis=2).astype(np.uint8), (540, 160, 760, 760))
    true = np.zeros(picture.shape, bool)
    true[180:900, 560:1280] = True
    found = matte.picked.laid_out((1920, 1080)) > 127
    assert (found & true).sum() / (found | true).sum() > 0.95


def test_a_stroke_does_where_no_box_is_drawn():
    pictures = coloured(shot(way, noise=8.0, blur=1.5))
    matte = SubjectMatte(pictures[0], None, [scribble(0)])
    found = [overlap(matte.picked, 0), *(overlap(matte.follow(pictures[n]), n) for n in range(1, COUNT))]
    assert np.mean(found) > 0.93
    assert min(found) > 0.9


def halves(n):
    """A thing of two colours that goes to the right over a ground of a third and fourth."""
    picture = np.full((120, 200, 3), (200, 150, 90), np.uint8)
    picture[90:] = (60, 120, 60)
    left = 30 + 3 * n
    picture[30:80, left : left + 30] = (40, 60, 220)
    picture[30:80, left + 30 : left + 60] = (230, 230, 240)
    return picture


def of_halves(patch, n):
    true = np.zeros((120, 200), bool)
    true[30:80, 30 + 3 * n : 90 + 3 * n] = True
    found = patch.laid_out((200, 120)) > 127
    return (found & true).sum() / (found | true).sum()


def test_strokes_add_what_was_missed_and_it_stays_from_then_on():
    red = Mark(np.array([[40.0, 40.0], [50.0, 70.0]]), 6.0)
    matte = SubjectMatte(halves(0), None, [red])
    ground = Mark(np.array([[70.0, 38.0], [80.0, 74.0]]), 6.0, belongs=False)
    assert of_halves(matte.correct([ground]), 0) == pytest.approx(0.5, abs=0.04)
    assert of_halves(matte.follow(halves(1)), 1) == pytest.approx(0.5, abs=0.06)
    other = matte.copy()
    white = Mark(np.array([[73.0, 38.0], [83.0, 74.0]]), 6.0)
    assert of_halves(matte.correct([white]), 1) > 0.93
    assert [of_halves(matte.follow(halves(n)), n) > 0.93 for n in range(2, 12)] == [True] * 10
    # What was copied before goes on as it was.
    assert of_halves(other.follow(halves(2)), 2) == pytest.approx(0.5, abs=0.06)


def test_strokes_that_say_what_is_known_change_nothing():
    pictures = coloured(shot(way, noise=8.0, blur=1.5))
    plain, told = (SubjectMatte(pictures[0], None, [scribble(0)]) for _ in range(2))
    for number in range(1, 12):
        patch, other = plain.follow(pictures[number]), told.follow(pictures[number])
        if number == 5:
            ground = Mark(np.array([[10.0, 10.0], [300.0, 12.0]]), 6.0, belongs=False)
            other = told.correct([scribble(number), ground])
        assert (patch.left, patch.top) == (other.left, other.top)
        assert np.array_equal(patch.alpha, other.alpha)


def test_outlines_are_where_the_matte_is():
    patch = Patch(20, 10, np.zeros((60, 80), np.uint8))
    patch.alpha[10:50, 20:70] = 255
    patch.alpha[20:30, 30:40] = 0
    outlines = outlines_of(patch)
    areas = sorted(shapely.Polygon(line).area for line in outlines)
    assert len(outlines) == 2
    # Lines go through the middles of px.
    assert areas == pytest.approx([11 * 11, 49 * 39], rel=0.2)
    assert np.array(outlines[0]).min(axis=0).tolist() == [40, 20]


def test_a_patch_lies_where_it_says():
    laid = Patch(3, 2, np.full((4, 5), 200, np.uint8)).laid_out((20, 10))
    assert laid.shape == (10, 20)
    assert laid.sum() == 200 * 20
    assert laid[2:6, 3:8].min() == 200
