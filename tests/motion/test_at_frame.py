"""Keys of looks, words and shapes: what a picture shows at each frame, and paths."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from builders import look_of, project_of, title
from rovix.curve import easing
from rovix.curve.transfer import light_to_srgb, srgb_to_light
from rovix.model import (
    BackgroundClip,
    ColourKey,
    ColourKeys,
    Fill,
    Fits,
    Glow,
    Key,
    Keys,
    Linear,
    Look,
    MotionPath,
    Outline,
    PathKey,
    Plain,
    ShapeClip,
    Stop,
    TextClip,
    Transform,
)
from rovix.model.fields import channel_fields, is_animated
from rovix.motion import describe, picture_plan, plan_key
from rovix.motion.at_frame import at_frame, layer_at
from rovix.motion.colours import colours_at
from rovix.motion.rest import rest_at
from rovix.paint.painter import Painter


def keys(*pairs, curve="linear"):
    return Keys(id=f"k{pairs}", keys=tuple(Key(frame=f, value=v, curve=curve) for f, v in pairs))


def colours(*pairs, mix="srgb"):
    return ColourKeys(id="c", keys=tuple(ColourKey(frame=f, value=v) for f, v in pairs), mix=mix)


def same(one, other, frame):
    """Whether two layers make one picture at a frame."""
    plans = [picture_plan(project_of(layer), frame) for layer in (one, other)]
    return plan_key(plans[0]) == plan_key(plans[1])


def test_what_has_no_keys_is_the_very_same_struct():
    clip = title(look=look_of())
    assert layer_at(clip, 3.0) is clip
    assert at_frame(clip.look, 8.0) is clip.look
    assert not is_animated(clip)


def test_every_number_of_a_look_is_a_channel():
    assert set(channel_fields(Glow)) == {"opacity", "size", "strength", "colour"}
    assert set(channel_fields(Outline)) == {"opacity", "width", "colour"}
    assert set(channel_fields(Linear)) == {"angle"}
    assert channel_fields(Fill)["opacity"].low == 0
    assert channel_fields(Fill)["opacity"].high == 1
    assert channel_fields(TextClip) == {}


def test_a_keyed_outline_is_drawn_as_wide_as_its_keys_say():
    moving = title(look=look_of("#ffffff", Outline(id="o", width=keys((0, 2.0), (20, 12.0)))))
    for frame, width in ((0, 2.0), (5, 4.5), (13, 8.5), (20, 12.0), (40, 12.0)):
        still = title(look=look_of("#ffffff", Outline(id="o", width=width)))
        assert same(moving, still, frame)
        assert not same(moving, still, 2)


def test_values_stay_within_their_limits():
    wild = Fill(id="f", opacity=keys((0, 0.0), (10, 1.0), curve="back-out"))
    opacities = [at_frame(wild, float(frame)).opacity for frame in range(11)]
    assert max(opacities) == 1.0
    assert float(easing("back-out")(0.7)) > 1
    assert at_frame(Outline(id="o", width=keys((0, -5.0))), 0.0).width > 0


def test_tracking_opens_words_without_breaking_lines_anew():
    words = {"wrap": 330.0, "size": 60.0, "tracking": keys((0, 0.0), (30, 0.6))}
    clip = title("Fly your kite", text=words)
    narrow, wide = (picture_plan(project_of(clip), frame).layers[0].layout for frame in (0, 30))
    assert [line.end for line in narrow.lines] == [line.end for line in wide.lines]
    assert len(narrow.lines) == 2
    assert (narrow.glyph == wide.glyph).all()
    # Each letter but a line's last is moved on by 0.6 em; the lines stay centred.
    for before, after in zip(narrow.lines, wide.lines, strict=True):
        letters = after.end - after.start
        assert after.width - before.width == pytest.approx((letters - 1) * 0.6 * 60)
        assert after.left + after.width / 2 == pytest.approx(before.left + before.width / 2)


def test_ligatures_stay_apart_all_through_keyed_tracking():
    clip = title("office", text={"family": "Inter", "tracking": keys((0, 0.0), (30, 0.2))})
    counts = {len(picture_plan(project_of(clip), frame).layers[0].layout.glyph) for frame in (0, 10, 30)}
    assert len(counts) == 1


def test_describe_tells_keyed_words():
    clip = title(
        text={"tracking": keys((0, 0.35), (50, 0.0))},
        look=Look(parts=(Fill(opacity=keys((0, 0.0), (25, 1.0))),)),
    )
    piece = describe(project_of(clip), 10)["layers"][0]["pieces"][0]
    assert piece["tracking"] == pytest.approx(0.28)
    assert piece["fill_opacity"] == pytest.approx(0.4)


def test_a_keyed_box_grows_and_what_hugs_keyed_words_follows():
    box = ShapeClip(id="b", length=40, width=keys((0, 1.0), (10, 401.0)), height=20.0)
    bounds = describe(project_of(box), 5)["layers"][0]["bounds"]
    assert bounds[2] - bounds[0] == pytest.approx(201)
    words = title(text={"tracking": keys((0, 0.0), (20, 1.0))})
    fitting = ShapeClip(id="h", length=40, fits=Fits(layer="title", margin_x=keys((0, 10.0), (20, 50.0))))
    project = project_of(words, fitting)
    for frame, margin in ((0, 10), (10, 30), (20, 50)):
        text, shape = describe(project, frame)["layers"]
        assert shape["bounds"][0] == pytest.approx(text["bounds"][0] - margin, abs=1e-6)
        assert shape["bounds"][2] == pytest.approx(text["bounds"][2] + margin, abs=1e-6)


def test_a_pivot_with_keys_turns_about_where_it_is():
    clip = ShapeClip(
        id="b",
        length=30,
        width=100.0,
        height=20.0,
        transform=Transform(rotation_z=180.0, pivot_x=keys((0, 0.5), (10, 1.0))),
    )
    assert describe(project_of(clip), 0)["layers"][0]["bounds"][0] == pytest.approx(-50)
    assert describe(project_of(clip), 10)["layers"][0]["bounds"][0] == pytest.approx(50)


def test_colours_are_mixed_where_they_say():
    found = colours_at(colours((0, "#000000"), (10, "#ffffff")), np.array([0.0, 5.0, 10.0, 12.0]))
    assert found == ["#000000", "#808080", "#ffffff", "#ffffff"]
    light = colours_at(colours((0, "#204080"), (10, "#e0c060"), mix="linear"), np.array([4.0]))[0]
    for at, (low, high) in zip((1, 3, 5), ((0x20, 0xE0), (0x40, 0xC0), (0x80, 0x60)), strict=True):
        ends = srgb_to_light(np.array([low, high]) / 255)
        mixed = float(light_to_srgb(0.6 * ends[0] + 0.4 * ends[1])) * 255
        assert int(light[at : at + 2], 16) == round(mixed)


def test_see_through_colours_are_mixed_premultiplied():
    # CSS Color Level 4, section 12.3: a colour that is not seen lends nothing of its hue.
    found = colours_at(colours((0, "#ff000000"), (10, "#0000ffff")), np.array([5.0]))[0]
    assert found == "#0000ff80"


def test_a_ground_changes_colour_and_a_gradient_its_stops(tmp_path):
    ground = BackgroundClip(
        id="g", length=20, background=Plain(colour=colours((0, "#102030"), (10, "#506070")))
    )
    pixels = Painter(None).paint(picture_plan(project_of(ground, size=(32, 32)), 5))
    assert pixels[16, 16, :3].tolist() == [0x50, 0x40, 0x30]
    stops = (
        Stop(at=0.0, colour="#000000"),
        Stop(at=keys((0, 0.5), (10, 1.0)), colour=colours((0, "#ff0000"), (10, "#00ff00"))),
    )
    graded = BackgroundClip(id="g", length=20, background=Linear(angle=0.0, stops=stops))
    still = BackgroundClip(
        id="g", length=20, background=Linear(angle=0.0, stops=(stops[0], Stop(at=0.75, colour="#808000")))
    )
    assert same(graded, still, 5)


def way(*points, along=False, **last):
    made = [PathKey(frame=f, x=x, y=y, **more) for f, x, y, more in points]
    return Transform(path=MotionPath(id="p", keys=tuple(made), along=along), **last)


def test_a_straight_path_is_two_keyed_channels():
    one = title(
        transform=way((0, -200.0, 50.0, {"curve": "cubic-out"}), (20, 100.0, -30.0, {}), (30, 0.0, 0.0, {}))
    )
    both = Transform(
        x=Keys(
            id="x",
            keys=(
                Key(frame=0, value=-200.0, curve="cubic-out"),
                Key(frame=20, value=100.0),
                Key(frame=30, value=0.0),
            ),
        ),
        y=Keys(
            id="y",
            keys=(
                Key(frame=0, value=50.0, curve="cubic-out"),
                Key(frame=20, value=-30.0),
                Key(frame=30, value=0.0),
            ),
        ),
    )
    frames = np.linspace(-3, 35, 77)
    along, apart = rest_at(one.transform, frames), rest_at(both, frames)
    for name in ("x", "y"):
        np.testing.assert_allclose(along[name], apart[name], atol=1e-9)


@pytest.fixture(scope="module")
def bent():
    """A bent way, and its length in px measured in 4,000 steps."""
    made = way((0, -300.0, 0.0, {"after": (0.0, -400.0)}), (40, 300.0, 0.0, {"before": (0.0, -400.0)}))
    far = rest_at(made, np.linspace(0, 40, 4001))
    return made, np.hypot(np.diff(far["x"]), np.diff(far["y"])).sum()


@given(st.floats(0, 40))
def test_speed_along_a_curve_is_the_time_curves(bent, frame):
    place, length = bent
    near = rest_at(place, np.array([frame, frame + 1e-3]))
    speed = np.hypot(np.diff(near["x"]), np.diff(near["y"]))[0] / 1e-3
    if frame < 39.9:
        assert speed == pytest.approx(length / 40, rel=1e-3)


def test_a_layer_turns_along_its_path():
    place = way((0, 0.0, 0.0, {}), (10, 100.0, 100.0, {}), (20, 100.0, 0.0, {}), along=True, rotation_z=10.0)
    turns = rest_at(place, np.array([0.0, 5.0, 15.0]))["rotation_z"]
    np.testing.assert_allclose(turns, [55, 55, -80])


def test_the_layers_own_place_is_added_to_the_path():
    place = replace(way((0, 5.0, 6.0, {}), (10, 15.0, 6.0, {})), x=100.0, y=keys((0, 0.0), (10, 20.0)))
    rest = rest_at(place, np.array([5.0]))
    assert (rest["x"][0], rest["y"][0]) == pytest.approx((110.0, 16.0))
