"""Edits and their laws: whole frames, no overlap, undo gives the very project back."""

import msgspec
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from builders import project_of, title
from rovix.edit import (
    History,
    add_text,
    apply_move,
    change_move,
    change_text,
    change_transform,
    clip_by_id,
    import_media,
    move_clip,
    move_of,
    remove_clip,
    remove_clip_and_gap,
    reset_transform,
    set_move_length,
    split_clip,
    transform_value,
    trim_end,
    trim_start,
)
from rovix.edit.media_paths import with_base
from rovix.edit.moves import drop_move, moves_of, reverse_entrances, stack_move
from rovix.edit.paste import copied, pasted
from rovix.edit.selected_clips import duplicate_clips, move_clips
from rovix.edit.snapping import snap_frames, snapped
from rovix.edit.sound import change_sound
from rovix.edit.sums import evaluate_sum
from rovix.edit.tracks import add_track, change_track, move_track, remove_track, track_of_clip
from rovix.errors import RovixError
from rovix.model import FootageClip, Key, Keys, Media, Sound, SoundClip, Text, TextClip, Track, Transform
from rovix.model.consistency import inconsistencies
from rovix.motion import describe
from rovix.motion.ready_moves import pop, rise_and_fade, wave

replace = msgspec.structs.replace
FILM = Media(id="film", path="film.mp4", kind="footage")


@pytest.fixture
def row():
    """One track with words at 10..30 and 40..70, and a film with sound below."""
    words = Track(
        id="w", name="Text 1", clips=(title(id="a", start=10, length=20), title(id="b", start=40, length=30))
    )
    film = Track(id="f", clips=(FootageClip(id="film-clip", media="film", start=0, length=50, offset=5),))
    sound = Track(
        id="noise",
        kind="sound",
        clips=(SoundClip(id="hum", media="film", length=50, sound=Sound(fade_out=9)),),
    )
    project = project_of(media=(FILM,))
    return replace(project, sequences=(replace(project.sequence, tracks=(film, words, sound)),))


def spans(project, track=1):
    return [(clip.start, clip.span.end) for clip in project.sequence.tracks[track].clips]


def test_a_clip_moves_as_far_as_there_is_room(row):
    assert spans(move_clip(row, "a", 0)) == [(0, 20), (40, 70)]
    assert spans(move_clip(row, "a", 25)) == [(20, 40), (40, 70)]
    assert spans(move_clip(row, "a", 66)) == [(40, 70), (70, 90)]
    assert spans(move_clip(row, "a", -5)) == [(0, 20), (40, 70)]
    assert spans(move_clips(row, ["b"], -3)) == [(10, 30), (37, 67)]


def test_a_clip_moves_to_another_track_of_its_kind(row):
    moved = move_clip(row, "a", 60, track=0)
    assert spans(moved, 0) == [(0, 50), (60, 80)]
    with pytest.raises(RovixError, match="sound track"):
        move_clip(row, "a", 0, track=2)
    locked = replace(
        row,
        sequences=(
            replace(
                row.sequence, tracks=(replace(row.sequence.tracks[0], locked=True), *row.sequence.tracks[1:])
            ),
        ),
    )
    with pytest.raises(RovixError, match="locked"):
        move_clip(locked, "a", 0, track=0)


def test_trimming_stays_between_the_neighbours_and_keeps_media_in_place(row):
    assert spans(trim_end(row, "a", 55)) == [(10, 40), (40, 70)]
    assert spans(trim_end(row, "a", 3)) == [(10, 11), (40, 70)]
    assert spans(trim_start(row, "b", 5)) == [(10, 30), (30, 70)]
    assert spans(trim_start(row, "b", 99)) == [(10, 30), (69, 70)]
    film = clip_by_id(trim_start(row, "film-clip", 12), "film-clip")
    assert (film.start, film.length, film.offset) == (12, 38, 17)


def test_a_split_shows_the_same_pictures(row):
    row = apply_move(apply_move(row, "b", "entrance", pop()), "b", "exit", rise_and_fade("exit"))
    keys = Keys(id="k", keys=(Key(frame=0, value=0.0), Key(frame=29, value=90.0)))
    row = replace(row, sequences=(replace(row.sequence, tracks=tuple(
        replace(track, clips=tuple(replace(c, transform=Transform(x=keys)) if c.id == "b" else c for c in track.clips))
        for track in row.sequence.tracks)),))  # fmt: skip
    cut = split_clip(row, "b", 50)
    assert spans(cut) == [(10, 30), (40, 50), (50, 70)]
    assert inconsistencies(cut) == []
    for frame in (40, 43, 49, 50, 55, 69):
        before, after = (describe(p, frame)["layers"][-1]["pieces"] for p in (row, cut))
        assert after == before
    with pytest.raises(RovixError, match="not under the playhead"):
        split_clip(row, "b", 40)


def test_removing_keeps_or_closes_the_gap_and_frees_children(row):
    assert spans(remove_clip(row, "a")) == [(40, 70)]
    assert spans(remove_clip_and_gap(row, "a")) == [(20, 50)]
    child = replace(row.sequence.tracks[1].clips[1], parent="film-clip")
    tracks = (
        row.sequence.tracks[0],
        replace(row.sequence.tracks[1], clips=(row.sequence.tracks[1].clips[0], child)),
        row.sequence.tracks[2],
    )
    linked = replace(row, sequences=(replace(row.sequence, tracks=tracks),))
    assert clip_by_id(remove_clip(linked, "film-clip"), "b").parent is None


def test_a_copy_stands_behind_or_above_with_ids_of_its_own(row):
    copied, (identity,) = duplicate_clips(row, ["b"])
    assert spans(copied) == [(10, 30), (40, 70), (70, 100)]
    tight, _ = duplicate_clips(row, ["a"])
    assert len(tight.sequence.tracks) == 4
    assert inconsistencies(copied) == inconsistencies(tight) == []
    assert identity != "b"


def test_new_words_take_a_free_words_track_or_a_new_one_on_top(row):
    clip = TextClip(id="n", text=Text(content="New"))
    assert spans(add_text(row, 70, 20, clip)) == [(10, 30), (40, 70), (70, 90)]
    crowded = add_text(row, 15, 20, clip)
    names = [track.name for track in crowded.sequence.tracks]
    assert names == ["", "Text 1", "Text 2", ""]
    assert [track.kind for track in crowded.sequence.tracks][-1] == "sound"


def test_retyping_keeps_the_motion(row):
    row = apply_move(row, "b", "entrance", wave())
    retyped = change_text(row, "b", content="Other words", family="Oswald")
    assert clip_by_id(retyped, "b").moves == clip_by_id(row, "b").moves
    with pytest.raises(RovixError, match="no text layer"):
        change_text(row, "hum", content="x")


def test_a_keyed_channel_gets_a_key_and_a_plain_one_changes(row):
    assert clip_by_id(change_transform(row, "a", 5, x=9.0), "a").transform.x == 9.0
    keys = Keys(id="k", keys=(Key(frame=0, value=0.0, curve="ease"), Key(frame=10, value=100.0)))
    keyed = replace(
        row,
        sequences=(
            replace(
                row.sequence, tracks=(Track(id="t", clips=(title(id="a", transform=Transform(x=keys)),)),)
            ),
        ),
    )
    changed = clip_by_id(change_transform(keyed, "a", 5, x=70.0), "a").transform
    assert [(key.frame, key.value, key.curve) for key in changed.x.keys] == [
        (0, 0.0, "ease"),
        (5, 70.0, "ease"),
        (10, 100.0, "linear"),
    ]
    assert transform_value(changed, "x", 5) == 70.0
    again = clip_by_id(change_transform(keyed, "a", 10, x=1.0), "a").transform
    assert [key.value for key in again.x.keys] == [0.0, 1.0]
    assert clip_by_id(reset_transform(keyed, "a", "x"), "a").transform.x == 0.0


def test_several_entrances_go_together(row):
    for number, move in enumerate((pop(), wave(), rise_and_fade())):
        own = msgspec.structs.replace(move, id=f"m{number}", length=(0.2, 0.4, 0.8)[number])
        row = stack_move(row, "b", own)
    assert [m.id for m in moves_of(clip_by_id(row, "b"), "entrance")] == ["m0", "m1", "m2"]
    # By the role all are stretched, the longest to what is asked, here as much as the clip leaves.
    shorter = set_move_length(row, "b", "entrance", 4)
    rate = row.sequence.frame_rate
    lengths = [m.length for m in clip_by_id(shorter, "b").moves]
    assert lengths == pytest.approx([float(rate.seconds(4)) * share for share in (0.25, 0.5, 1.0)])
    one = set_move_length(row, "b", "m1", 3)
    assert [m.length for m in clip_by_id(one, "b").moves] == [0.2, float(rate.seconds(3)), 0.8]
    turned = clip_by_id(reverse_entrances(row, "b"), "b")
    assert [m.name for m in moves_of(turned, "exit")] == ["Pop", "Wave", "Rise and fade"]
    assert [m.length for m in moves_of(turned, "exit")] == [0.2, 0.4, 0.8]
    assert [m.id for m in clip_by_id(drop_move(row, "b", "m1"), "b").moves] == ["m0", "m2"]
    with pytest.raises(RovixError, match="no entrance to turn about"):
        reverse_entrances(apply_move(row, "b", "entrance", None), "b")


def test_moves_are_taken_on_changed_and_taken_off(row):
    row = apply_move(row, "b", "entrance", pop())
    assert move_of(clip_by_id(row, "b"), "entrance").name == "Pop"
    assert (
        move_of(clip_by_id(change_move(row, "b", "entrance", order="reversed"), "b"), "entrance").order
        == "reversed"
    )
    assert move_of(clip_by_id(apply_move(row, "b", "entrance", None), "b"), "entrance") is None
    with pytest.raises(RovixError, match="no exit"):
        change_move(row, "b", "exit", order="reversed")
    with pytest.raises(RovixError, match="sound"):
        apply_move(row, "hum", "entrance", pop())


@pytest.mark.parametrize(("asked", "got"), [(10, 10), (0, 0), (-4, 0), (99, 29 - 6)])
def test_a_length_leaves_the_other_side_its_own_and_a_frame_of_rest(row, asked, got):
    row = apply_move(row, "b", "entrance", pop())
    row = apply_move(row, "b", "exit", replace(rise_and_fade("exit"), length=0.2))
    clip = clip_by_id(set_move_length(row, "b", "entrance", asked), "b")
    assert row.sequence.frame_rate.length(move_of(clip, "entrance").length) == got


def test_snapping_catches_edges_landings_and_the_playhead(row):
    row = apply_move(row, "b", "entrance", pop())
    marks = snap_frames(row, 33, ["a"])
    assert marks == [0, 33, 40, 47, 50, 69, 70]
    assert snapped(48, marks, 3) in (47, 50)
    assert snapped(60, marks, 3) == 60


def test_media_is_placed_where_there_is_room(row):
    film = Media(id="new", path="clips/kites.mp4", kind="footage", length=2.0, digest="blake2b:1")
    free, identity = import_media(row, film, 50)
    assert spans(free, 0) == [(0, 50), (50, 110)]
    assert clip_by_id(free, identity).name == "kites"
    crowded, _ = import_media(row, film, 20)
    assert [track.name for track in crowded.sequence.tracks] == ["", "Footage", "Text 1", ""]
    again, _ = import_media(crowded, replace(film, id="other"), 300)
    assert [media.id for media in again.media] == ["film", "new"], "the same file is used again"
    sound, _ = import_media(row, replace(film, kind="sound", digest="blake2b:2"), 10)
    assert [track.kind for track in sound.sequence.tracks][-2:] == ["sound", "sound"]
    still, identity = import_media(row, Media(id="s", path="s.png", kind="still", width=64, height=64), 200)
    assert (clip_by_id(still, identity).length, clip_by_id(still, identity).fit) == (150, "as-is")
    assert inconsistencies(free) == inconsistencies(crowded) == inconsistencies(sound) == []


def test_gain_and_fades_stay_within_the_clip(row):
    assert clip_by_id(change_sound(row, "hum", gain=-6.0), "hum").sound.gain == -6.0
    long = clip_by_id(change_sound(row, "hum", fade_in=48), "hum")
    assert (long.sound.fade_in, long.sound.fade_out) == (48, 2)
    longer = clip_by_id(change_sound(row, "hum", fade_out=99), "hum")
    assert (longer.sound.fade_in, longer.sound.fade_out) == (0, 50)
    with pytest.raises(RovixError, match="no sound"):
        change_sound(row, "a", gain=1.0)


def test_what_is_copied_brings_its_media_along(row, tmp_path):
    one, two = tmp_path / "one", tmp_path / "two"
    source = copied(row, ["film-clip"], one)
    assert source.media[0].path == f"{one}/film.mp4".lstrip("/")
    empty = project_of()
    there, (identity,) = pasted(empty, source, 12, two)
    assert there.media[0].path == "../one/film.mp4"
    clip = clip_by_id(there, identity)
    assert (clip.start, clip.offset, clip.media) == (12, 5, there.media[0].id)
    twice, _ = pasted(there, source, 200, two)
    assert inconsistencies(there) == inconsistencies(twice) == []
    child = copied(change_transform(row, "b", 0, x=5.0), ["b"], one).sequence.tracks[0].clips[0]
    assert (child.start, child.parent, child.transform.x) == (0, None, 5.0)


def test_tracks_are_added_moved_turned_and_removed(row):
    assert change_track(row, "w", hidden=True).sequence.tracks[1].hidden
    added = add_track(add_track(row, "picture"), "sound")
    assert [track.name for track in added.sequence.tracks] == ["", "Text 1", "Pictures 3", "", "Sound 2"]
    moved = move_track(row, "w", -1)
    assert [track.id for track in moved.sequence.tracks] == ["w", "f", "noise"]
    assert move_track(row, "w", 1) is row, "a picture track never changes places with a sound track"
    assert move_track(moved, "w", 1) == row
    assert track_of_clip(row, "b").id == "w"
    assert track_of_clip(row, None) is None
    with pytest.raises(RovixError, match="still holds clips"):
        remove_track(row, "w")
    assert remove_track(added, added.sequence.tracks[2].id).sequence.tracks[2].id == "noise"
    with pytest.raises(RovixError, match="not there"):
        change_track(row, "gone", hidden=True)


def test_media_paths_follow_the_project(tmp_path):
    project = project_of(media=(Media(id="m", path="clips/a.mp4", kind="footage"),))
    moved = with_base(project, tmp_path / "one", tmp_path / "two" / "deep")
    assert moved.media[0].path == "../../one/clips/a.mp4"
    assert with_base(project, tmp_path, tmp_path) is project


IDS = ("a", "b", "film-clip", "hum")
STEPS = st.lists(
    st.one_of(
        st.tuples(st.just(move_clip), st.sampled_from(IDS), st.integers(-10, 120)),
        st.tuples(st.just(trim_start), st.sampled_from(IDS), st.integers(-10, 120)),
        st.tuples(st.just(trim_end), st.sampled_from(IDS), st.integers(-10, 120)),
        st.tuples(st.just(split_clip), st.sampled_from(IDS), st.integers(0, 80)),
        st.tuples(st.just(remove_clip_and_gap), st.sampled_from(IDS), st.none()),
        st.tuples(st.just(lambda p, i: duplicate_clips(p, [i])[0]), st.sampled_from(IDS), st.none()),
    ),
    max_size=8,
)


@settings(max_examples=60)
@given(STEPS)
def test_any_edits_keep_the_rules_and_undo_gives_the_first_project_back(steps):
    words = Track(id="w", clips=(title(id="a", start=10, length=20), title(id="b", start=40, length=30)))
    film = Track(id="f", clips=(FootageClip(id="film-clip", media="film", length=50, offset=5),))
    sound = Track(id="s2", kind="sound", clips=(SoundClip(id="hum", media="film", length=50),))
    first = project_of(media=(FILM,))
    first = replace(first, sequences=(replace(first.sequence, tracks=(film, words, sound)),))
    history = History(first)
    for edit, identity, value in steps:
        try:
            arguments = () if value is None else (value,)
            history.do("step", edit(history.project, identity, *arguments))
        except RovixError:
            continue
        assert inconsistencies(history.project) == []
    last = history.project
    while history.undo():
        pass
    assert history.project is first
    while history.redo():
        pass
    assert history.project is last


def test_a_draft_is_shown_but_no_step():
    first, other = project_of(title()), project_of(title("Other"))
    history = History(first)
    history.try_on(other)
    assert (history.project, history.committed, history.undo_title) == (other, first, None)
    history.drop()
    assert history.project is first
    history.try_on(other)
    assert history.keep("Change the words")
    assert (history.undo_title, history.is_changed) == ("Change the words", True)
    assert not history.do("Nothing", other)
    history.mark_saved(other)
    history.undo()
    assert (history.redo_title, history.is_changed) == ("Change the words", True)
    history.redo()
    assert not history.is_changed


@pytest.mark.parametrize(
    ("text", "value"),
    [("1920/2", 960), ("-(3+4)*2", -14), ("1,5", 1.5), ("−64", -64), (" 7 ", 7), ("2*-3", -6)],
)
def test_sums(text, value):
    assert evaluate_sum(text) == value


@pytest.mark.parametrize(
    ("text", "unit", "value"),
    # CSS Values and Units Level 4, 7.1: a turn is 360deg, 400grad, 2 pi rad (from memory).
    [("2turn + 40deg", "°", 760), ("400grad", "°", 360), ("3.141592653589793rad", "°", 180), ("-.5turn", "°", -180),
     ("1,5 turn", "°", 540), ("90° + 5", "°", 95), ("250ms + 1s", "s", 1.25), ("1e2px/4", "px", 25), ("50 %", "%", 50)],
)  # fmt: skip
def test_sums_take_the_units_of_their_field(text, unit, value):
    assert evaluate_sum(text, unit) == pytest.approx(value, abs=1e-12)


@pytest.mark.parametrize(
    ("text", "unit", "rate", "value"),
    [("12f", "s", 30.0, 0.4), ("1s + 15f", "s", 30.0, 1.5), ("0.4s", "f", 30.0, 12), ("500ms", "f", 24.0, 12),
     ("12f", "f", 30.0, 12), ("2*(6f)", "s", 60.0, 0.2), ("7", "s", 30.0, 7)],
)  # fmt: skip
def test_times_are_typed_in_frames_and_frames_in_seconds(text, unit, rate, value):
    assert evaluate_sum(text, unit, rate) == pytest.approx(value, abs=1e-12)


def test_a_unit_of_another_field_is_named():
    with pytest.raises(ValueError, match="'f' is no unit of this field; here it is s, ms"):
        evaluate_sum("12f", "s")
    with pytest.raises(ValueError, match="'f' is no unit of this field; here it is px"):
        evaluate_sum("12f", "px", 30.0)
    with pytest.raises(ValueError, match="'px' is no unit of this field; here it is deg, °, turn, grad, rad"):
        evaluate_sum("12px", "°")
    with pytest.raises(ValueError, match="'lamps' is no unit of this field; here numbers have none"):
        evaluate_sum("3 lamps")


@pytest.mark.parametrize("text", ["", "abc", "1/0", "2**99", "__import__('os')", "1;2", "1e999", "(" * 500])
def test_what_is_no_sum_is_refused(text):
    with pytest.raises(ValueError, match=r"no (number|value)"):
        evaluate_sum(text)
