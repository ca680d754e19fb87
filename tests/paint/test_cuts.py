"""Pictures cut to a form and placed within it, against the areas of plane geometry and their own px."""

import numpy as np
import pytest
from msgspec.structs import replace

from builders import project_of
from rovix.edit.shapes import change_cut, cut_picture
from rovix.errors import RovixError
from rovix.model import Cut, FootageClip, Key, Keys, Media, ShapeClip, StillClip, Transform
from rovix.motion import Scene, picture_plan
from rovix.motion.quads import layer_quads
from rovix.motion.scene import world_of
from rovix.paint.painter import Painter

SIZE = (240, 160)
MEDIA = Media(id="m", path="m.png", kind="still", width=200, height=100)


class Ramp:
    """A picture whose red says how far across, whose green how far down it is."""

    def picture(self, source, time, shrunk=None, about=False):
        made = np.full((100, 200, 4), 255, np.uint8)
        made[..., 2] = np.arange(200)[None]
        made[..., 1] = np.arange(100)[:, None]
        return made


def drawn(clip, frame=0):
    project = project_of(clip, media=(MEDIA,), size=SIZE, background="#00000000")
    return Painter(Ramp()).paint(picture_plan(project, frame)).astype(float)


def still(**fields):
    return StillClip(id="s", media="m", length=20, fit="as-is", cut=Cut(**fields))


@pytest.mark.parametrize(
    ("fields", "area"),
    [
        ({"width": 80.0, "height": 50.0}, 80 * 50),
        ({"width": 80.0, "height": 50.0, "radius": 20.0}, 80 * 50 - (4 - np.pi) * 400),
        ({"form": "ellipse", "width": 80.0, "height": 50.0}, np.pi * 40 * 25),
        ({"form": "drawn", "contour": tuple((x, y, 0.0, 0.0, 0.0, 0.0) for x, y in [(-40.0, -20.0), (40.0, -20.0), (0.0, 30.0)])}, 80 * 50 / 2),
        # Beyond the picture there is nothing to show.
        ({"width": 400.0, "height": 50.0}, 200 * 50),
        ({"width": 80.0, "height": 50.0, "x": 120.0}, 20 * 50),
    ],
)  # fmt: skip
def test_what_is_left_has_the_area_of_the_form(fields, area):
    assert drawn(still(**fields))[..., 3].sum() / 255 == pytest.approx(area, rel=0.005)


def test_the_picture_lies_where_it_is_placed_and_as_large():
    plain = drawn(still(width=80.0, height=50.0))
    assert plain[80, 120, 2] == pytest.approx(100, abs=1)
    moved = drawn(still(width=80.0, height=50.0, x=30.0, y=-10.0))
    assert moved[80, 120, 2] == pytest.approx(70, abs=1)
    assert moved[80, 120, 1] == pytest.approx(60, abs=1)
    large = drawn(still(width=80.0, height=50.0, zoom=2.0))
    assert large[80, 140, 2] == pytest.approx(110, abs=1)
    # The form stays where it is.
    for other in (moved, large):
        assert np.array_equal(other[..., 3] > 127, plain[..., 3] > 127)


def test_placing_has_keys():
    clip = still(width=80.0, height=50.0, x=Keys(keys=(Key(frame=0, value=-20.0), Key(frame=10, value=20.0))))
    assert [round(drawn(clip, frame)[80, 120, 2]) for frame in (0, 5, 10)] == pytest.approx(
        [120, 100, 80], abs=1
    )


def test_a_cut_picture_turns_and_is_taken_as_its_form():
    clip = replace(still(form="ellipse", width=80.0, height=50.0), transform=Transform(rotation_z=90.0))
    ys, xs = np.nonzero(drawn(clip)[..., 3] > 127)
    assert (np.ptp(xs) + 1, np.ptp(ys) + 1) == pytest.approx((50, 80), abs=1)
    scene = Scene.of(project_of(clip, media=(MEDIA,), size=SIZE))
    quads = layer_quads(scene, clip, 0, world_of(scene, clip, 0))
    assert np.ptp(quads.rest, axis=0) == pytest.approx((50, 80))


def test_a_picture_is_cut_and_made_whole_again():
    project = project_of(
        StillClip(id="s", media="m", length=9, crop="round"), FootageClip(id="f", media="m", length=9),
        ShapeClip(id="b", length=9),
    )  # fmt: skip
    made = cut_picture(project, "s", "ellipse")
    made = change_cut(made, "s", width=90.0)
    clip = made.sequence.tracks[0].clips[0]
    assert (clip.crop, clip.cut.form, clip.cut.width) == ("none", "ellipse", 90.0)
    other = cut_picture(made, "s", "box").sequence.tracks[0].clips[0]
    assert (other.cut.form, other.cut.width) == ("box", 90.0)
    assert cut_picture(made, "s", "round").sequence.tracks[0].clips[0] == project.sequence.tracks[0].clips[0]
    assert cut_picture(project, "f", "box").sequence.tracks[1].clips[0].cut == Cut()
    for identity, form, why in (("f", "round", "only stills"), ("b", "box", "use a mask")):
        with pytest.raises(RovixError, match=why):
            cut_picture(project, identity, form)
    with pytest.raises(RovixError, match="not cut"):
        change_cut(project, "f", width=9.0)
