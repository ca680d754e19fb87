"""Crawls and rolls: one speed, from just off one side to just off the other, whatever the words."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from builders import look_of, project_of, title
from rovix.edit import change_text, split_clip
from rovix.edit.crossing import keep_speed
from rovix.edit.tree import clip_of
from rovix.errors import RovixError
from rovix.model import Crossing, Key, Keys, Outline, ShapeClip, Transform
from rovix.model.effects import EFFECTS, Effect
from rovix.model.effects.blur import Blur
from rovix.model.effects.glitch import Glitch
from rovix.model.effects.glow import Glow
from rovix.model.effects.outline import Outline as OutlineEffect
from rovix.model.effects.shadow import Shadow
from rovix.motion import describe, picture_plan
from rovix.motion.layer import layer_motion
from rovix.motion.subject import ink_box
from rovix.paint.painter import Painter
from rovix.time import Rate

RATE = Rate(30)
SIZE = (640, 360)
WAYS = ("left", "right", "up", "down")


def crawling(words="Larkmoor Kite Day", length=91, crossing=None, **fields):
    return title(words, length=length, crossing=crossing or Crossing(), text={"size": 40.0}, **fields)


def places(clip, frames=None):
    motion = layer_motion(clip, SIZE, RATE)
    frames = np.arange(float(clip.length)) if frames is None else frames
    rest = motion.rest(frames)
    return rest["x" if clip.crossing.across else "y"]


def seen(clip, frame):
    return bool(Painter(None).paint(picture_plan(project_of(clip), frame))[..., :3].any())


@pytest.mark.parametrize("way", WAYS)
@pytest.mark.parametrize("fields", [
    {}, {"transform": Transform(x=60.0, y=-30.0, rotation_z=25.0, scale_x=1.4, scale_y=1.4)},
    {"transform": Transform(rotation_y=40.0, z=-200.0)},
    {"look": look_of("#ffffff", Outline(id="o", width=14.0))},
])  # fmt: skip
def test_nothing_is_to_be_seen_at_the_first_frame_and_the_last_and_all_of_it_between(way, fields):
    clip = crawling(crossing=Crossing(way=way), **fields)
    assert not seen(clip, 0)
    assert not seen(clip, clip.length - 1)
    assert seen(clip, clip.length // 2)


@settings(max_examples=40, deadline=None)
@given(st.integers(1, 500), st.sampled_from(WAYS), st.integers(3, 400))
def test_it_goes_in_a_straight_line_at_one_speed(count, way, length):
    clip = crawling("k" * count, length, Crossing(way=way))
    found = places(clip)
    # Against the straight line, and the speed by numpy's gradient.
    assert np.allclose(found, np.linspace(found[0], found[-1], length), atol=1e-6)
    assert np.allclose(np.gradient(found), (found[-1] - found[0]) / (length - 1), atol=1e-6)
    assert np.sign(found[-1] - found[0]) == (1 if way in ("right", "down") else -1)


def test_just_off_means_that_a_few_px_nearer_it_is_seen():
    clip = crawling()
    motion = layer_motion(clip, SIZE, RATE)
    for frame, nearer in ((0, -4.0), (clip.length - 1, 4.0)):
        at = float(motion.rest(np.array([float(frame)]))["x"][0]) + nearer
        assert seen(title("Larkmoor Kite Day", text={"size": 40.0}, transform=Transform(x=at)), 0)


def test_at_a_speed_it_takes_as_long_as_its_way_and_then_it_is_gone():
    clip = crawling(length=900, crossing=Crossing(speed=300.0))
    found = places(clip)
    steps = np.diff(found)
    way = abs(found[-1] - found[0])
    going = int(np.ceil(way / 10.0))
    assert np.allclose(steps[: going - 1], -10.0)
    assert np.all(steps[going:] == 0)
    assert not seen(clip, going + 1)
    motion = layer_motion(clip, SIZE, RATE)
    assert motion.crossing.needed == going
    assert not motion.crossing.is_short


def test_a_clip_too_short_for_its_speed_says_so_and_still_ends_off_the_frame():
    clip = crawling(length=31, crossing=Crossing(speed=100.0))
    motion = layer_motion(clip, SIZE, RATE)
    assert motion.crossing.is_short
    assert motion.crossing.needed > 30
    assert not seen(clip, 30)


def test_it_holds_at_both_ends_and_rests_where_it_is_to():
    crossing = Crossing(way="up", hold_start=0.5, hold_end=1.0, to_rest=True)
    clip = crawling(length=151, crossing=crossing)
    found = places(clip)
    assert np.all(found[:16] == found[0])
    assert np.all(found[120:] == 0.0), "the last second it stands where the layer rests"
    steps = np.diff(found[15:121])
    assert np.allclose(steps, steps[0])
    back = places(crawling(length=151, crossing=Crossing(way="up", from_rest=True)))
    assert back[0] == 0.0
    assert back[-1] < 0


@pytest.mark.parametrize("speed", [None, 95.0])
def test_whole_px_a_frame_never_shimmer(speed):
    clip = crawling(length=241, crossing=Crossing(whole_px=True, speed=speed))
    found = places(clip)
    steps = np.unique(np.round(np.diff(found), 9))
    assert set(steps.tolist()) <= {0.0, float(min(steps))}
    assert float(min(steps)) == round(float(min(steps)))
    assert not seen(clip, 0)
    assert not seen(clip, 240)
    one, other = (Painter(None).paint(picture_plan(project_of(clip), frame)) for frame in (100, 101))
    moved = -int(min(steps))
    assert np.array_equal(one[:, moved:], other[:, :-moved]), "the same picture, moved"


@pytest.mark.parametrize(
    "words", ["A", "Larkmoor Kite Day, all afternoon and long into the night, with lamps"]
)
def test_retyped_it_still_crosses_from_edge_to_edge(words):
    project = change_text(project_of(crawling()), "title", content=words)
    clip = clip_of(project, "title")
    assert not seen(clip, 0)
    assert not seen(clip, clip.length - 1)
    assert clip.crossing == Crossing()


def test_describe_says_which_way_it_goes_and_how_fast():
    clip = crawling(length=900, crossing=Crossing(speed=300.0))
    said = describe(project_of(clip), 10)["layers"][0]["crossing"]
    assert (said["way"], said["px"]) == ("left", 10.0)
    assert said["needs"] == layer_motion(clip, SIZE, RATE).crossing.needed
    assert "crossing" not in describe(project_of(title("Kite")), 0)["layers"][0]


@pytest.mark.parametrize("crossing", [Crossing(), Crossing(way="up", speed=137.0, hold_start=0.3)])
def test_cut_in_two_it_goes_on_as_before(crossing):
    clip = crawling(length=200, crossing=crossing, transform=Transform(x=12.0, y=-7.0))
    whole = layer_motion(clip, SIZE, RATE).rest(np.arange(200.0))
    made = split_clip(project_of(clip), "title", 77)
    halves = made.sequence.tracks[0].clips
    found = [layer_motion(half, SIZE, RATE).rest(np.arange(float(half.length))) for half in halves]
    for name in ("x", "y"):
        assert np.allclose(np.concatenate([half[name] for half in found]), whole[name], atol=1e-6)


def test_what_crawls_along_keys_of_its_own_is_not_cut_but_told():
    keys = Keys(keys=(Key(frame=0, value=0.0), Key(frame=9, value=9.0)))
    project = project_of(crawling(transform=Transform(x=keys)))
    with pytest.raises(RovixError, match="keys of its own"):
        split_clip(project, "title", 30)


def test_a_roll_taller_than_the_frame_goes_all_the_way():
    credits = "\n".join(f"Somebody {number}" for number in range(30))
    clip = crawling(credits, 400, Crossing(way="up"))
    assert not seen(clip, 0)
    assert not seen(clip, 399)
    found = places(clip)
    assert found[0] - found[-1] > 360 + 30 * 40


def test_words_without_ink_and_what_rests_off_the_frame_do_no_harm():
    assert np.all(np.isfinite(places(crawling("   "))))
    far = crawling(transform=Transform(x=5000.0))
    assert not seen(far, 0)
    assert seen(far, 45)


def test_boxes_cross_and_what_follows_goes_along():
    box = ShapeClip(id="box", length=91, crossing=Crossing(way="right"))
    follower = title("Kite", id="kite", length=91, parent="box", text={"size": 40.0})
    project = project_of(box, follower)
    first = Painter(None).paint(picture_plan(project, 0))[..., :3]
    assert not first.any(), "the words go along with the box"


@pytest.mark.parametrize("length", [31, 400])
def test_in_whole_px_from_its_place_it_starts_there_however_short_the_clip(length):
    crossing = Crossing(from_rest=True, whole_px=True, speed=50.0)
    found = places(crawling(length=length, crossing=crossing))
    assert found[0] == 0.0
    assert np.allclose(np.diff(found), np.round(np.diff(found)))


@pytest.mark.parametrize("counted", ["second", "frame", "words"])
def test_a_speed_is_the_same_however_it_is_counted(counted):
    """Words a minute: px a word are the ink's width by the words in it; 4 px a frame are 120 a second."""
    words = "one two three four five six"
    project = project_of(crawling(words, 400, Crossing(speed=4.0, counted="frame")))
    made = keep_speed(project, "title", counted)
    clip = clip_of(made, "title")
    left, _, right, _ = ink_box(layer_motion(clip, SIZE, RATE).subject)
    expected = {"second": 120.0, "frame": 4.0, "words": 120.0 * 60 / ((right - left) / 6)}[counted]
    assert clip.crossing.speed == pytest.approx(expected, abs=1e-3)
    assert clip.crossing.counted == counted
    assert np.allclose(np.diff(places(clip))[:20], -4.0, atol=1e-3)
    assert describe(made, 5)["layers"][0]["crossing"]["words_a_minute"] == pytest.approx(
        120.0 * 60 / ((right - left) / 6), rel=1e-3
    )


def test_words_a_minute_stay_when_the_words_and_their_size_change():
    project = project_of(crawling("one two three", crossing=Crossing(speed=150.0, counted="words")))
    for change in ({"content": "another line of seven words in it"}, {"size": 90.0}):
        project = change_text(project, "title", **change)
        said = describe(project, 5)["layers"][0]["crossing"]
        assert said["words_a_minute"] == pytest.approx(150.0) or said["needs"] > 90


def test_what_has_no_words_takes_its_clip_and_cannot_be_counted_in_words():
    box = ShapeClip(id="title", length=91, crossing=Crossing(speed=100.0, counted="words"))
    found = places(box)
    assert np.allclose(np.diff(found), (found[-1] - found[0]) / 90)
    with pytest.raises(RovixError, match="no words"):
        keep_speed(project_of(box), "title", "words")


@pytest.mark.parametrize(
    "effect",
    [
        Glow(size=30.0),
        Shadow(x=-60.0, y=70.0, blur=9.0),
        OutlineEffect(width=25.0),
        Blur(x=20.0, y=30.0),
        Glitch(shift=80.0, split=10.0),
    ],
    ids=lambda effect: type(effect).__name__,
)
@pytest.mark.parametrize("way", WAYS)
def test_what_effects_add_round_the_words_is_off_the_frame_too(effect, way):
    clip = crawling("Kite", crossing=Crossing(way=way), effects=(effect,))
    assert not seen(clip, 0)
    assert not seen(clip, clip.length - 1)
    assert seen(clip, clip.length // 2)


def test_every_effect_says_how_far_it_goes_beyond_or_is_known_to_stay():
    """One that is drawn outside the letters' box and says nothing would be forgotten."""
    staying = {
        "reveal-box",
        "crop",
        "wipe",
        "fill-sweep",
        "tone",
        "grain",
        "mask",
        "matte",
        "colour-key",
        "light-key",
    }
    elsewhere = {"long-shadow", "wrap-around", "echo-trail"}
    saying = {kind for kind, struct in EFFECTS.items() if struct.beyond is not Effect.beyond}
    assert saying | staying | elsewhere == set(EFFECTS)
    assert not saying & (staying | elsewhere)


def test_ends_inside_the_frame_stay_when_words_and_length_change():
    crossing = Crossing(from_rest=True, start=140.0, to_rest=True, end=-90.0)
    project = project_of(crawling(crossing=crossing))
    for change in ("Other words for the same crawl", "K"):
        project = change_text(project, "title", content=change)
        found = places(clip_of(project, "title"))
        assert (found[0], found[-1]) == pytest.approx((140.0, -90.0))
