"""Joins, hugging shapes, groups and sequences inside others, in numbers."""

from fractions import Fraction

import msgspec
import numpy as np
import pytest

from builders import look_of, project_of, title
from rovix.edit.sequences import add_sequence, put_in_sequence
from rovix.model import (
    BackgroundClip,
    Fits,
    FootageClip,
    GroupClip,
    Media,
    Outline,
    Playing,
    Sequence,
    ShapeClip,
    Track,
    Transform,
    Transition,
)
from rovix.motion import TransitionPlan, describe, picture_plan
from rovix.motion.material import material_frame, media_time
from rovix.motion.quads import picture_quads
from rovix.motion.transitions import transitions_of
from rovix.time import Rate, Span

replace = msgspec.structs.replace
RATE = Rate(30)


def track_of(*clips):
    return Track(id="t", clips=clips)


def on_one_track(*clips):
    project = project_of()
    return replace(project, sequences=(replace(project.sequence, tracks=(track_of(*clips),)),))


def ground(identity, start, length, **fields):
    return BackgroundClip(id=identity, start=start, length=length, **fields)


def test_a_join_lies_half_before_the_cut_and_never_beyond_half_a_clip():
    pair = track_of(ground("a", 0, 40), ground("b", 40, 40, transition=Transition(id="j", length=0.5)))
    # 0.5 s are 15 frames: 7 before the cut, 8 after.
    assert transitions_of(pair, RATE)[0].span == Span(33, 48)
    short = track_of(ground("a", 0, 4), ground("b", 4, 3, transition=Transition(id="j", length=5.0)))
    assert transitions_of(short, RATE)[0].span == Span(2, 5)
    apart = track_of(ground("a", 0, 4), ground("b", 5, 3, transition=Transition(id="j")))
    assert transitions_of(apart, RATE) == ()


def test_a_join_shares_out_evenly_by_the_middle_of_each_frame():
    joined = transitions_of(
        track_of(ground("a", 0, 10), ground("b", 10, 10, transition=Transition(id="j", length=4 / 30))), RATE
    )[0]
    assert [joined.share(frame) for frame in range(8, 12)] == pytest.approx([0.125, 0.375, 0.625, 0.875])
    assert joined.share(4) == 0.0
    assert joined.share(30) == 1.0


def test_both_clips_of_a_join_are_planned_and_described():
    project = on_one_track(
        ground("a", 0, 40), ground("b", 40, 40, transition=Transition(id="j", kind="wipe"))
    )
    (plan,) = picture_plan(project, 40).layers
    assert isinstance(plan, TransitionPlan)
    assert (plan.before.id, plan.after.id, plan.kind) == ("a", "b", "wipe")
    layers = describe(project, 34)["layers"]
    assert [(layer["id"], layer["transition"]["part"], layer["frame"]) for layer in layers] == [
        ("a", "before", 34),
        ("b", "after", -6),
    ]
    assert "transition" not in describe(project, 20)["layers"][0]


def test_a_hugging_shape_is_the_ink_and_a_margin_and_rests_where_the_words_do():
    words = title(
        "Kite", id="w", transform=Transform(x=50.0, y=-20.0), look=look_of("#fff8ea", Outline(width=4.0))
    )
    box = ShapeClip(id="box", length=60, fits=Fits(layer="w", margin_x=30.0, margin_y=10.0))
    layers = describe(project_of(box, words), 0)["layers"]
    shape, text = layers[0]["bounds"], layers[1]["bounds"]
    # The words' bounds hold their outline of 4 px already; the margins come on top.
    assert shape == pytest.approx([text[0] - 30, text[1] - 10, text[2] + 30, text[3] + 10], abs=0.5)
    moved = replace(box, transform=Transform(y=100.0, scale_x=0.5))
    own = describe(project_of(moved, words), 0)["layers"][0]["bounds"]
    assert own[1] == pytest.approx(shape[1] + 100, abs=0.5)
    assert own[2] - own[0] == pytest.approx((shape[2] - shape[0]) / 2, abs=0.5)


def test_a_hugging_shape_turns_and_scales_with_the_rest_of_what_it_hugs():
    words = title("Kite", id="w", transform=Transform(rotation_z=90.0, scale_x=2.0, scale_y=2.0))
    box = ShapeClip(id="box", length=60, fits=Fits(layer="w", margin_x=0.0, margin_y=0.0))
    shape, text = (layer["bounds"] for layer in describe(project_of(box, words), 0)["layers"])
    assert shape == pytest.approx(text, abs=0.5)


@pytest.mark.parametrize(
    ("playing", "shown"),
    [
        (Playing(), [5, 6, 7, 8, 9, 10]),
        (Playing(backwards=True), [10, 9, 8, 7, 6, 5]),
        (Playing(speed=2.0), [5, 7, 9, 11, 13, 15]),
        (Playing(speed=0.5), [5, 5.5, 6, 6.5, 7, 7.5]),
        (Playing(speed=0.0), [5, 5, 5, 5, 5, 5]),
        (Playing(span=4), [5, 6, 7, 8, 5, 6]),
        (Playing(span=4, and_back=True, lead=1), [6, 7, 8, 7, 6, 5]),
        (Playing(span=3, backwards=True), [7, 6, 5, 7, 6, 5]),
    ],
)
def test_the_material_a_clip_shows_by_hand(playing, shown):
    clip = FootageClip(id="c", media="m", length=6, offset=5, playing=playing)
    assert [float(material_frame(clip, Fraction(frame))) for frame in range(6)] == shown
    assert media_time(RATE, clip, 2.9) == material_frame(clip, Fraction(2)) / 30


def test_a_group_played_backwards_shows_its_inside_in_reverse():
    inner = (ground("first", 0, 10), ground("second", 10, 20))
    group = GroupClip(id="g", length=30, tracks=(track_of(*inner),), playing=Playing(backwards=True))
    project = project_of(group)
    seen = [describe(project, frame)["layers"][0]["layers"][0]["id"] for frame in (0, 19, 20, 29)]
    assert seen == ["second", "second", "first", "first"]


def test_a_sequence_inside_another_is_cut_to_its_frame_and_keeps_its_own_time():
    inner = Sequence(
        id="in", size=(320, 180), rate="25", tracks=(track_of(ground("a", 0, 25), ground("b", 25, 25)),)
    )
    project, identity = put_in_sequence(add_sequence(project_of(), inner), "in", 0)
    clip = project.sequence.tracks[0].clips[0]
    assert clip.length == 60, "two seconds at 30 fps"
    plan = picture_plan(project, 0).layers[0]
    assert plan.frame == (320, 180)
    # Fitted into 640 x 360: twice as large, corner on corner.
    assert np.allclose(plan.matrix @ np.array([320, 180, 1]), [640, 360, 1])
    seen = [describe(project, frame)["layers"][0]["layers"][0]["id"] for frame in (0, 29, 30, 59)]
    assert seen == ["a", "a", "b", "b"]
    (quads,) = picture_quads(project, 0)
    assert (quads.id, quads.rest.tolist()) == (identity, [[0, 0], [640, 0], [640, 360], [0, 360]])


def test_mixed_sizes_conform_by_fit_fill_or_as_they_are():
    wide = Media(id="m", path="m.mp4", kind="footage", width=1280, height=360)
    sizes = {}
    for fit in ("fit", "fill", "as-is"):
        clip = FootageClip(id="c", media="m", length=5, fit=fit)
        plan = picture_plan(project_of(clip, media=(wide,)), 0).layers[0]
        sizes[fit] = (plan.width, plan.height)
    assert sizes == {"fit": (640, 180), "fill": (1280, 360), "as-is": (1280, 360)}
