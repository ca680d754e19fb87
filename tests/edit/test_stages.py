"""Stages dragged to a frame, and pieces of moves that set off on one, exits too."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from builders import project_of, title
from rovix.edit import change_text, trim_end, trim_start
from rovix.edit.pacing import move_start, set_starts
from rovix.edit.stages import set_stage, stage_edge, staged
from rovix.edit.tree import clip_of
from rovix.errors import RovixError
from rovix.model import Amount, Departure, Move, Pace, Typing
from rovix.motion import Scene, clip_spans
from rovix.motion.profile import setting_off
from rovix.time import Rate

RATE = Rate(30)


def move(role, identity, **fields):
    way = (Departure(channel="y", amount=Amount(value=50.0)),)
    return Move(id=identity, role=role, channels=way, **{"length": 0.5, **fields})


def project(*moves, words="one two three four", length=240):
    return project_of(title(words, length, moves))


def edges(made, *names):
    clip = clip_of(made, "title")
    spans = clip_spans(clip, RATE)
    moves = {own.id: own for own in clip.moves}
    return [stage_edge(clip, moves[name], spans, RATE) for name in names]


def frames_of(made, name):
    found = setting_off(Scene.of(made).motion(clip_of(made, "title")))
    return next(one.frames for one in found if one.move == name).tolist()


def test_an_entrance_begins_and_an_exit_ends_on_the_frame_it_is_dragged_to():
    made = project(move("entrance", "in"), move("entrance", "more", after=True), move("exit", "out"))
    assert [own.id for own in staged(clip_of(made, "title"))] == ["more"]
    made = set_stage(made, "title", "more", 40)
    assert edges(made, "in", "more") == [0, 40]
    made = set_stage(made, "title", "in", 10)
    assert edges(made, "in", "more") == [10, 50], "what comes after keeps its distance"
    made = set_stage(made, "title", "out", 200)
    assert edges(made, "out") == [200]
    assert [own.id for own in staged(clip_of(made, "title"))] == ["in", "more", "out"]
    made = set_stage(made, "title", "more", 0)
    assert edges(made, "in", "more") == [10, 25], "no sooner than the one before ends"


def test_of_exits_in_a_row_the_wait_between_them_changes():
    made = project(move("exit", "first"), move("exit", "last", after=True))
    assert edges(made, "first", "last") == [224, 239]
    made = set_stage(made, "title", "first", 200)
    assert edges(made, "first", "last") == [200, 239]
    with pytest.raises(RovixError, match="no such entrance or exit"):
        set_stage(project(move("loop", "beat")), "title", "beat", 3)


@settings(max_examples=40, deadline=None)
@given(
    st.integers(0, 90), st.integers(0, 90), st.integers(150, 400), st.sampled_from(["end", "start", "words"])
)
def test_trimming_and_retyping_keep_stages_and_rest_exactly(first, gap, length, change):
    """Where the clip has room, entrances keep their frames and exits theirs before the end; rest is exact."""
    moves = (
        move("entrance", "in", wait=first / 30), move("entrance", "more", after=True, wait=gap / 30),
        move("exit", "out", after=False, wait=0.1),
    )  # fmt: skip
    before = project(*moves, length=400)
    if change == "end":
        made = trim_end(before, "title", length)
    elif change == "words":
        made = change_text(before, "title", content="other words, many more of them than before")
    else:
        made = trim_start(before, "title", 400 - length)
    clip = clip_of(made, "title")
    spans = clip_spans(clip, RATE)
    if spans.shrunk:
        return
    assert edges(made, "in", "more") == [first, first + 15 + gap]
    assert edges(made, "out") == [clip.length - 1 - 3]
    rest = [
        spans.entrance,
        (spans.entrance + clip.length - 1 - spans.exit) // 2,
        clip.length - 1 - spans.exit,
    ]
    state = Scene.of(made).state(clip, np.array(rest, dtype=np.float64))
    assert not state.pieces["y"].any()


@pytest.mark.parametrize("typing", [None, Typing()], ids=["moved", "typed"])
def test_pieces_of_an_exit_set_off_where_they_were_tapped(typing):
    leaving = move("exit", "out", pieces="words", pace=Pace(piece=0.2), typing=typing)
    made = set_starts(project(leaving), "title", "out", (4.0, 4.5, 5.5, 6.0))
    assert frames_of(made, "out") == pytest.approx([120, 135, 165, 180])
    clip = clip_of(made, "title")
    assert edges(made, "out") == [180 if typing else 186]
    assert clip.moves[0].pace.piece == 0.2


def test_the_last_piece_of_an_exit_has_as_long_as_the_clip_leaves_it():
    made = set_starts(
        project(move("exit", "out", pieces="words", pace=Pace(piece=2.0))),
        "title",
        "out",
        (5.0, 6.0, 7.0, 7.9),
    )
    assert frames_of(made, "out") == pytest.approx([150, 180, 210, 237])
    assert edges(made, "out") == [239]


@pytest.mark.parametrize("role", ["entrance", "exit"])
@pytest.mark.parametrize("order", ["reading", "reversed", "centre-out", "shuffled"])
def test_one_piece_is_moved_between_its_neighbours_and_the_others_stay(role, order):
    own = move(role, "m", pieces="words", order=order, pace=Pace(piece=0.3, stagger=0.4), wait=0.2)
    made = project(own)
    before = frames_of(made, "m")
    rank = 1
    moved = move_start(made, "title", "m", rank, before[rank] - 5)
    assert frames_of(moved, "m") == pytest.approx([*before[:rank], before[rank] - 5, *before[rank + 1 :]])
    beyond = move_start(made, "title", "m", 0, 1000)
    assert frames_of(beyond, "m")[0] == pytest.approx(before[1])
    with pytest.raises(RovixError, match="no such piece"):
        move_start(made, "title", "m", 9, 10)
    with pytest.raises(RovixError, match="its beats"):
        set_starts(project(move("loop", "m")), "title", "m", (1.0,))
