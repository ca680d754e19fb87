"""Masks against formulas of area and of compositing; keys of colour and of light against theirs."""

import numpy as np
import pytest
from msgspec.structs import replace
from scipy.ndimage import gaussian_filter

from builders import project_of, title
from rovix.model import BackgroundClip, Key, Keys, Linear, Plain, ShapeClip, Stop, Transform
from rovix.model.effects.blur import Blur
from rovix.model.effects.colour_key import ColourKey
from rovix.model.effects.light_key import LightKey
from rovix.model.effects.mask import Mask, Pinned
from rovix.motion import picture_plan, plan_key
from rovix.paint.effects.keys import TO_LIGHT_AND_HUE
from rovix.paint.effects.masks import LUMA
from rovix.paint.painter import Painter

SIZE = (240, 160)


class NoPictures:
    def picture(self, source, time, shrunk=None, about=False):
        raise AssertionError("nothing here shows a file")


def alpha(*effects, clip=None, frame=0):
    """(160, 240) from 0 to 1 of a white ground with effects, over nothing."""
    return picture(*effects, clip=clip, frame=frame)[..., 3] / 255


def picture(*effects, clip=None, frame=0):
    clip = clip or BackgroundClip(id="g", length=20, background=Plain(colour="#ffffff"))
    project = project_of(replace(clip, effects=effects), size=SIZE, background="#00000000")
    return Painter(NoPictures()).paint(picture_plan(project, frame)).astype(float)


def mask(**fields):
    return Mask(**({"width": 100.0, "height": 60.0} | fields))


@pytest.mark.parametrize(
    ("fields", "area"),
    [
        # By the formulas of plane geometry.
        ({"form": "box"}, 100 * 60),
        ({"form": "box", "angle": 33.0}, 100 * 60),
        ({"form": "box", "radius": 20.0}, 100 * 60 - (4 - np.pi) * 20**2),
        ({"form": "box", "grown": 7.0}, 114 * 74),
        ({"form": "box", "grown": -30.0}, 0),
        ({"form": "ellipse"}, np.pi * 50 * 30),
        ({"form": "ellipse", "x": 20.0, "y": -15.0, "grown": 5.0}, np.pi * 55 * 35),
        ({"form": "ellipse", "hides": True}, 240 * 160 - np.pi * 50 * 30),
        ({"form": "box", "strength": 0.25}, 240 * 160 * 0.75 + 0.25 * 100 * 60),
        ({"form": "box", "feather": 6.0}, 100 * 60),
    ],
)
def test_what_a_mask_leaves_has_the_area_of_its_form(fields, area):
    assert alpha(mask(**fields)).sum() == pytest.approx(area, rel=0.004, abs=2)


POINTS = [(-60, -40), (70, -30), (50, 35), (-20, 50)]
DRAWN = tuple((float(x), float(y), 0.0, 0.0, 0.0, 0.0) for x, y in POINTS)


def shoelace():
    x, y = np.array(POINTS, dtype=float).T
    return abs(np.dot(x, np.roll(y, -1)) - np.dot(y, np.roll(x, -1))) / 2


def around():
    ways = np.roll(POINTS, -1, axis=0) - np.array(POINTS)
    return np.hypot(*ways.T).sum()


@pytest.mark.parametrize(
    ("fields", "area"),
    [
        ({}, shoelace()),
        ({"angle": 20.0}, shoelace()),
        # Steiner's formula for a convex form with rounded corners.
        ({"grown": 9.0}, shoelace() + around() * 9 + np.pi * 81),
        ({"grown": -80.0}, 0),
        ({"hides": True}, 240 * 160 - shoelace()),
    ],
)
def test_a_drawn_mask_covers_what_its_line_goes_round(fields, area):
    assert alpha(mask(form="drawn", contour=DRAWN, **fields)).sum() == pytest.approx(area, rel=0.004, abs=2)


@pytest.mark.parametrize("form", ["box", "drawn"])
@pytest.mark.parametrize(("soft", "share"), [("both", 0.5), ("in", 0.023), ("out", 0.977)])
def test_an_edge_is_soft_on_the_side_that_it_is_asked_to_be(form, soft, share):
    """On the line itself stands what a normal distribution has beyond 2, 0 and -2 sigmas."""
    line = tuple((x, y, 0.0, 0.0, 0.0, 0.0) for x, y in [(-50, -30), (50, -30), (50, 30), (-50, 30)])
    across = alpha(mask(form=form, contour=line, feather=4.0, soft=soft))[80]
    edge = (across[69] + across[70]) / 2  # the line lies between these two px
    assert edge == pytest.approx(share, abs=0.02)


def test_a_mask_stays_on_another_layer_with_all_or_with_its_place_alone():
    ground = BackgroundClip(id="g", length=20, background=Plain(colour="#ffffff"))
    moves = Transform(
        x=Keys(keys=(Key(frame=0, value=-40.0), Key(frame=10, value=40.0))), y=10.0, scale_x=2.0
    )
    leader = ShapeClip(id="s", length=20, width=20.0, height=20.0, transform=moves)

    def seen(at, frame):
        own = mask(form="box", width=30.0, height=30.0, on=Pinned(layer="s", at=at))
        tracks = project_of(replace(ground, effects=(own,)), leader, size=SIZE, background="#00000000")
        hidden = replace(tracks.sequences[0].tracks[1], hidden=True)
        sequence = replace(tracks.sequences[0], tracks=(tracks.sequences[0].tracks[0], hidden))
        plan = picture_plan(replace(tracks, sequences=(sequence,)), frame)
        shown = Painter(NoPictures()).paint(plan)[..., 3] / 255.0
        rows, columns = np.nonzero(shown > 0.5)
        return columns.mean() + 0.5 - 120, rows.mean() + 0.5 - 80, shown.sum()

    for frame, x in ((0, -40), (5, 0), (10, 40)):
        assert seen("whole", frame) == pytest.approx((x, 10, 30 * 60), abs=0.6)
        assert seen("place", frame) == pytest.approx((x, 10, 30 * 30), abs=0.6)


def test_a_soft_edge_is_the_form_blurred():
    """By SciPy's filter, 4 sigmas wide as ours."""
    sharp = alpha(mask(form="box"))
    soft = alpha(mask(form="box", feather=5.0))
    assert np.abs(soft - gaussian_filter(sharp, 5.0, truncate=4.0)).max() < 0.02


@pytest.mark.parametrize(
    ("joins", "formula"),
    [
        # Porter and Duff, 'Compositing digital images' (1984): over, out, in, xor of coverages.
        ("add", lambda a, b: b + a * (1 - b)),
        ("subtract", lambda a, b: a * (1 - b)),
        ("intersect", lambda a, b: a * b),
        ("exclude", lambda a, b: a * (1 - b) + b * (1 - a)),
    ],
)
def test_masks_that_follow_each_other_are_joined(joins, formula):
    one, two = mask(form="ellipse", feather=3.0, strength=0.9), mask(form="box", x=40.0, y=20.0, feather=2.0)
    both = alpha(one, replace(two, joins=joins))
    assert np.abs(both - formula(alpha(one), alpha(two))).max() < 0.01


def test_a_first_mask_that_subtracts_is_taken_from_all_and_other_effects_part_masks():
    a, b = mask(form="box"), mask(form="ellipse", x=40.0)
    assert np.abs(alpha(replace(a, joins="subtract")) - (1 - alpha(a))).max() < 0.01
    parted = alpha(a, Blur(x=0.0, y=0.0), b)
    assert np.abs(parted - alpha(a) * alpha(b)).max() < 0.01
    assert np.array_equal(alpha(a, replace(b, shown=False)), alpha(a))


def test_a_mask_goes_with_the_layer_or_stays_in_the_frame():
    moved = BackgroundClip(id="g", length=20, background=Plain(colour="#ffffff"),
                           transform=Transform(x=Keys(keys=(Key(frame=0, value=0.0), Key(frame=10, value=50.0)))))  # fmt: skip
    own, frame = (alpha(mask(form="ellipse", pin=pin), clip=moved, frame=10) for pin in ("words", "frame"))
    middle = lambda found: (found.sum(axis=0) * np.arange(SIZE[0])).sum() / found.sum()  # noqa: E731
    assert middle(own) == pytest.approx(119.5 + 50, abs=0.3)
    assert middle(frame) == pytest.approx(119.5, abs=0.3)


def test_masks_of_words_take_keys_and_change_the_plans_key():
    grown = Keys(keys=(Key(frame=0, value=-30.0), Key(frame=10, value=200.0)))
    words = title("Wind", length=20)
    found = [alpha(mask(grown=grown), clip=words, frame=frame).sum() for frame in (0, 3, 6, 10)]
    assert found == sorted(found)
    assert found[0] == 0
    assert found[-1] == pytest.approx(alpha(clip=words).sum(), rel=0.001)
    plans = [
        picture_plan(project_of(replace(words, effects=(one,)), size=SIZE), 0)
        for one in (mask(), mask(x=1.0), mask(joins="exclude"), mask(strength=0.5), mask(hides=True))
    ]
    assert len({plan_key(plan) for plan in plans}) == 5


def differences(rgb):
    """Cb and Cr of colours (..., 3)."""
    return (rgb @ TO_LIGHT_AND_HUE.T)[..., 1:]


def ramp(left, right):
    """A ground that goes from one colour to another, in code values."""
    stops = (Stop(at=0.0, colour=left), Stop(at=1.0, colour=right))
    return BackgroundClip(id="g", length=5, background=Linear(stops=stops, angle=0.0))


def test_a_light_key_is_a_ramp_of_luma():
    """0.2126 R + 0.7152 G + 0.0722 B (ITU-R BT.709-6, item 3.2) on code values."""
    clip = ramp("#000000", "#ffffff")
    luma = picture(clip=clip)[80, :, 0] / 255
    for bright in (False, True):
        got = picture(LightKey(threshold=0.2, softness=0.4, bright=bright), clip=clip)[80, :, 3] / 255
        over = (0.8 - luma) if bright else (luma - 0.2)
        assert np.abs(got - np.clip(over / 0.4, 0, 1)).max() < 0.01


def test_a_colour_key_clears_by_distance_of_hue():
    """Cb = (B - Y) / 1.8556, Cr = (R - Y) / 1.5748 (ITU-R BT.709-6, item 3.3)."""
    clip = ramp("#2fae4e", "#d05a9a")
    plain = picture(clip=clip)[80, :, 2::-1] / 255
    own = differences(np.array([0x2F, 0xAE, 0x4E]) / 255)
    away = np.hypot(*(differences(plain) - own).T)
    got = picture(ColourKey(tolerance=0.1, softness=0.2), clip=clip)[80, :, 3] / 255
    assert np.abs(got - np.clip((away - 0.1) / 0.2, 0, 1)).max() < 0.02
    kept = picture(ColourKey(tolerance=0.1, softness=0.2, hides=True), clip=clip)[80, :, 3] / 255
    assert np.abs(kept + got - 1).max() < 0.02


def test_differences_are_those_of_another_library():
    """colour-science's own YCbCr of BT.709, full range."""
    from colour.models import RGB_to_YCbCr

    rgb = np.random.default_rng(2).uniform(0, 1, (50, 3))
    asked = RGB_to_YCbCr(rgb, K=np.array([0.2126, 0.0722]), in_legal=False, out_legal=False)
    assert np.allclose(differences(rgb), asked[:, 1:], atol=1e-4)


def test_spill_takes_the_hue_out_and_leaves_the_light():
    clip = BackgroundClip(id="g", length=5, background=Plain(colour="#b0c8a0"))  # a grey with green on it
    key = ColourKey(tolerance=0.02, softness=0.01, spill=1.0)
    before, after = (picture(*effects, clip=clip)[80, 100, 2::-1] / 255 for effects in ((), (key,)))
    own = differences(np.array([0x2F, 0xAE, 0x4E]) / 255)
    along = lambda rgb: float(differences(rgb) @ own) / float(np.hypot(*own))  # noqa: E731
    assert along(before) > 0.05
    assert abs(along(after)) < 0.005
    assert after @ LUMA == pytest.approx(before @ LUMA, abs=0.005)


def test_a_grey_key_has_no_hue_to_take_out():
    clip = BackgroundClip(id="g", length=5, background=Plain(colour="#4060c0"))
    before, after = (picture(*e, clip=clip) for e in ((), (ColourKey(colour="#808080", tolerance=0.01),)))
    assert np.abs(before - after).max() <= 1
