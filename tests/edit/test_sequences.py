"""Sequences: size, rate, several of them, one in another; and the levels that are open."""

import msgspec
import pytest
from hypothesis import given
from hypothesis import strategies as st

from builders import project_of, title
from rovix.edit import change_text, clip_by_id, remove_clip, trim_end
from rovix.edit.groups import group_clips
from rovix.edit.levels import Level, focused, in_context, open_level, sequence_at, unfocused
from rovix.edit.markers import add_marker
from rovix.edit.media_list import relink, remove_media, rename_media, used_media
from rovix.edit.paints import refilled
from rovix.edit.sequences import (
    add_sequence,
    change_background,
    change_rate,
    duplicate_sequence,
    put_in_sequence,
    remove_sequence,
    rename_sequence,
    resize,
)
from rovix.edit.shapes import (
    add_background,
    add_shape,
    change_outline,
    change_shape,
    change_still,
    edit_fill,
)
from rovix.edit.tracks import clip_order, place_track, scale_heights
from rovix.errors import RovixError
from rovix.model import (
    FootageClip,
    Key,
    Keys,
    Linear,
    Media,
    Playing,
    Sequence,
    SoundClip,
    StillClip,
    Track,
    Transform,
)
from rovix.model.consistency import inconsistencies
from rovix.motion import describe

replace = msgspec.structs.replace
FILM = Media(id="reel", path="reel.mp4", kind="footage", digest="blake2b:1", bytes=9, length=4.0)


def bounds(project, identity, frame=0):
    return next(layer["bounds"] for layer in describe(project, frame)["layers"] if layer["id"] == identity)


def refilled_as(project, identity, kind):
    return edit_fill(project, identity, lambda fill: refilled(fill, kind))


def test_layers_keep_their_place_scale_or_keep_to_edges():
    keyed = Keys(keys=(Key(frame=0, value=-250.0), Key(frame=10, value=-200.0)))
    project = project_of(
        title("Mid", id="mid"), title("Low", id="low", transform=Transform(x=keyed, y=150.0)), size=(640, 360)
    )
    kept = resize(project, (360, 640), "keep")
    assert clip_by_id(kept, "low").transform == clip_by_id(project, "low").transform
    scaled = resize(project, (1280, 720), "scale")
    assert bounds(scaled, "low") == pytest.approx([2 * value for value in bounds(project, "low")], rel=1e-6)
    edges = clip_by_id(resize(project, (360, 640), "edges"), "low").transform
    # 140 px nearer on the left, 140 px farther below: as far from the edges as before.
    assert [key.value for key in edges.x.keys] == [-110.0, -60.0]
    assert edges.y == 290.0
    assert clip_by_id(resize(project, (360, 640), "edges"), "mid").transform.x == 0.0
    assert resize(project, (640, 360), "scale") is project


@given(
    lengths=st.lists(st.integers(1, 40), min_size=1, max_size=8),
    rates=st.tuples(
        st.sampled_from(["24", "25", "30000/1001", "60"]), st.sampled_from(["12", "25", "50", "30"])
    ),
)
def test_another_rate_keeps_times_in_seconds_and_clips_apart(lengths, rates):
    clips, at = [], 0
    for number, length in enumerate(lengths):
        clips.append(title(id=f"c{number}", start=at, length=length))
        at += length
    project = project_of(rate=rates[0])
    track = Track(id="t", clips=tuple(clips))
    project = replace(project, sequences=(replace(project.sequence, tracks=(track,)),))
    changed = change_rate(add_marker(project, at), rates[1])
    assert inconsistencies(changed) == []
    old, new = project.sequence.frame_rate, changed.sequence.frame_rate
    # A frame of rounding at each end; short clips at slow rates are pushed by those that grew to a frame.
    slack = len(lengths) + 1
    for before, after in zip(track.clips, changed.sequence.tracks[0].clips, strict=True):
        assert abs(float(old.seconds(before.start)) * float(new.fraction) - after.start) <= slack
    assert changed.sequence.markers[0].frame == new.frames(old.seconds(at))


def test_another_rate_takes_keys_material_and_fades_along():
    clip = FootageClip(
        id="f", media="reel", start=30, length=60, offset=15, playing=Playing(span=30),
        transform=Transform(x=Keys(id="k", keys=(Key(frame=0, value=0.0), Key(frame=30, value=9.0)))),
    )  # fmt: skip
    changed = clip_by_id(change_rate(project_of(clip, media=(FILM,), rate="30"), "60"), "f")
    assert (changed.start, changed.length, changed.offset, changed.playing.span) == (60, 120, 30, 60)
    assert [key.frame for key in changed.transform.x.keys] == [0, 60]
    with pytest.raises(ValueError, match="not a rate"):
        change_rate(project_of(), "fast")


def two():
    inner = Sequence(id="in", name="Inner", size=(320, 180), tracks=(Track(id="t", clips=(title(id="x"),)),))
    return add_sequence(project_of(title(id="a")), inner)


def test_sequences_are_added_copied_named_removed():
    project = two()
    copied, copy = duplicate_sequence(project, "in")
    assert [s.name for s in copied.sequences] == ["Sequence", "Inner", "Inner copy"]
    assert inconsistencies(copied) == []
    assert rename_sequence(copied, copy, "Other").sequences[2].name == "Other"
    assert remove_sequence(copied, copy) == project
    assert change_background(project, "#112233").sequence.background == "#112233"
    with pytest.raises(RovixError, match="at least one"):
        remove_sequence(remove_sequence(project, "in"), "s")


def test_a_sequence_in_another_never_shows_itself():
    project, _ = put_in_sequence(two(), "in", 12)
    assert inconsistencies(project) == []
    with pytest.raises(RovixError, match="shown in 'Sequence'"):
        remove_sequence(project, "in")
    inside = focused(project, Level("in"))
    with pytest.raises(RovixError, match="would show itself"):
        put_in_sequence(inside, "s", 0)
    with pytest.raises(RovixError, match="would show itself"):
        put_in_sequence(project, "s", 0)
    with pytest.raises(RovixError, match="empty"):
        put_in_sequence(add_sequence(project, Sequence(id="none", name="None")), "none", 0)


def test_a_group_opens_as_a_sequence_and_goes_back_in_its_place():
    project, identity = group_clips(two(), ["a"], "Opening")
    level = Level("s", (identity,))
    view = focused(project, level)
    assert (view.sequence.name, [s.id for s in view.sequences]) == ("Opening", ["s", "in"])
    assert unfocused(project, level, view) == project
    changed = unfocused(project, level, change_text(view, "a", content="Other"))
    assert sequence_at(changed, level).tracks[0].clips[0].text.content == "Other"
    longer = unfocused(project, level, trim_end(view, "a", 90))
    assert clip_by_id(longer, identity).length == 90, "it shows all of itself, as before"
    elsewhere = Level("in")
    assert (
        unfocused(project, elsewhere, change_text(focused(project, elsewhere), "x", content="Y")).sequences[1]
        != (project.sequences[1])
    )


def test_an_open_group_is_seen_among_what_surrounds_it_in_its_own_time():
    from rovix.motion import describe

    base = project_of(title("Below", id="low", length=80), title("In", id="in", start=30, length=20),
                      title("Above", id="top", length=80))  # fmt: skip
    project, identity = group_clips(base, ["in"])
    level = Level("s", (identity,))
    seen = in_context(project, level)
    for frame in (0, 7, 19):
        outer = {layer["id"]: layer["bounds"] for layer in describe(base, frame + 30)["layers"]}
        inner = {layer["id"]: layer["bounds"] for layer in describe(seen, frame)["layers"]}
        assert list(inner) == ["low", "in", "top"]
        assert inner == outer
    moved = focused(project, Level("s"))
    group = clip_by_id(moved, identity)
    turned = replace(group, transform=Transform(rotation_z=20.0))
    tracks = tuple(
        replace(t, clips=tuple(turned if c is group else c for c in t.clips)) for t in moved.sequence.tracks
    )
    alone = in_context(replace(moved, sequences=(replace(moved.sequence, tracks=tracks),)), level)
    assert [layer["id"] for layer in describe(alone, 0)["layers"]] == ["in"]
    assert in_context(project, Level("s")) is project


def test_a_level_that_is_gone_gives_way_to_the_one_around_it():
    project, identity = group_clips(two(), ["a"])
    assert open_level(project, Level("s", (identity, "gone"))) == Level("s", (identity,))
    assert open_level(remove_clip(project, identity), Level("s", (identity,))) == Level("s")
    assert open_level(project, Level("gone")) == Level("s")


def test_media_are_named_relinked_and_taken_off_the_list():
    project = project_of(FootageClip(id="f", media="reel", length=5), media=(FILM, replace(FILM, id="spare")))
    assert rename_media(project, "reel", "Kites").media[0].title == "Kites"
    assert FILM.title == "reel"
    assert used_media(project) == {"reel": 1}
    assert [m.id for m in remove_media(project, "spare").media] == ["reel"]
    with pytest.raises(RovixError, match="one clip plays it"):
        remove_media(project, "reel")
    found = Media(id="new", path="../there/reel.mp4", kind="footage", digest="blake2b:2", width=64, height=36)
    new = relink(rename_media(project, "reel", "Kites"), {"reel": found}).media[0]
    assert (new.id, new.name, new.path, new.width) == ("reel", "Kites", "../there/reel.mp4", 64)
    with pytest.raises(RovixError, match="Choose another file"):
        relink(project, {"reel": replace(found, kind="sound")})


def test_grounds_and_shapes_find_their_tracks():
    project = project_of(title(id="words"))
    with_background, ground = add_background(project, "linear", 0, 60)
    assert with_background.sequence.tracks[0].name == "Background"
    again, _ = add_background(with_background, "paper", 60, 30)
    assert len(again.sequence.tracks[0].clips) == 2
    boxed, box = add_shape(with_background, "rounded", 5, 20)
    assert [t.name for t in boxed.sequence.tracks] == ["Background", "Shapes 1", ""]
    fitted, fitting = add_shape(boxed, "box", 0, 1, "words")
    shape = clip_by_id(fitted, fitting)
    assert (shape.fits.layer, shape.length, shape.start) == ("words", 60, 0)
    assert inconsistencies(fitted) == []
    coloured = edit_fill(
        refilled_as(fitted, ground, "plain"), ground, lambda fill: replace(fill, colour="#010203")
    )
    assert clip_by_id(refilled_as(coloured, ground, "radial"), ground).background.stops[0].colour == "#010203"
    turned = refilled_as(refilled_as(fitted, ground, "radial"), ground, "linear")
    assert isinstance(clip_by_id(turned, ground).background, Linear)
    assert clip_by_id(change_outline(fitted, box, width=3.0), box).outline.width == 3.0
    assert clip_by_id(refilled_as(fitted, box, None), box).fill is None
    with pytest.raises(RovixError, match="no shape"):
        change_shape(fitted, "words", width=4.0)
    with pytest.raises(RovixError, match="no fill"):
        refilled_as(fitted, "words", "plain")


def test_stills_are_cropped_and_fitted_and_others_are_not():
    logo = Media(id="b", path="b.png", kind="still", width=9, height=9)
    project = project_of(StillClip(id="s1", media="b", length=5), title(id="w"), media=(logo,))
    round_ = change_still(project, "s1", crop="round", fit="fill")
    assert (clip_by_id(round_, "s1").crop, clip_by_id(round_, "s1").fit) == ("round", "fill")
    with pytest.raises(RovixError, match="no still"):
        change_still(project, "w", crop="round")


def test_tracks_change_place_and_height():
    project = project_of(
        title(id="a"), title(id="b"), SoundClip(id="h", media="reel", length=3), media=(FILM,)
    )
    ids = lambda p: [track.id for track in p.sequence.tracks]  # noqa: E731
    assert ids(place_track(project, "track-0", 1)) == ["track-1", "track-0", "track-2"]
    assert place_track(project, "track-0", 2) is project, "pictures stay among pictures"
    assert [t.height for t in scale_heights(project, 2.0).sequence.tracks] == [70, 70, 56]
    assert [t.height for t in scale_heights(project, 0.01).sequence.tracks] == [20, 20, 20]
    assert clip_order(project) == ["a", "b", "h"]
