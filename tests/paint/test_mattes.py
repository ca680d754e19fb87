"""Layers that show where others are: by formula on coverages, through moves, hidden tracks, circles, groups."""

import numpy as np
import pytest
from msgspec.structs import replace

from builders import project_of, title
from rovix.edit.clips import remove_clip
from rovix.edit.effects import add_effects, change_effect, tie_to_layer
from rovix.edit.groups import group_clips
from rovix.edit.text import change_text
from rovix.edit.tree import clip_by_id
from rovix.model import BackgroundClip, Key, Keys, Linear, Plain, Stop, Transform
from rovix.model.effects.blur import Blur
from rovix.model.effects.matte import Matte, Through
from rovix.model.effects.tone import Tone
from rovix.motion import picture_plan, plan_key
from rovix.motion.dependencies import PictureDependencies
from rovix.motion.ready_moves import rise_and_fade
from rovix.paint.effects.masks import LUMA
from rovix.paint.painter import Painter

SIZE = (240, 160)
GREEN = BackgroundClip(id="ground", length=30, background=Plain(colour="#3fa070"))
WORDS = title("Wind", id="words", length=30, text={"size": 70.0})


def through(layer="words", at="alpha", hides=False):
    return Matte(id="m", through=Through(layer=layer, at=at), hides=hides)


def project(*clips, hidden=()):
    made = project_of(*clips, size=SIZE, background="#00000000")
    tracks = tuple(
        replace(track, hidden=any(clip.id in hidden for clip in track.clips))
        for track in made.sequence.tracks
    )
    return replace(made, sequences=(replace(made.sequence, tracks=tracks),))


def picture(made, frame=0):
    return Painter(None).paint(picture_plan(made, frame)).astype(float)


def alpha(*clips, frame=0, hidden=()):
    return picture(project(*clips, hidden=hidden), frame)[..., 3] / 255


@pytest.mark.parametrize("hides", [False, True])
@pytest.mark.parametrize("frame", [0, 6, 20])
def test_a_ground_shows_through_words_that_move(frame, hides):
    words = replace(WORDS, moves=(rise_and_fade(),))
    got = alpha(replace(GREEN, effects=(through(hides=hides),)), words, frame=frame, hidden=("words",))
    own = alpha(words, frame=frame)
    assert np.abs(got - (1 - own if hides else own)).max() < 0.012


def test_the_matte_layer_is_seen_too_unless_its_track_is_hidden():
    shown = picture(project(replace(GREEN, effects=(through(),)), WORDS))
    words = picture(project(WORDS))
    inside = words[..., 3] == 255
    assert np.array_equal(shown[inside], words[inside])
    only = picture(project(replace(GREEN, effects=(through(),)), WORDS, hidden=("words",)))
    inside = only[..., 3] == 255
    assert (only[inside] == only[inside][0]).all()


def test_by_light_it_is_the_luma_of_what_is_seen():
    """0.2126 R + 0.7152 G + 0.0722 B of premultiplied code values."""
    stops = (Stop(at=0.0, colour="#102030"), Stop(at=1.0, colour="#ffe0c0"))
    ramp = BackgroundClip(id="words", length=30, background=Linear(stops=stops, angle=0.0),
                          transform=Transform(opacity=0.8))  # fmt: skip
    got = alpha(replace(GREEN, effects=(through(at="light"),)), ramp, hidden=("words",))
    luma = picture(project(ramp))[..., 2::-1] @ LUMA / 255
    assert np.abs(got - luma).max() < 0.012


def test_effects_before_and_after_the_matte_are_done_in_their_order():
    sharp = alpha(replace(GREEN, effects=(through(),)), WORDS, hidden=("words",))
    soft = alpha(replace(GREEN, effects=(through(), Blur(x=4.0, y=4.0))), WORDS, hidden=("words",))
    before = alpha(replace(GREEN, effects=(Tone(saturation=0.0), through())), WORDS, hidden=("words",))
    assert np.array_equal(sharp, before)
    assert np.abs(np.diff(soft, axis=1)).max() < np.abs(np.diff(sharp, axis=1)).max() / 2


def test_outside_of_its_time_the_matte_layer_is_nowhere():
    late = replace(WORDS, start=10, length=10)
    for frame, there in ((5, False), (12, True), (25, False)):
        got = alpha(replace(GREEN, effects=(through(),)), late, frame=frame, hidden=("words",))
        assert got.any() == there
        got = alpha(replace(GREEN, effects=(through(hides=True),)), late, frame=frame, hidden=("words",))
        assert (got.min() < 1) == there


def with_a_matte(made):
    made = add_effects(made, "ground", (Matte(),))
    return made, clip_by_id(made, "ground").effects[0].id


def test_layers_that_show_through_each_other_or_themselves_end():
    one = replace(GREEN, id="one", effects=(through("two"),))
    two = replace(WORDS, id="two", effects=(through("one"),))
    assert alpha(one, two).shape == SIZE[::-1]
    with_itself, matte = with_a_matte(project(GREEN))
    # On reading it is refused, as any layer that names itself is.
    tied = tie_to_layer(with_itself, "ground", matte, Matte.facts.rows[0], "ground")
    assert picture(tied).shape == (*SIZE[::-1], 4)


def test_keys_of_the_plan_follow_the_matte():
    plans = [
        picture_plan(project(replace(GREEN, effects=(effect,)), words), 3)
        for effect in (through(), through(hides=True), through(at="light"), Matte(id="m"))
        for words in (WORDS, replace(WORDS, transform=Transform(x=5.0)))
    ]
    # Without a layer it does not matter where that one is; the words themselves are seen besides.
    assert len({plan_key(plan) for plan in plans}) == 8


def test_it_is_tied_let_go_with_its_layer_and_comes_along_into_a_group():
    made, matte = with_a_matte(project(GREEN, WORDS))
    row = Matte.facts.rows[0]
    tied = tie_to_layer(made, "ground", matte, row, "words")
    assert clip_by_id(tied, "ground").effects[0].through == Through(layer="words", at="alpha")
    tied = tie_to_layer(tied, "ground", matte, row, "words", "light")
    assert clip_by_id(tied, "ground").effects[0].through.at == "light"
    assert clip_by_id(tie_to_layer(tied, "ground", matte, row, None), "ground").effects[0].through is None
    grouped, _ = group_clips(tied, ["ground", "words"])
    assert np.array_equal(picture(grouped), picture(tied))
    gone = remove_clip(tied, "words")
    assert clip_by_id(gone, "ground").effects[0].through is None
    assert change_effect(tied, "ground", matte, hides=True) != tied


def test_a_key_moves_what_is_shown_not_the_matte():
    moved = replace(GREEN, effects=(through(),),
                    transform=Transform(x=Keys(keys=(Key(frame=0, value=0.0), Key(frame=10, value=60.0)))))  # fmt: skip
    got = alpha(moved, WORDS, frame=10, hidden=("words",))
    own = alpha(WORDS) * (np.arange(SIZE[0]) >= 60)
    assert np.abs(got - own).max() < 0.012


def test_what_is_kept_of_pictures_knows_of_a_matte_on_a_hidden_track():
    made = project(replace(GREEN, effects=(through(),)), WORDS, hidden=("words",))
    changed = change_text(made, "words", content="Kite")
    assert PictureDependencies(made).at(5) != PictureDependencies(changed).at(5)
    loose = project(GREEN, WORDS, hidden=("words",))
    other = replace(loose, sequences=(replace(loose.sequence, tracks=(loose.sequence.tracks[0], *changed.sequence.tracks[1:])),))  # fmt: skip
    assert PictureDependencies(loose).at(5) == PictureDependencies(other).at(5)
