"""Typing: rhythm, caret, pages; recipes 9, 16 and 26."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from builders import project_of, title
from rovix.edit.arrange import last_line_to_mid_height
from rovix.errors import RovixError
from rovix.model import Caret, Move, Typing
from rovix.motion import Scene, describe, picture_plan
from rovix.motion.typing import caret_box
from rovix.paint.painter import Painter
from rovix.text.caret import caret_at, line_cells


def typed(content="Kite day", length=1.0, role="entrance", text=None, clip=240, **typing):
    fields = {name: typing.pop(name) for name in ("order", "pieces", "seed", "order_curve") if name in typing}
    fields = {"pieces": "letters"} | fields
    move = Move(role=role, length=length, typing=Typing(**typing), **fields)
    return project_of(title(content, length=clip, moves=[move], text=text or {"size": 40.0}))


def starts(project):
    clip = project.sequence.tracks[0].clips[0]
    return Scene.of(project).motion(clip).timings[0].times.starts


def shown(project, frame):
    return [piece["shown"] for piece in describe(project, frame)["layers"][0]["pieces"]]


def test_recipe_9_letters_come_one_after_another_over_the_chosen_length():
    project = typed("Larkmoor", length=0.7)  # 21 frames, 8 letters: every three frames
    assert starts(project).tolist() == [0, 3, 6, 9, 12, 15, 18, 21]
    assert [sum(shown(project, frame)) for frame in (0, 2, 3, 20, 21)] == [1, 1, 2, 7, 8]


def test_recipe_16_gaps_are_whole_frames_between_least_and_most():
    # Eight gaps of 3 to 9 frames are 6 on average; their own sum as the length leaves them as drawn.
    project = typed("ninety kites", rhythm="uneven", length=60 / 30)
    gaps = np.diff(starts(project))
    assert gaps.sum() == 60
    assert (gaps == np.round(gaps)).all()
    shares = gaps / gaps.mean()
    assert 0.3 < shares.min() < shares.max() < 1.9
    assert len(set(gaps.tolist())) > 2
    assert (starts(typed("ninety kites", rhythm="uneven", length=2.0)) == starts(project)).all()
    assert (starts(typed("ninety kites", rhythm="uneven", length=2.0, seed=8)) != starts(project)).any()


@settings(max_examples=100, deadline=None)
@given(
    st.text("ab .,\n", min_size=2, max_size=60),
    st.integers(1, 12),
    st.integers(1, 30),
    st.integers(0, 10_000),
    st.integers(1, 200),
)
def test_an_uneven_rhythm_sums_up_to_the_length_exactly(text, least, most, seed, frames):
    project = typed(text, rhythm="uneven", least=least, most=most, seed=seed, length=frames / 30, clip=400)
    found = starts(project)
    assert found.min() == 0
    assert found.max() == (frames if len(found) > 1 else 0)
    assert (np.diff(found) >= 0).all()


def test_punctuation_and_line_ends_take_longer():
    words = "ab, ab\nab ab"
    project = typed(words, rhythm="uneven", least=4, most=4, at_stops=2.0, at_ends=3.0, length=44 / 30)
    # Eight gaps of 4 frames, one of them twice and one three times as long: 4 * (6 + 2 + 3) = 44.
    assert np.diff(starts(project)).tolist() == [4, 4, 8, 4, 12, 4, 4, 4]


def test_taps_give_their_own_rhythm_stretched_to_the_length():
    taps = (0.0, 0.1, 0.5, 0.6, 1.0)
    project = typed("abcde", rhythm="tapped", taps=taps, length=1.0)
    assert starts(project).tolist() == [0, 3, 15, 18, 30]
    assert starts(typed("abcde", rhythm="tapped", taps=taps, length=2.0)).tolist() == [0, 6, 30, 36, 60]
    more = starts(typed("abcdefg", rhythm="tapped", taps=taps, length=1.5))
    assert np.diff(more) == pytest.approx([3, 12, 3, 12, 7.5, 7.5], abs=0.5)


def test_an_exit_takes_back_what_was_typed_the_last_first():
    project = typed("abcd", role="exit", order="reversed", length=0.5, clip=60)
    # 15 frames from frame 44 on: nothing goes at once, the last letter first, the first on the last frame.
    assert [sum(shown(project, frame)) for frame in (43, 44, 45, 50, 55, 58, 59)] == [4, 4, 3, 2, 1, 1, 0]
    assert shown(project, 45) == [True, True, True, False]


def caret(project, frame):
    clip = project.sequence.tracks[0].clips[0]
    state = Scene.of(project).state(clip, np.array([float(frame)]))
    return None if state.caret is None or np.isnan(state.caret[0, 0]) else state.caret[0]


def test_the_caret_stands_behind_the_last_letter_and_winks_when_it_rests():
    look = Caret(wink=0.4, stays=1.0)
    project = typed("abc", length=1.0, caret=look)
    layout = Scene.of(project).motion(project.sequence.tracks[0].clips[0]).subject.layout
    for frame, index in ((0, 1), (5, 1), (15, 2), (30, 3)):
        assert caret(project, frame) == pytest.approx(caret_box(layout, look, index))
    assert caret(project, 0)[0] == pytest.approx(caret_at(layout, 1)[0] + 0.03 * 40)
    # 0.4 s are 12 frames: there for 6, gone for 6, from each letter on.
    assert [caret(project, frame) is not None for frame in (30, 35, 36, 41, 42)] == [
        True,
        True,
        False,
        False,
        True,
    ]
    assert caret(project, 60) is None
    assert caret(typed("abc", length=1.0, caret=Caret()), 30) is None


@pytest.mark.parametrize("shape", ["bar", "block", "underline"])
def test_each_caret_is_drawn_in_the_words_colour(shape):
    with_it, without = typed("ab", caret=Caret(shape=shape)), typed("ab")
    one, other = (Painter(None).paint(picture_plan(project, 3)).astype(int) for project in (with_it, without))
    rows, columns = np.nonzero(np.abs(one - other).max(axis=2) > 60)
    assert len(rows) > 20
    wide, high = np.ptp(columns) + 1, np.ptp(rows) + 1
    assert {"bar": wide < high / 4, "block": 15 <= wide < high, "underline": high < wide / 3}[shape]


def test_a_caret_stands_before_the_first_word_too():
    words = typed("one two", pieces="words", caret=Caret(), order="reversed")
    assert sum(shown(words, 0)) == 1
    assert caret(words, 0) is not None


def test_recipe_26_the_typed_line_stays_at_its_height_a_line_change_is_a_step():
    text = "wind\nkites\nhill"
    project = typed(text, length=2.0, one_height=True, text={"size": 40.0, "leading": 1.5})
    down = [describe(project, frame)["layers"][0]["pieces"][0]["y"] for frame in range(61)]
    assert sorted(set(down), reverse=True) == pytest.approx([120, 60, 0])
    assert down[0] == pytest.approx(120)
    assert down[60] == 0
    times = starts(project)
    # The line moves on the very frame on which its first letter comes.
    assert down[int(np.ceil(times[4])) - 1] == pytest.approx(120)
    assert down[int(np.ceil(times[4]))] == pytest.approx(60)
    bottoms = []
    for frame in (10, 30, 60):
        layer = describe(project, frame)["layers"][0]
        bottoms.append(layer["bounds"][3])
    assert np.ptp(bottoms) < 12  # but for the descenders of some letters


@pytest.mark.parametrize(
    "words",
    ["wind over the hill\nkites", "ציפור על הגבעה\nרוח", "ريح على التل\nطائرة"],
    ids=["Latin", "Hebrew", "Arabic"],
)
def test_what_is_typed_of_a_line_stands_about_its_middle_and_comes_to_rest(words):
    """The middle of the letters shown of the line being typed stays; a line that is whole is at rest."""
    project = typed(words, length=2.0, centred=True, text={"size": 40.0, "align": "left"}, caret=Caret())
    clip = project.sequence.tracks[0].clips[0]
    layout = Scene.of(project).motion(clip).subject.layout
    for frame in range(0, 61, 4):
        state = Scene.of(project).state(clip, np.array([float(frame)]))
        starts = state.subject.starts
        lines = np.searchsorted([line.start for line in layout.lines], starts, side="right") - 1
        letters = np.array([bool(text.strip()) for text in state.subject.texts])
        shown = state.shown[0] & letters
        if not shown.any():
            continue
        typed_line = int(lines[np.flatnonzero(shown)].max())
        middle = layout.lines[typed_line].left + layout.lines[typed_line].width / 2
        cells = {cell.start: cell for cell in line_cells(layout, typed_line)}
        mine = [
            cells[int(starts[n])]
            for n in np.flatnonzero(shown & (lines == typed_line))
            if int(starts[n]) in cells
        ]
        across = state.pieces["x"][0][shown & (lines == typed_line)]
        assert np.ptp(across) == pytest.approx(0.0, abs=1e-9)
        found = (min(cell.left for cell in mine) + max(cell.right for cell in mine)) / 2 + across[0]
        assert found == pytest.approx(middle, abs=0.01), frame
        assert not state.pieces["x"][0][shown & (lines < typed_line)].any()
    assert not Scene.of(project).state(clip, np.array([60.0])).pieces["x"].any()


def test_the_caret_goes_with_the_line_that_is_typed():
    ways = {
        name: typed("kite\nwind", length=2.0, centred=name, caret=Caret(wink=0.0)) for name in (False, True)
    }
    clip = ways[True].sequence.tracks[0].clips[0]
    for frame in (2, 10, 20, 40, 50):
        state = Scene.of(ways[True]).state(clip, np.array([float(frame)]))
        last = np.flatnonzero(state.shown[0]).max()
        across = caret(ways[True], frame)[0] - caret(ways[False], frame)[0]
        assert across == pytest.approx(state.pieces["x"][0, last]), frame
        assert frame == 50 or across > 1


@pytest.mark.parametrize("order", ["reversed", "centre-out", "shuffled"])
@pytest.mark.parametrize("pieces", ["lines", "letters"])
def test_lines_end_at_rest_in_whatever_order_they_are_typed(order, pieces):
    project = typed("wind\nkites\nhill", length=1.0, one_height=True, order=order, pieces=pieces)
    assert {piece["y"] for piece in describe(project, 30)["layers"][0]["pieces"]} == {0.0}
    assert any(piece["y"] for piece in describe(project, 2)["layers"][0]["pieces"])


def test_the_typed_line_can_be_put_at_mid_height():
    project = typed("wind\nkites\nhill", length=2.0, one_height=True, text={"size": 40.0, "leading": 1.5})
    placed = last_line_to_mid_height(project, "title")
    clip = placed.sequence.tracks[0].clips[0]
    layout = Scene.of(placed).motion(clip).subject.layout
    for frame in range(0, 61, 5):
        state = Scene.of(placed).state(clip, np.array([float(frame)]))
        shown = np.flatnonzero(state.shown[0]).max()
        line = layout.lines[
            int(np.searchsorted([x.start for x in layout.lines], state.subject.starts[shown], side="right"))
            - 1
        ]
        down = state.rest["y"][0] + state.pieces["y"][0, 0]
        assert line.baseline - line.cap / 2 + down == pytest.approx(0.0, abs=1e-3)
    with pytest.raises(RovixError, match="Only words"):
        last_line_to_mid_height(project_of(title("")), "title")


def test_a_caret_stands_on_the_side_to_which_words_run():
    hebrew = typed("שלום", caret=Caret(shape="block"), text={"size": 40.0})
    layout = Scene.of(hebrew).motion(hebrew.sequence.tracks[0].clips[0]).subject.layout
    box = caret(hebrew, 1)
    first = layout.x[layout.cluster == 0][0]
    assert box[2] == pytest.approx(first - 0.03 * 40)
    assert box[2] - box[0] == pytest.approx(20)


def test_lines_are_broken_once_from_the_whole_text():
    text = "kites over the hill all day long"
    project = typed(text, length=2.0, text={"size": 40.0, "wrap": 260.0})
    plans = [picture_plan(project, frame).layers[0] for frame in (5, 30, 60)]
    assert all((plan.layout.x == plans[-1].layout.x).all() for plan in plans)
