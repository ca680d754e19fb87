"""From span to pace and back without a change to be seen, and what helps a clip that is too short."""

from __future__ import annotations

import numpy as np
import pytest

from builders import project_of, title
from rovix.edit import change_text, move_of
from rovix.edit.pacing import (
    can_be_closer,
    go_by_pace,
    go_by_span,
    lengthen_for_moves,
    more_at_once,
    set_starts,
    speed_up_moves,
    starts_from_markers,
)
from rovix.edit.tree import clip_of
from rovix.errors import RovixError
from rovix.model import Departure, Marker, Move, Pace, Typing
from rovix.model.consistency import inconsistencies
from rovix.motion import clip_spans, layer_motion
from rovix.time import Rate

RATE = Rate(30)
WORDS = "Larkmoor Kite Day, all afternoon"


def by_letters(role="entrance", **fields):
    return Move(**{"role": role, "pieces": "letters", "channels": (Departure(channel="opacity"),)} | fields)


def starts(project):
    timing = layer_motion(clip_of(project, "title"), (640, 360), RATE).timings[0]
    return timing.times.starts, timing.times.ends


@pytest.mark.parametrize("fields", [
    {"length": 1.0, "at_once": 3.0}, {"length": 1.2, "stagger": 0.05}, {"length": 1.0, "at_once": 0.0},
    {"length": 0.8, "pieces": "whole"}, {"length": 1.5, "typing": Typing()},
])  # fmt: skip
def test_going_by_pace_and_back_shows_the_same(fields):
    project = project_of(title("Larkmoor", length=200, moves=[by_letters(**fields)]))
    paced = go_by_pace(project, "title", "entrance")
    back = go_by_span(paced, "title", "entrance")
    for made in (paced, back):
        assert np.allclose(starts(made), starts(project), atol=1e-3)
        assert inconsistencies(made) == []
    assert move_of(clip_of(paced, "title"), "entrance").pace is not None
    assert move_of(clip_of(back, "title"), "entrance").pace is None


def test_by_pace_longer_words_take_longer_and_by_span_they_do_not():
    project = project_of(title("Kite", length=400, moves=[by_letters(length=0.5, at_once=2.0)]))
    paced = go_by_pace(project, "title", "entrance")
    spans = [
        clip_spans(clip_of(change_text(made, "title", content=WORDS), "title"), RATE).entrance
        for made in (project, paced)
    ]
    assert spans[0] == 15
    assert spans[1] > 4 * 15


@pytest.fixture
def short():
    moves = [
        by_letters(pace=Pace(piece=0.3, stagger=0.06)),
        by_letters("exit", pace=Pace(piece=0.2, stagger=0.03)),
    ]
    return project_of(title(WORDS, length=50, moves=moves))


def test_a_clip_is_lengthened_to_what_its_moves_need(short):
    needed = clip_spans(clip_of(short, "title"), RATE).needed
    made = clip_of(lengthen_for_moves(short, "title"), "title")
    assert made.length == needed + 1
    assert not clip_spans(made, RATE).shrunk
    assert made.moves == clip_of(short, "title").moves


def test_moves_are_sped_up_by_as_much_as_is_lacking(short):
    made = clip_of(speed_up_moves(short, "title"), "title")
    assert clip_spans(made, RATE).needed in (49, 50), "two sides, each rounded up"
    for old, new in zip(clip_of(short, "title").moves, made.moves, strict=True):
        assert new.pace.piece / new.pace.stagger == pytest.approx(old.pace.piece / old.pace.stagger)


def test_pieces_follow_sooner_and_are_as_fast_as_before(short):
    assert can_be_closer(clip_of(short, "title"), RATE)
    made = clip_of(more_at_once(short, "title"), "title")
    assert 47 <= clip_spans(made, RATE).needed <= 49
    assert [move.pace.piece for move in made.moves] == [0.3, 0.2]


def test_each_remedy_says_why_it_cannot_help(short):
    fine = project_of(title("Kite", length=400, moves=[by_letters(length=0.5)]))
    for remedy in (lengthen_for_moves, speed_up_moves, more_at_once):
        with pytest.raises(RovixError, match="long enough"):
            remedy(fine, "title")
    tight = project_of(title(WORDS, length=5, moves=[by_letters(pace=Pace(piece=2.0, stagger=0.01))]))
    assert not can_be_closer(clip_of(tight, "title"), RATE)
    with pytest.raises(RovixError, match="even with all pieces at once"):
        more_at_once(tight, "title")


def test_pieces_set_off_at_given_times_and_those_without_at_the_median_gap():
    project = project_of(
        title("one two three four five", length=300, moves=[by_letters(pieces="words", length=0.8)])
    )
    made = set_starts(project, "title", "entrance", (0.5, 0.1, 1.5))
    assert inconsistencies(made) == []
    first, last = starts(made)
    # Gaps of 0.4 and 1.0 s: the median is 0.7.
    assert np.allclose(first, np.array([0.1, 0.5, 1.5, 2.2, 2.9]) * 30)
    assert np.allclose(last - first, (last - first)[0])
    even = set_starts(made, "title", "entrance", ())
    assert len(np.unique(np.round(np.diff(starts(even)[0]), 6))) == 1


def test_more_times_than_pieces_are_left_over_and_retyped_they_serve():
    project = project_of(title("one two", length=300, moves=[by_letters(pieces="words", length=0.8)]))
    made = set_starts(project, "title", "entrance", (0.0, 0.4, 0.9))
    assert np.allclose(starts(made)[0], [0, 12])
    longer = change_text(made, "title", content="one two three")
    assert np.allclose(starts(longer)[0], [0, 12, 27])


def test_pieces_set_off_on_the_markers_over_the_clip():
    markers = tuple(Marker(frame=frame) for frame in (3, 20, 35, 400))
    clip = title("one two", start=10, length=100, moves=[by_letters(pieces="words", length=0.8)])
    project = project_of(clip, markers=markers)
    made = starts_from_markers(project, "title", "entrance")
    assert np.allclose(starts(made)[0] + 10, [20, 35])
    with pytest.raises(RovixError, match="no marker"):
        starts_from_markers(project_of(clip), "title", "entrance")
