"""Edits of many clips at once, and the laws that hold for any sequence of edits."""

import msgspec
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from builders import project_of, title
from rovix.edit import History, clip_by_id, split_clip, trim_end, trim_start
from rovix.edit.clips import slip
from rovix.edit.groups import group_clips, ungroup
from rovix.edit.markers import add_marker, move_marker, neighbour, remove_marker, rename_marker
from rovix.edit.playing import (
    freeze,
    play_backwards,
    play_there_and_back,
    play_times,
    set_length_by_speed,
    set_speed,
    times_of,
)
from rovix.edit.selected_clips import (
    chain_landings,
    duplicate_clips,
    ids_after,
    ids_within,
    move_clips,
    on_each,
    remove_clips,
    remove_clips_and_gaps,
    split_clips,
    stagger_clips,
)
from rovix.edit.transform import set_blend
from rovix.edit.transitions import change_transition, set_transition, touched, transition_near
from rovix.errors import RovixError
from rovix.model import Fits, FootageClip, Media, ShapeClip, Sound, SoundClip, Track
from rovix.model.consistency import inconsistencies
from rovix.motion import describe
from rovix.motion.ready_moves import pop
from rovix.time import Span

replace = msgspec.structs.replace
FILM = Media(id="reel", path="film.mp4", kind="footage", length=4.0, width=640, height=360)


def stack(*rows, **fields):
    """A project of picture tracks from the lowest, and a sound track, of clips given as tuples."""
    tracks = [Track(id=f"t{n}", name=f"T{n}", clips=tuple(row)) for n, row in enumerate(rows)]
    hum = SoundClip(id="hum", media="reel", start=5, length=40, sound=Sound(fade_in=4, fade_out=6))
    tracks.append(Track(id="noise", name="Noise", kind="sound", clips=(hum,)))
    project = project_of(media=(FILM,))
    return replace(project, sequences=(replace(project.sequence, tracks=tuple(tracks), **fields),))


def words(identity, start, length=20, **fields):
    return title(identity, id=identity, start=start, length=length, **fields)


@pytest.fixture
def project():
    film = FootageClip(id="film", media="reel", length=60, offset=10)
    return stack((film,), (words("a", 10), words("b", 40)), (words("c", 0), words("d", 30)))


def starts(project, *identities):
    return [clip_by_id(project, identity).start for identity in identities]


def test_several_clips_move_as_one_up_to_what_is_in_the_way(project):
    assert starts(move_clips(project, ["a", "c"], 5), "a", "c") == [15, 5]
    # c may go to 10 before it meets d; a keeps its distance to it.
    assert starts(move_clips(project, ["a", "c"], 18), "a", "c") == [20, 10]
    assert starts(move_clips(project, ["b", "d"], -100), "b", "d") == [30, 20]
    assert starts(move_clips(project, ["a", "hum"], -50), "a", "hum") == [5, 0]


def test_several_clips_move_by_tracks_or_stay_on_theirs(project):
    up = move_clips(project, ["a"], 45, tracks=1)
    assert [clip.id for clip in up.sequence.tracks[2].clips] == ["c", "d", "a"]
    assert starts(up, "a") == [55]
    too_far = move_clips(project, ["c"], 55, tracks=1)
    assert [clip.id for clip in too_far.sequence.tracks[2].clips] == ["d", "c"]


def test_locked_tracks_keep_their_clips(project):
    tracks = list(project.sequence.tracks)
    tracks[1] = replace(tracks[1], locked=True)
    locked = replace(project, sequences=(replace(project.sequence, tracks=tuple(tracks)),))
    moved = move_clips(locked, ["a", "c"], 5)
    assert starts(moved, "a", "c") == [10, 5]
    for edit in (
        lambda p: remove_clips(p, ["a"]),
        lambda p: trim_end(p, "a", 20),
        lambda p: split_clip(p, "a", 15),
        lambda p: move_clips(p, ["a"], 1),
    ):
        with pytest.raises(RovixError, match="locked"):
            edit(locked)


def test_removing_several_closes_their_gaps_or_leaves_them(project):
    assert starts(remove_clips(project, ["a", "c"]), "b", "d") == [40, 30]
    assert starts(remove_clips_and_gaps(project, ["a", "c"]), "b", "d") == [20, 10]


def test_duplicates_keep_the_arrangement_behind_the_last(project):
    made, copies = duplicate_clips(project, ["a", "c"])
    assert starts(made, *copies) == [40, 30]
    assert len(made.sequence.tracks) == 6, "there was no room on either track"
    assert inconsistencies(made) == []


def test_splitting_all_cuts_every_unlocked_clip_under_the_playhead(project):
    cut = split_clips(project, None, 35)
    assert [len(track.clips) for track in cut.sequence.tracks] == [2, 2, 3, 2]
    with pytest.raises(RovixError, match="nothing was split"):
        split_clips(project, ["a"], 35)


def test_a_cascade_starts_each_layer_after_the_one_below_in_either_order():
    pile = stack(*((words(name, 30),) for name in "abcd"))
    up = stagger_clips(pile, "abcd", 3)
    assert starts(up, *"abcd") == [30, 33, 36, 39]
    assert starts(stagger_clips(pile, "abcd", 3, from_top=True), *"abcd") == [39, 36, 33, 30]
    assert stagger_clips(up, "abcd", 0) == pile, "back again"
    with pytest.raises(RovixError, match="before frame 0"):
        stagger_clips(pile, "abcd", -11)
    with pytest.raises(RovixError, match="two layers"):
        stagger_clips(pile, "a", 3)


def test_each_layer_can_start_when_the_one_before_it_lands():
    pile = stack((words("a", 10, moves=[pop()]),), (words("b", 20, moves=[pop()]),), (words("c", 22),))
    landed = chain_landings(pile, "cab")
    # A pop takes 0.24 s: 7 frames at 30 fps.
    assert starts(landed, *"abc") == [10, 17, 24]


def test_clips_after_the_playhead_and_in_a_rubber_band(project):
    assert ids_after(project, 10) == ["a", "b", "d"]
    assert ids_within(project, Span(25, 41), {1, 2}) == ["a", "b", "d"]


def test_slipping_shows_other_material_in_the_same_place(project):
    later = clip_by_id(slip(project, "film", 30), "film")
    assert (later.start, later.length, later.offset) == (0, 60, 40)
    # Four seconds are 120 frames: 60 of them can be cut off before.
    assert clip_by_id(slip(project, "film", 300), "film").offset == 60
    assert clip_by_id(slip(project, "film", -300), "film").offset == 0
    with pytest.raises(RovixError, match="no material"):
        slip(project, "a", 1)


def test_a_group_and_back_is_the_very_same_timeline(project):
    grouped, identity = group_clips(project, ["a", "c", "hum"], "Opening")
    group = clip_by_id(grouped, identity)
    assert (group.start, group.length, group.name) == (0, 45, "Opening")
    assert inconsistencies(grouped) == []
    apart, back = ungroup(grouped, identity)
    assert sorted(back) == ["a", "c", "hum"]
    # The track made for the group because d was in the way is left over, empty.
    assert [t for t in apart.sequence.tracks if t.clips] == list(project.sequence.tracks)


def test_ungrouping_passes_a_place_on(project):
    grouped, identity = group_clips(project, ["a"])
    spot = next(c for t in grouped.sequence.tracks for c in t.clips if c.id == identity)
    moved = replace(
        spot, transform=replace(spot.transform, x=30.0, y=-8.0, rotation_z=90.0, scale_x=2.0, scale_y=2.0)
    )
    tracks = tuple(
        replace(t, clips=tuple(moved if c.id == identity else c for c in t.clips))
        for t in grouped.sequence.tracks
    )
    placed = replace(grouped, sequences=(replace(grouped.sequence, tracks=tracks),))
    before = describe(placed, 15)["layers"]
    apart, _ = ungroup(placed, identity)
    inner = next(layer for layer in before if layer["id"] == identity)["layers"][0]
    outer = next(layer for layer in describe(apart, 15)["layers"] if layer["id"] == "a")
    assert outer["bounds"] == pytest.approx(inner["bounds"], abs=1e-6)


def test_what_cannot_be_grouped_or_ungrouped_says_why(project):
    with pytest.raises(RovixError, match="picture"):
        group_clips(project, ["hum"])
    tied = stack((words("a", 0),), (words("b", 0, parent="a"),))
    with pytest.raises(RovixError, match="'b' follows 'a'"):
        group_clips(tied, ["b"])
    grouped, identity = group_clips(project, ["a"])
    with pytest.raises(RovixError, match="a blend of its own"):
        ungroup(set_blend(grouped, identity, "screen"), identity)
    timed = play_backwards(grouped, identity)
    with pytest.raises(RovixError, match="in another way"):
        ungroup(timed, identity)


def test_copies_of_tied_layers_are_tied_to_each_other():
    tied = stack((words("a", 0),), (ShapeClip(id="box", length=20, fits=Fits(layer="a")),))
    made, copies = duplicate_clips(tied, ["a", "box"])
    assert clip_by_id(made, copies[1]).fits.layer == copies[0]
    assert inconsistencies(made) == []
    assert clip_by_id(remove_clips(tied, ["a"]), "box").fits is None


def test_speed_keeps_the_material_and_changes_the_length(project):
    assert clip_by_id(set_speed(project, "film", 2.0), "film").length == 30
    slow = clip_by_id(set_speed(project, "film", 0.5), "film")
    assert (slow.length, slow.playing.speed) == (120, 0.5)
    assert clip_by_id(set_length_by_speed(project, "film", 45), "film").playing.speed == 60 / 45
    hum = set_speed(project, "hum", 8.0)
    sound = clip_by_id(hum, "hum").sound
    assert (sound.fade_in, sound.fade_out) == (4, 1), "fades give way to the shorter clip"


def test_there_and_back_and_times_grow_the_clip(project):
    there = clip_by_id(play_there_and_back(project, "film"), "film")
    assert (there.length, there.playing.span, times_of(there)) == (119, 60, 1.0)
    thrice = clip_by_id(play_times(project, "film", 3), "film")
    assert (thrice.length, thrice.playing.span, times_of(thrice)) == (180, 60, 3.0)
    assert clip_by_id(play_there_and_back(play_there_and_back(project, "film"), "film"), "film") == (
        clip_by_id(project, "film")
    )


def test_freezing_holds_a_frame_and_pushes_the_rest(project):
    frozen = freeze(project, "film", 20, 15)
    clips = frozen.sequence.tracks[0].clips
    assert [(c.start, c.length, c.offset, c.playing.speed) for c in clips] == [
        (0, 20, 10, 1.0),
        (20, 15, 30, 0.0),
        (35, 40, 30, 1.0),
    ]
    with pytest.raises(RovixError, match="playhead"):
        freeze(project, "film", 70, 15)


def test_a_join_needs_clips_that_touch():
    row = stack((words("a", 0), words("b", 20), words("c", 50)))
    joined = change_transition(set_transition(row, "b", "dissolve"), "b", length=1.0)
    assert clip_by_id(joined, "b").transition.length == 1.0
    assert clip_by_id(set_transition(joined, "b", "cut"), "b").transition is None
    with pytest.raises(RovixError, match="No clip ends where 'c' starts"):
        set_transition(row, "c", "dissolve")
    assert touched(row, "b").id == "a"
    assert (transition_near(row, "a", 15), transition_near(row, "b", 25), transition_near(row, "c", 55)) == (
        "b",
        "b",
        None,
    )


def test_markers_stand_in_order_with_their_names(project):
    marked = add_marker(add_marker(project, 30, "Drop"), 12)
    first, second = marked.sequence.markers
    assert (first.frame, second.name) == (12, "Drop")
    assert add_marker(marked, 30) is marked
    moved = move_marker(marked, first.id, 44)
    assert [m.frame for m in moved.sequence.markers] == [30, 44]
    assert rename_marker(moved, first.id, "End").sequence.markers[1].name == "End"
    assert (neighbour(moved, 31, 1), neighbour(moved, 31, -1), neighbour(moved, 44, 1)) == (44, 30, None)
    assert len(remove_marker(moved, first.id).sequence.markers) == 1


NAMES = ("a", "b", "c", "d", "film", "hum")
SOME = st.lists(st.sampled_from(NAMES), min_size=1, max_size=4, unique=True)
EDITS = st.one_of(
    st.tuples(st.just(move_clips), SOME, st.integers(-60, 60), st.integers(-2, 2)),
    st.tuples(st.just(remove_clips), SOME),
    st.tuples(st.just(remove_clips_and_gaps), SOME),
    st.tuples(st.just(lambda p, ids: duplicate_clips(p, ids)[0]), SOME),
    st.tuples(st.just(split_clips), st.one_of(st.none(), SOME), st.integers(0, 80)),
    st.tuples(st.just(stagger_clips), SOME, st.integers(-9, 9), st.booleans()),
    st.tuples(st.just(chain_landings), SOME),
    st.tuples(st.just(lambda p, ids: group_clips(p, ids)[0]), SOME),
    st.tuples(st.just(lambda p, i, f: trim_start(p, i, f)), st.sampled_from(NAMES), st.integers(-10, 90)),
    st.tuples(st.just(lambda p, i, f: trim_end(p, i, f)), st.sampled_from(NAMES), st.integers(-10, 90)),
    st.tuples(st.just(play_backwards), st.sampled_from(NAMES)),
    st.tuples(st.just(play_there_and_back), st.sampled_from(NAMES)),
    st.tuples(st.just(play_times), st.sampled_from(NAMES), st.floats(0.5, 4)),
    st.tuples(st.just(set_speed), st.sampled_from(NAMES), st.floats(0.1, 8)),
    st.tuples(st.just(freeze), st.sampled_from(NAMES), st.integers(0, 70), st.integers(1, 30)),
    st.tuples(st.just(set_transition), st.sampled_from(NAMES), st.sampled_from(["cut", "wipe", "dissolve"])),
    st.tuples(st.just(slip), st.sampled_from(NAMES), st.integers(-40, 40)),
)


@settings(max_examples=120, deadline=None)
@given(steps=st.lists(EDITS, max_size=12))
def test_any_edits_keep_the_rules_and_undo_gives_the_first_project_back(steps):
    film = FootageClip(id="film", media="reel", length=60, offset=10)
    first = stack((film,), (words("a", 10), words("b", 40)), (words("c", 0), words("d", 30)))
    history = History(first)
    for edit, *arguments in steps:
        try:
            history.do("step", edit(history.project, *arguments))
        except RovixError:
            continue
        # Overlaps, links, order: everything that a file would be refused for; whole frames by type.
        assert inconsistencies(history.project) == []
        for track in history.project.sequence.tracks:
            assert all(type(n) is int for clip in track.clips for n in (clip.start, clip.length))
    while history.undo():
        pass
    assert history.project is first


@given(identity=st.sampled_from(["film", "hum"]), at=st.integers(6, 44))
def test_backwards_twice_is_the_very_same_and_cuts_show_the_same_material(identity, at):
    from fractions import Fraction

    from rovix.motion.material import material_frame

    project = stack((FootageClip(id="film", media="reel", length=60, offset=10),))
    turned = play_backwards(project, identity)
    assert play_backwards(turned, identity) == project
    whole = clip_by_id(turned, identity)
    shown = [material_frame(whole, Fraction(f)) for f in range(whole.length)]
    pieces = [
        clip for track in split_clip(turned, identity, at).sequence.tracks for clip in track.clips
        if getattr(clip, "media", "") == "reel" and clip.playing.backwards
    ]  # fmt: skip
    parts = [material_frame(c, Fraction(f)) for c in pieces for f in range(c.length)]
    assert parts == shown
    for trimmed in (trim_start(turned, identity, at), trim_end(turned, identity, at)):
        clip = clip_by_id(trimmed, identity)
        first = clip.start - whole.start
        assert [material_frame(clip, Fraction(f)) for f in range(clip.length)] == (
            shown[first : first + clip.length]
        )


def test_an_edit_of_one_is_an_edit_of_several(project):
    turned = on_each(["film", "gone", "hum"], play_backwards)(project)
    assert clip_by_id(turned, "film").playing.backwards
    assert clip_by_id(turned, "hum").playing.backwards
