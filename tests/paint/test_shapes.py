"""Shapes, gradients and joins as pixels."""

import colour
import msgspec
import numpy as np
import pytest

from builders import project_of, title
from rovix.curve.transfer import light_to_srgb, srgb_to_light
from rovix.edit.groups import group_clips, ungroup
from rovix.edit.sequences import add_sequence, put_in_sequence
from rovix.model import (
    BackgroundClip,
    Linear,
    Outline,
    Plain,
    Radial,
    Sequence,
    ShapeClip,
    Stop,
    Track,
    Transform,
    Transition,
)
from rovix.motion import picture_plan
from rovix.paint.fills import linear_ends, ramp
from rovix.paint.painter import Painter

replace = msgspec.structs.replace
SIZE = (640, 360)


class NoFiles:
    def picture(self, source, time, shrunk=None, about=False):
        raise AssertionError(f"{source} was asked for")


def painted(project, frame=0, size=None):
    return Painter(NoFiles()).paint(picture_plan(project, frame), size).astype(float)


def covered(**fields):
    """The area in px that a white shape on black covers, by its own shares of px."""
    fill = fields.pop("fill", Plain(colour="#ffffff"))
    return painted(project_of(ShapeClip(id="c", length=5, fill=fill, **fields)))[..., 1].sum() / 255


def test_areas_by_formula():
    assert covered(width=200, height=100) == pytest.approx(20_000, rel=1e-4)
    # A corner of radius r lacks (1 - pi / 4) r squared.
    assert covered(width=200, height=100, radius=30) == pytest.approx(
        20_000 - 4 * (1 - np.pi / 4) * 900, rel=1e-3
    )
    assert covered(form="ellipse", width=200, height=100) == pytest.approx(np.pi * 100 * 50, rel=3e-3)
    assert covered(form="line", width=301, height=3) == pytest.approx(903, rel=3e-3)
    turned = covered(width=200, height=100, transform=Transform(rotation_z=33.0, scale_x=1.2))
    assert turned == pytest.approx(24_000, rel=1e-3)


@pytest.mark.parametrize(
    ("side", "area"),
    [
        ("outside", (220 * 120) - 20_000),
        ("inside", 20_000 - 180 * 80),
        ("centre", 210 * 110 - 190 * 90),
    ],
)
def test_outline_areas_by_formula(side, area):
    outline = Outline(width=10, colour="#ffffff", side=side, join="miter")
    assert covered(width=200, height=100, fill=None, outline=outline) == pytest.approx(area, rel=1e-3)


def test_an_outline_leaves_no_seam_at_the_fill():
    outline = Outline(width=10, colour="#ffffff", side="outside")
    place = Transform(x=0.37, y=0.21, rotation_z=7.0)
    picture = painted(
        project_of(
            ShapeClip(id="c", length=5, fill=Plain(colour="#ffffff"), outline=outline, transform=place)
        )
    )
    assert picture[100:260, 260:380, 1].min() == 255


def test_transfer_functions_against_colour_science():
    # IEC 61966-2-1 as implemented by the colour-science package.
    codes = np.linspace(0, 1, 257)
    assert srgb_to_light(codes) == pytest.approx(colour.models.eotf_sRGB(codes), abs=1e-9)
    assert light_to_srgb(codes) == pytest.approx(colour.models.eotf_inverse_sRGB(codes), abs=1e-9)


def test_a_gradient_goes_straight_in_code_values_or_in_light():
    black_white = (Stop(at=0.0, colour="#000000"), Stop(at=1.0, colour="#ffffff"))
    expected = (np.arange(640) + 0.5) / 640
    for mix, values in (("srgb", expected), ("linear", colour.models.eotf_inverse_sRGB(expected))):
        ground = BackgroundClip(id="g", length=5, background=Linear(angle=0.0, stops=black_white, mix=mix))
        row = painted(project_of(ground))[180, :, 1] / 255
        assert np.abs(row - values).max() < 2 / 255, mix


def test_the_ends_of_a_gradient_line_are_those_of_css():
    # CSS Images Level 3, section 3.1.1: the line's length is |w sin a| + |h cos a| for a CSS angle a,
    # which counts from upwards; ours counts from rightwards.
    for angle in (0, 30, 90, 137, 270):
        (x0, y0), (x1, y1) = linear_ends(angle, 400, 300)
        css = np.radians(angle + 90)
        assert np.hypot(x1 - x0, y1 - y0) == pytest.approx(abs(400 * np.sin(css)) + abs(300 * np.cos(css)))
    assert linear_ends(0, 400, 300)[0] == pytest.approx((-200, 0))


def test_transparent_stops_do_not_darken():
    clear = (Stop(at=0.0, colour="#ffffff00"), Stop(at=1.0, colour="#ffffffff"))
    shape = ShapeClip(id="c", length=5, width=640, height=360, fill=Linear(angle=0.0, stops=clear))
    row = painted(project_of(shape, background="#00000000"))[180]
    assert np.abs(row[:, 1] - row[:, 3]).max() <= 1, "white stays white, premultiplied"
    _, colours = ramp(tuple((stop.at, stop.colour) for stop in clear), "linear")
    assert all(np.allclose(colour_[:3], 1) for colour_ in colours[1:])


def test_a_round_gradient_is_an_ellipse_about_its_point():
    stops = (Stop(at=0.0, colour="#ffffff"), Stop(at=1.0, colour="#000000"))
    ground = BackgroundClip(id="g", length=5, background=Radial(x=0.25, y=0.5, radius=0.5, stops=stops))
    picture = painted(project_of(ground))[..., 1]
    assert picture[180, 160] >= 253
    assert picture[180, 320] == pytest.approx(127, abs=2)
    assert picture[270, 160] == pytest.approx(127, abs=2)
    assert picture[180, 490] == 0


def pair(**join):
    first = BackgroundClip(id="a", length=30, background=Plain(colour="#c80000"))
    second = BackgroundClip(
        id="b",
        start=30,
        length=30,
        background=Plain(colour="#0000c8"),
        transition=Transition(id="j", length=1.0, **join),
    )
    project = project_of()
    track = Track(id="t", clips=(first, second))
    return replace(project, sequences=(replace(project.sequence, tracks=(track,)),))


def test_a_dissolve_is_the_weighted_mean():
    for frame in (15, 20, 30, 44):
        share = (frame - 15 + 0.5) / 30
        blue, _, red, alpha = painted(pair(kind="dissolve"), frame)[100, 100]
        assert (red, blue, alpha) == pytest.approx((200 * (1 - share), 200 * share, 255), abs=1)


def test_a_dip_is_all_colour_in_the_middle():
    project = pair(kind="dip", colour="#ffffff", curve="steps(2, jump-none)")
    assert painted(pair(kind="dip", colour="#ffffff"), 29)[0, 0, 1] == pytest.approx(255 * (29.0 / 30), abs=3)
    assert painted(project, 16)[0, 0].tolist() == [0, 0, 200, 255]
    assert painted(project, 44)[0, 0].tolist() == [200, 0, 0, 255]


@pytest.mark.parametrize("angle", [0.0, 90.0, 180.0, 35.0])
def test_a_wipe_uncovers_by_its_share(angle):
    for frame in (20, 33):
        share = (frame - 15 + 0.5) / 30
        picture = painted(pair(kind="wipe", angle=angle), frame)
        uncovered = (picture[..., 0] / 200).mean()
        # Straight across, the area is the share; a slanted edge sweeps corners, by the shoelace formula.
        half = (640 * abs(np.cos(np.radians(angle))) + 360 * abs(np.sin(np.radians(angle)))) / 2
        assert uncovered == pytest.approx(swept(angle, -half + 2 * half * share), abs=0.004)


def swept(angle, edge):
    """The share of the frame on the near side of an edge, by clipping its corners to a half plane."""
    way = np.array([np.cos(np.radians(angle)), np.sin(np.radians(angle))])
    corners = [np.array(p, float) for p in ((-320, -180), (320, -180), (320, 180), (-320, 180))]
    kept = []
    for here, following in zip(corners, corners[1:] + corners[:1], strict=True):
        a, b = here @ way - edge, following @ way - edge
        if a <= 0:
            kept.append(here)
        if (a < 0) != (b < 0):
            kept.append(here + (following - here) * (a / (a - b)))
    x, y = np.array(kept).T
    return abs(np.dot(x, np.roll(y, -1)) - np.dot(y, np.roll(x, -1))) / 2 / (640 * 360)


def test_a_slide_pushes_one_out_and_leaves_no_gap():
    picture = painted(pair(kind="slide", angle=180.0), 22)
    share = 7.5 / 30
    edge = 640 * (1 - share)
    assert picture[50, int(edge) - 2].tolist() == [0, 0, 200, 255]
    assert picture[50, int(edge) + 2].tolist() == [200, 0, 0, 255]
    assert picture[..., 3].min() == 255


def test_words_above_see_the_join():
    project = pair(kind="dissolve")
    with_words = replace(
        project,
        sequences=(
            replace(
                project.sequence,
                tracks=(
                    *project.sequence.tracks,
                    Track(id="w", clips=(title(length=60, transform=Transform(opacity=0.5)),)),
                ),
            ),
        ),
    )
    under, over = painted(project, 30), painted(with_words, 30)
    ink = np.abs(over - under).max(axis=2) > 60
    assert ink.sum() > 500
    assert over[ink][:, 0].mean() > under[ink][:, 0].mean()


def layered():
    shapes = ShapeClip(id="box", start=5, length=40, width=300, fill=Linear())
    return project_of(
        BackgroundClip(id="back", length=60),
        shapes,
        title("Kite", id="w", start=10, length=30, transform=Transform(rotation_z=9.0)),
    )


def test_group_then_ungroup_is_the_same_picture_at_every_frame():
    project = layered()
    grouped, identity = group_clips(project, ["box", "w"])
    apart, _ = ungroup(grouped, identity)
    for frame in range(60):
        before = painted(project, frame, (160, 90))
        assert np.array_equal(painted(grouped, frame, (160, 90)), before), frame
        assert np.array_equal(painted(apart, frame, (160, 90)), before), frame


def test_a_sequence_shown_in_another_is_its_picture_cut_to_its_frame():
    square = Sequence(id="sq", size=(360, 360), tracks=(Track(id="q", clips=(
        BackgroundClip(id="g", length=30, background=Plain(colour="#00ff00")),
        )), Track(id="q2", clips=(ShapeClip(id="s1", length=30, width=900, height=40, fill=Plain(colour="#0000ff")),))))  # fmt: skip
    project, _ = put_in_sequence(add_sequence(project_of(), square), "sq", 0)
    picture = painted(project, 3)
    assert picture[180, 100].tolist() == [0, 0, 0, 255], "beside the square there is nothing of it"
    assert picture[180, 320].tolist() == [255, 0, 0, 255]
    assert picture[20, 320].tolist() == [0, 255, 0, 255]
