import msgspec
import numpy as np
import pytest

from builders import project_of, title
from rovix.model import (
    Amount,
    BackgroundClip,
    Departure,
    FootageClip,
    GroupClip,
    InnerKey,
    Key,
    Keys,
    Media,
    Move,
    SoundClip,
    Text,
    Track,
    Transform,
)
from rovix.model.consistency import inconsistencies, used_families
from rovix.model.identity import IdentityCache
from rovix.model.text import OwnStyle

FILM = Media(id="film", path="film.mp4", kind="footage")
replace = msgspec.structs.replace


def said(project) -> list[str]:
    return [str(problem) for problem in inconsistencies(project)]


def test_a_sound_project_has_no_problems(demo):
    assert inconsistencies(demo.tree) == []


def test_overlapping_clips_are_named():
    project = project_of(title())
    track = Track(id="t", clips=(title(id="a", length=30), title(id="b", start=29)))
    project = replace(project, sequences=(replace(project.sequence, tracks=(track,)),))
    assert said(project) == [
        "$.sequences[0].tracks[0].clips[1].start: frame 29 lies inside the clip before it"
    ]


def test_an_id_is_used_once():
    assert (
        "also the id of $.sequences[0].tracks[0].clips[0]"
        in said(project_of(title(id="a"), title(id="a")))[0]
    )


@pytest.mark.parametrize(
    ("clip", "text"),
    [
        (FootageClip(id="f", media="gone"), "no media with the id 'gone'"),
        (SoundClip(id="f", media="gone"), "no media with the id 'gone'"),
        (title(parent="nobody"), "no layer 'nobody'"),
        (title(transform=Transform(x=Keys(id="k", keys=(Key(frame=3, value=0), Key(frame=3, value=1))))), "3 does not come after 3"),
        (title(transform=Transform(x=Keys(id="k", keys=(Key(frame=3, value=0, curve="zip"),)))), "'zip' is no easing"),
        (title(moves=(Move(id="m", role="exit", order_curve="zip"),)), "moves[0].order_curve: 'zip'"),
        (title(moves=(Move(id="m", role="exit", channels=(Departure(channel="x", curve="zip"),)),)), "'zip'"),
    ],
)  # fmt: skip
def test_what_types_cannot_say_is_found(clip, text):
    assert any(text in problem for problem in said(project_of(clip)))


def test_inner_keys_rise():
    keys = (InnerKey(at=0.5, amount=Amount(value=1)), InnerKey(at=0.5, amount=Amount(value=0)))
    move = Move(id="m", role="entrance", channels=(Departure(channel="x", keys=keys),))
    assert ".channels[0].keys[1].at: 0.5 does not come after 0.5" in said(project_of(title(moves=(move,))))[0]


def test_layers_following_each_other_in_a_circle_are_refused():
    circle = project_of(title(id="a", parent="b"), title(id="b", parent="c"), title(id="c", parent="a"))
    assert len([problem for problem in said(circle) if "follow itself" in problem]) == 3
    assert said(project_of(title(id="a", parent="b"), title(id="b"))) == []


def test_sound_belongs_on_sound_tracks_also_inside_groups():
    inner = Track(id="inner", kind="picture", clips=(SoundClip(id="hum", media="film"),))
    problems = said(project_of(GroupClip(id="g", tracks=(inner,)), media=(FILM,)))
    assert problems == [
        "$.sequences[0].tracks[0].clips[0].tracks[0].clips[0]: a sound clip does not belong on a picture track"
    ]


def test_media_of_the_wrong_kind_is_named():
    sound = Media(id="film", path="wind.flac", kind="sound")
    assert "'wind.flac' is sound" in said(project_of(FootageClip(id="f", media="film"), media=(sound,)))[0]


def test_a_rate_that_does_not_exist_is_named():
    assert "$.sequences[0].rate" in said(project_of(title(), rate="fast"))[0]


def test_used_families_reach_into_groups():
    inner = Track(id="inner", clips=(title(id="i", text={"family": "Caveat"}),))
    assert used_families(project_of(title(), GroupClip(id="g", tracks=(inner,)))) == ["Outfit", "Caveat"]


def test_an_identity_cache_goes_by_the_very_struct_and_forgets_with_it():
    cache, made = IdentityCache(), []
    one, twin = BackgroundClip(id="g"), BackgroundClip(id="g")
    assert one == twin
    for clip in (one, one, twin):
        cache.get(clip, lambda: made.append(1))
    assert len(made) == 2
    cache.get(one, lambda: made.append(1), "detail")
    assert len(made) == 3
    del clip, one
    assert len(cache) == 1


def test_families_of_dressed_parts_are_used_too():
    words = Text(
        content="Kite day", family="Inter", styles=(OwnStyle(start=0, end=4, family="Larkmoor Sans"),)
    )
    clip = type(title())(id="t", length=9, text=words)
    assert used_families(project_of(clip, title(id="other"))) == ["Inter", "Larkmoor Sans", "Outfit"]


def test_an_identity_cache_holds_no_more_than_its_bytes_though_all_structs_live():
    cache = IdentityCache(most=100_000)
    clips = [BackgroundClip(id=f"g{number}") for number in range(100)]
    for clip in clips:
        cache.get(clip, lambda: (np.zeros(1000), [np.zeros(100)]))
    assert cache.held <= 100_000
    assert 8 <= len(cache) <= 12
    assert cache.has(clips[-1])
    assert not cache.has(clips[0])
    # What is used stays.
    for number in range(50):
        cache.get(clips[-1], lambda: pytest.fail("it is kept"))
        cache.get(clips[number], lambda: (np.zeros(1000), []))
    assert cache.has(clips[-1])
    del clips, clip
    assert (len(cache), cache.held) == (0, 0)
