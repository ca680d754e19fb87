"""Depth: what comes close to the viewer is cut there, letters stay sharp, the nearer lies on top.

Perspective as CSS Transforms Module Level 2, section 6: a point at depth z is D / (D - z) times as large.
"""

import numpy as np
import pytest
from msgspec.structs import replace

from builders import look_of, project_of, title
from rovix.edit.sequences import lay_by_depth
from rovix.model import BackgroundClip, GroupClip, Key, Keys, Plain, ShapeClip, Track, Transform
from rovix.model.effects.mask import Mask
from rovix.model.effects.wipe import Wipe
from rovix.motion import picture_plan
from rovix.motion.dependencies import PictureDependencies
from rovix.motion.transform import NEAR, mapped, seen_part
from rovix.paint.painter import Painter

SIZE = (320, 180)
D = 90 / np.tan(np.radians(20))
"""px from the viewer to the frame, for a field of view of 40 degrees."""
WHITE = Plain(colour="#ffffff")


class NoPictures:
    def picture(self, source, time, shrunk=None, about=False):
        raise AssertionError("nothing here shows a file")


def drawn(*clips, by_depth=False, size=SIZE, frame=0):
    project = lay_by_depth(project_of(*clips, size=size, background="#00000000"), by_depth)
    return Painter(NoPictures()).paint(picture_plan(project, frame)).astype(float)


def seen(width, height, swing, depth):
    """(h, w) from 0 to 1: what of a box is seen that is swung about its upright middle and then moved nearer, by
    the ray through each of 16 points of each px."""
    fine = 4
    y, x = np.mgrid[0 : SIZE[1] * fine, 0 : SIZE[0] * fine]
    across, down = (x + 0.5) / fine - SIZE[0] / 2, (y + 0.5) / fine - SIZE[1] / 2
    cosine, sine = np.cos(np.radians(swing)), np.sin(np.radians(swing))
    # A point u, v of the box lies at (u cos, v, depth - u sin) and is seen at D / (D - z) of that.
    u = across * (D - depth) / (D * cosine - across * sine)
    scale = D / (D - depth + u * sine)
    inside = (np.abs(u) <= width / 2) & (np.abs(down / scale) <= height / 2) & (scale > 0)
    return inside.reshape(SIZE[1], fine, SIZE[0], fine).mean((1, 3))


CASES = [
    (0.0, 0.0, 200.0),
    (70.0, 50.0, 450.0),
    (80.0, 150.0, 750.0),
    (85.0, 200.0, 1500.0),
    (75.0, 250.0, 600.0),
]


def place(swing, depth):
    return Transform(rotation_y=swing, z=depth)


def box(width, **fields):
    return ShapeClip(id="s", length=10, width=width, height=60.0, fill=WHITE, **fields)


@pytest.mark.parametrize(("swing", "depth", "width"), CASES)
def test_what_is_partly_behind_the_viewer_is_cut_and_not_dropped(swing, depth, width):
    wanted = seen(width, 60, swing, depth)
    assert wanted.sum() > 3000
    inner = GroupClip(
        id="g", length=10, tracks=(Track(id="t", clips=(box(width),)),), transform=place(swing, depth)
    )
    for clip in (box(width, transform=place(swing, depth)), inner):
        found = drawn(clip)[..., 3] / 255
        assert np.abs(found - wanted).sum() < 0.004 * wanted.sum()
        assert np.abs(found - wanted).max() < 0.3
    ground = BackgroundClip(id="b", length=10, background=WHITE, transform=place(swing, depth))
    assert drawn(ground)[..., 3].sum() / 255 == pytest.approx(seen(*SIZE, swing, depth).sum(), rel=0.005)


@pytest.mark.parametrize("effect", [
    Mask(form="box", width=5000.0, height=30.0), Wipe(share=1.0, angle=90.0),
    Mask(form="drawn", contour=tuple((x, y, 0.0, 0.0, 0.0, 0.0) for x, y in [(-3e3, -15.0), (3e3, -15.0), (3e3, 15.0), (-3e3, 15.0)])),
], ids=["mask", "wipe", "drawn"])  # fmt: skip
def test_masks_and_wipes_are_cut_there_too(effect):
    swing, depth, width = CASES[2]
    found = drawn(box(width, transform=place(swing, depth), effects=(effect,)))[..., 3] / 255
    high = 60 if isinstance(effect, Wipe) else 30
    wanted = seen(width, high, swing, depth)
    assert np.abs(found - wanted).sum() < 0.01 * wanted.sum()


def test_a_polygon_is_cut_by_the_plane_close_to_the_viewer():
    homography = np.array([[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.01, 0.0, 1.0]])  # behind from x = -100 on
    whole = np.array([[-50.0, -10.0], [50.0, -10.0], [50.0, 10.0], [-50.0, 10.0]])
    assert np.allclose(seen_part(homography, whole), mapped(homography, whole))
    cut = seen_part(homography, np.array([[-300.0, -10.0], [50.0, -10.0], [50.0, 10.0], [-300.0, 10.0]]))
    assert len(cut) == 4
    assert cut[:, 0].min() == pytest.approx((NEAR - 1) * 100 / NEAR)
    assert seen_part(homography, whole - [400.0, 0.0]).shape == (0, 2)


def test_a_letter_that_fills_the_frame_is_as_sharp_as_one_set_that_large():
    near = title("O", text={"size": 20.0}, look=look_of("#ffffff"), transform=Transform(z=D * 0.95))
    large = title("O", text={"size": 400.0}, look=look_of("#ffffff"))
    one, other = (drawn(clip)[..., 3] / 255 for clip in (near, large))
    assert other.sum() > 5000
    # Hinted to nothing, set at any size, the same outline: edges differ by rounding alone.
    assert np.abs(one - other).mean() < 0.004
    soft = (one > 0.05) & (one < 0.95)
    assert soft.sum() < 1.3 * ((other > 0.05) & (other < 0.95)).sum() + 20


def layers(first, second):
    red = ShapeClip(
        id="r", length=20, width=80.0, height=80.0, fill=Plain(colour="#ff0000"), transform=Transform(z=first)
    )
    green = ShapeClip(
        id="g",
        length=20,
        width=80.0,
        height=80.0,
        fill=Plain(colour="#00ff00"),
        transform=Transform(z=second),
    )
    return red, green


def middle(picture):
    _, green, red, _ = picture[90, 160].tolist()
    return "red" if red > green else "green"


def test_the_nearer_lies_on_top_where_the_sequence_says_so():
    near_first = layers(50.0, 0.0)
    assert middle(drawn(*near_first)) == "green"
    assert middle(drawn(*near_first, by_depth=True)) == "red"
    assert middle(drawn(*layers(0.0, 0.0), by_depth=True)) == "green"
    # Through the keys it changes hands; what follows a layer counts with it.
    crossing = layers(Keys(keys=(Key(frame=0, value=-50.0), Key(frame=10, value=50.0))), 0.0)
    assert [middle(drawn(*crossing, by_depth=True, frame=f)) for f in (2, 8)] == ["green", "red"]
    red, green = layers(0.0, 0.0)
    carried = replace(red, parent="lead")
    lead = ShapeClip(id="lead", length=20, width=1.0, height=1.0, fill=None, transform=Transform(z=40.0))
    assert middle(drawn(lead, carried, green, by_depth=True)) == "red"


def test_grounds_and_footage_stay_and_part_what_is_around_them():
    far, ground = layers(-80.0, 0.0)[0], BackgroundClip(id="b", length=20, background=Plain(colour="#00ff00"))
    assert middle(drawn(ground, far, by_depth=True)) == "red"  # far off, and still over its ground
    assert middle(drawn(replace(far, transform=Transform(z=50.0)), ground, by_depth=True)) == "green"


def test_pictures_that_are_kept_know_of_it():
    project = project_of(*layers(50.0, 0.0), size=SIZE)
    one, other = (PictureDependencies(lay_by_depth(project, on)).at(0) for on in (False, True))
    assert one != other
