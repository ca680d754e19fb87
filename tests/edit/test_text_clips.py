"""Words split into layers and joined again: they stand, look and come as before."""

import msgspec
import numpy as np
import pytest

from builders import look_of, project_of, title
from rovix.edit.text_clips import join_texts, split_on_markers, split_text
from rovix.edit.tree import clip_by_id, clip_of
from rovix.engine.open_project import OpenProject
from rovix.errors import RovixError
from rovix.formats import parse_project, project_bytes
from rovix.model import (
    Amount,
    Departure,
    Fits,
    Key,
    Keys,
    Marker,
    Move,
    Outline,
    Pace,
    ShapeClip,
    Transform,
)
from rovix.model.text import OwnStyle
from rovix.motion.layer import layer_motion
from rovix.time import Rate

replace = msgspec.structs.replace
TEXT = "Kites rise\nover Larkmoor"
COUNTS = {"lines": 2, "words": 4, "letters": 21}


def picture(project, frame, tmp_path):
    with OpenProject(project, tmp_path) as opened:
        return opened.picture(frame, (640, 360)).astype(int)


def near(one, other, most=40):
    """Equal but for smoothing: places are kept to a fraction of a px."""
    apart = np.abs(one - other)
    return apart.mean() < 0.15 and np.percentile(apart, 99.9) <= most


@pytest.mark.parametrize("kind", COUNTS)
@pytest.mark.parametrize("place", [
    Transform(), Transform(x=40.0, y=-20.0, scale_x=0.8, scale_y=1.1, rotation_z=20.0, pivot_x=0.0, pivot_y=1.0),
    Transform(rotation_y=30.0, rotation_x=-20.0, slant=8.0),
])  # fmt: skip
@pytest.mark.parametrize("align", ["left", "centre", "right"])
def test_each_piece_stands_where_it_stood(kind, place, align, tmp_path):
    clip = title(TEXT, id="t", length=20, transform=place, text={"size": 60.0, "align": align})
    project = project_of(clip)
    made, ids = split_text(project, "t", kind)
    assert len(ids) == COUNTS[kind]
    assert ids[0] == "t"
    assert near(picture(project, 5, tmp_path), picture(made, 5, tmp_path))
    assert parse_project(tmp_path / "p.rovix", project_bytes(made)) == made


def test_a_place_with_keys_and_a_look_is_kept_through_all_of_it(tmp_path):
    spin = Keys(id="k", keys=(Key(frame=0, value=-30.0), Key(frame=19, value=40.0)))
    grow = Keys(
        id="g", keys=(Key(frame=0, value=0.5), Key(frame=19, value=1.2, curve="tangents", before=(4.0, -0.2)))
    )
    slide = Keys(
        id="x",
        keys=(Key(frame=0, value=-50.0, curve="tangents", after=(5.0, 30.0)), Key(frame=19, value=60.0)),
    )
    place = Transform(rotation_z=spin, scale_x=grow, scale_y=grow, x=slide, pivot_x=0.2)
    project = project_of(title("Two words", id="t", length=20, transform=place, text={"size": 60.0},
                               look=look_of("#fff8ea", Outline(id="o"))))  # fmt: skip
    made, _ = split_text(project, "t", "words")
    for frame in (0, 7, 19):
        assert near(picture(project, frame, tmp_path), picture(made, frame, tmp_path)), frame


@pytest.mark.parametrize("role", ["entrance", "exit"])
def test_pieces_come_and_go_when_they_did(role, tmp_path):
    move = Move(id="m", role=role, pieces="words", length=1.0, at_once=1.0, before="hidden",
                channels=(Departure(channel="y", amount=Amount(value=60.0)), Departure(channel="opacity", amount=Amount(value=0.0))))  # fmt: skip
    project = project_of(
        title("one two three", id="t", start=4, length=70, moves=[move], text={"size": 60.0})
    )
    made, ids = split_text(project, "t", "words")
    clips = [clip_by_id(made, identity) for identity in ids]
    if role == "entrance":
        assert [clip.start for clip in clips] == [4, 14, 24]
        assert {clip.end for clip in clips} == {74}
    else:
        assert {clip.start for clip in clips} == {4}
        assert len({clip.end for clip in clips}) == 3
    assert {clip.moves[0].pieces for clip in clips} == {"whole"}
    for frame in range(4, 74, 3):
        assert near(picture(project, frame, tmp_path), picture(made, frame, tmp_path), 60), frame


@pytest.mark.parametrize("first", ["words", "whole"])
def test_stages_stay_one_after_the_other(first, tmp_path):
    def move(identity, pieces, channel, value, **more):
        return Move(id=identity, role="entrance", pieces=pieces, length=0.8, at_once=1.0, channels=(
            Departure(channel=channel, amount=Amount(value=value)),
        ), **more)  # fmt: skip

    moves = [
        move("a", first, "x", -40.0, before="hidden"),
        move("b", "words", "y", 30.0, wait=0.2, after=True),
    ]
    project = project_of(title("one two three", id="t", length=70, moves=moves, text={"size": 60.0}))
    made, ids = split_text(project, "t", "words")
    assert (clip_by_id(made, ids[2]).start > 0) == (first == "words")
    for frame in range(0, 70, 4):
        assert near(picture(project, frame, tmp_path), picture(made, frame, tmp_path), 60), frame


def test_finer_moves_go_on_piece_by_piece_and_ids_are_their_own():
    move = Move(
        id="m",
        role="entrance",
        pieces="letters",
        channels=(Departure(channel="y", amount=Amount(value=9.0)),),
    )
    made, ids = split_text(project_of(title("ab cd", id="t", moves=[move])), "t", "words")
    clips = [clip_by_id(made, identity) for identity in ids]
    assert [clip.moves[0].pieces for clip in clips] == ["letters", "letters"]
    assert clips[0].moves[0].id == "m" != clips[1].moves[0].id


def test_styles_go_with_their_letters_and_come_back():
    styles = (OwnStyle(start=4, end=7, italic=True), OwnStyle(start=8, end=10, colour="#ff0000", size=0.5))
    project = project_of(title("one two three", id="t", text={"styles": styles}))
    made, ids = split_text(project, "t", "words")
    texts = [clip_by_id(made, identity).text for identity in ids]
    assert [text.content for text in texts] == ["one", "two", "three"]
    assert texts[1].styles == (OwnStyle(start=0, end=3, italic=True),)
    assert texts[2].styles == (OwnStyle(start=0, end=2, colour="#ff0000", size=0.5),)
    joined, whole = join_texts(made, tuple(ids))
    words = clip_by_id(joined, whole).text
    assert words.content == "one two three"
    assert words.styles == styles
    assert sum(len(track.clips) for track in joined.sequence.tracks) == 1


def test_capitals_longer_than_what_was_typed_part_where_their_letters_do():
    made, ids = split_text(project_of(title("große Kites", id="t", text={"case": "upper"})), "t", "words")
    assert [clip_by_id(made, identity).text.content for identity in ids] == ["große", "Kites"]


def test_lines_are_joined_from_above_and_what_is_set_otherwise_stays_so():
    low = title("below", id="low", start=10, length=30, transform=Transform(y=120.0), text={"size": 50.0, "weight": 400},
                look=look_of("#ff0000"))  # fmt: skip
    high = title("above", id="high", start=0, length=20, transform=Transform(y=-80.0), text={"size": 100.0})
    joined, whole = join_texts(project_of(low, high), ("low", "high"))
    made = clip_by_id(joined, whole)
    assert whole == "high"
    assert made.text.content == "above\nbelow"
    assert made.text.styles == (OwnStyle(start=6, end=11, weight=400, size=0.5, colour="#ff0000"),)
    assert (made.start, made.end) == (0, 40)


def test_what_followed_a_joined_layer_lets_go_and_what_followed_the_first_stays():
    box = ShapeClip(id="box", length=30, fits=Fits(layer="low"))
    other = ShapeClip(id="other", length=30, fits=Fits(layer="high"))
    low = title("below", id="low", length=30, transform=Transform(y=120.0))
    high = title("above", id="high", length=30, transform=Transform(y=-80.0))
    joined, whole = join_texts(project_of(low, high, box, other), ("low", "high"))
    assert whole == "high"
    assert clip_by_id(joined, "box").fits is None
    assert clip_by_id(joined, "other").fits.layer == "high"


def test_what_cannot_be_split_or_joined_is_refused_by_name():
    shape = ShapeClip(id="s", length=9)
    project = project_of(title("word", id="t"), shape, title("", id="empty"))
    for identity, kind, said in (
        ("t", "words", "no two words"),
        ("s", "lines", "Only words"),
        ("empty", "letters", "no two letters"),
    ):
        with pytest.raises(RovixError, match=said):
            split_text(project, identity, kind)
    with pytest.raises(RovixError, match="at most 200"):
        split_text(project_of(title("many letters " * 40, id="t")), "t", "letters")
    with pytest.raises(RovixError, match="Select two text layers"):
        join_texts(project, ("t", "s"))
    tracks = tuple(replace(track, locked=True) for track in project.sequence.tracks)
    locked = replace(project, sequences=(replace(project.sequence, tracks=tracks),))
    with pytest.raises(RovixError, match="locked"):
        split_text(locked, "t", "words")


def test_pieces_start_on_given_frames_and_what_brings_them_begins_there():
    slide = Move(
        id="in", role="entrance", length=0.4, pieces="words", channels=(Departure(channel="opacity"),)
    )
    project = project_of(title("one two three four", 120, [slide], start=10, id="t"))
    made, ids = split_text(project, "t", "words", (20, 50, 65))
    clips = [clip_of(made, identity) for identity in ids]
    # The last follows at the median gap, 22.5 frames.
    assert [clip.start for clip in clips] == [20, 50, 65, 87]
    assert {clip.end for clip in clips} == {130}
    assert [clip.moves[0].wait for clip in clips] == [0.0] * 4


def test_layers_start_on_the_markers_over_the_words():
    markers = tuple(Marker(frame=frame) for frame in (3, 30, 45, 300))
    project = project_of(title("one two", 120, start=10, id="t"), markers=markers)
    made, ids = split_on_markers(project, "t", "words")
    assert [clip_of(made, identity).start for identity in ids] == [30, 45]
    with pytest.raises(RovixError, match="no marker over"):
        split_on_markers(project_of(title("one two", id="t")), "t", "words")


@pytest.mark.parametrize(
    "fields",
    [
        {"length": 2.0, "at_once": 3.0},
        {"pace": Pace(piece=0.3, stagger=0.1)},
        {"length": 2.0, "stagger": 0.08},
    ],
)
def test_words_whose_letters_come_one_by_one_start_when_their_first_letter_does(fields):
    """In the pictures too: what shows of each letter on each frame is what showed before."""
    fade = Move(
        id="in", role="entrance", pieces="letters", channels=(Departure(channel="opacity"),), **fields
    )
    project = project_of(title("one two three", 120, [fade], id="t"))
    before = layer_motion(clip_of(project, "t"), (640, 360), Rate(30))
    frames = np.arange(120.0)
    whole = before.at(frames).opacity()
    made, ids = split_text(project, "t", "words")
    starts = [clip_of(made, identity).start for identity in ids]
    assert starts == sorted(set(starts))
    for identity, character in zip(ids, (0, 4, 8), strict=True):
        at = int(np.flatnonzero(before.subject.starts == character)[0])
        clip = clip_of(made, identity)
        own = layer_motion(clip, (640, 360), Rate(30)).at(np.arange(float(clip.length))).opacity()
        letters = len(clip.text.content)
        # Layers start on whole frames, so times differ by less than one, in which a letter fades by 0.22.
        assert np.abs(own - whole[clip.start :, at : at + letters]).max() < 0.22
