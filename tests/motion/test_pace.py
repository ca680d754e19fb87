"""Moves by pace: every piece has its time whatever the words are; and moves one after the other."""

from __future__ import annotations

from math import ceil

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from builders import title
from rovix.edit import change_text, set_move_length
from rovix.edit.tree import clip_of
from rovix.model import Departure, Move, Pace, Typing
from rovix.motion import clip_spans, layer_motion
from rovix.motion.pace import asked_frames, asked_seconds
from rovix.motion.reversal import reversed_move
from rovix.time import Rate

SIZE = (1920, 1080)
LONG = 1_000_000
SCRIPTS = (
    "Larkmoor ", "Ελλάδα ", "Привет ", "مرحبا ", "שלום ", "नमस्ते ", "বাংলা ", "தமிழ் ", "ไทย", "ქართული ", "Հայերեն ", "한국어 ",
)  # fmt: skip
"""Twelve scripts."""


def paced(role="entrance", **fields):
    departure = Departure(channel="opacity")
    base = {
        "role": role,
        "pieces": "letters",
        "channels": (departure,),
        "pace": Pace(piece=0.3, stagger=0.04),
    }
    return Move(**base | fields)


def times_of(clip, rate, index=0):
    timing = layer_motion(clip, SIZE, rate).timings[index]
    return timing.times.starts, timing.times.ends, timing.span


@settings(max_examples=60)
@given(
    script=st.sampled_from(SCRIPTS), count=st.integers(1, 60), rate=st.sampled_from(["24", "30000/1001", "60"]),
    order=st.sampled_from(["reading", "reversed", "centre-out", "ends-in", "shuffled", "from-point"]),
    role=st.sampled_from(["entrance", "exit"]),
)  # fmt: skip
def test_every_piece_takes_its_time_and_the_next_follows_by_the_stagger(script, count, rate, order, role):
    rate = Rate(rate)
    move = paced(role, order=order)
    clip = title(script * count, length=LONG, moves=[move], text={"size": 20.0})
    starts, ends, span = times_of(clip, rate)
    fps = float(rate.fraction)
    assert np.all(np.abs((ends - starts) - 0.3 * fps) <= 1), "within a frame of what the pace says"
    steps = np.diff(np.unique(np.round(starts, 6)))
    assert np.all(np.abs(steps - 0.04 * fps) <= 1)
    assert span - 1 < ends.max() <= span + 1e-6, (
        "at rest on the first frame that the last piece has landed by"
    )
    assert span == clip_spans(clip, rate).frames(move, rate)


def test_the_relation_at_its_limits():
    # span = stagger x K + piece, with K 0 and with a piece or a stagger of nothing.
    rate = Rate(30)
    for words, pace, frames in (
        ("A", Pace(piece=0.5, stagger=0.1), 15), ("ABC", Pace(piece=0.0, stagger=0.1), 6),
        ("ABC", Pace(piece=0.5, stagger=0.0), 15), ("ABC", Pace(piece=0.0, stagger=0.0), 0),
    ):  # fmt: skip
        clip = title(words, length=900, moves=[paced(pace=pace)])
        assert asked_frames(clip, clip.moves[0], rate) == frames
        assert layer_motion(clip, SIZE, rate).timings[0].span == frames


def test_where_the_clip_is_too_short_all_is_faster_in_one_proportion():
    rate = Rate(30)
    clip = title(
        "Larkmoor Kite Day", length=31, moves=[paced(), paced("exit", pace=Pace(piece=0.6, stagger=0.08))]
    )
    spans = clip_spans(clip, rate)
    assert spans.shrunk
    assert spans.entrance + spans.exit == 30
    asked = [asked_seconds(clip, move, rate) * 30 for move in clip.moves]
    assert spans.needed == sum(ceil(frames - 1e-6) for frames in asked)
    for index, move in enumerate(clip.moves):
        starts, ends, span = times_of(clip, rate, index)
        share = span / asked[index]
        assert np.allclose(ends - starts, move.pace.piece * 30 * share)
        assert np.allclose(np.diff(np.sort(starts)), move.pace.stagger * 30 * share)


@pytest.mark.parametrize("words", ["Wind", "Larkmoor Kite Day, all afternoon long, whatever the weather"])
def test_typing_comes_at_so_many_pieces_a_second_whatever_the_words(words):
    rate = Rate(30)
    move = Move(role="entrance", pieces="letters", typing=Typing(), pace=Pace(a_second=12.0))
    clip = title(words, length=LONG, moves=[move])
    starts, _, span = times_of(clip, rate)
    letters = len(set(starts.tolist()))
    assert span == ceil((letters - 1) / 12.0 * 30 - 1e-6)
    assert np.allclose(np.diff(np.sort(starts)), 30 / 12.0, atol=0.05)


def test_drawn_gaps_are_real_frames_and_tapped_ones_as_they_were_tapped():
    rate = Rate(25)
    plain = Typing(rhythm="uneven", least=3, most=9, at_stops=1.0, at_ends=1.0)
    for words in ("Kite", "Larkmoor Kite Day"):
        move = Move(role="entrance", pieces="letters", typing=plain, pace=Pace())
        starts, _, _ = times_of(title(words, length=LONG, moves=[move]), rate)
        gaps = np.diff(np.sort(starts))
        assert gaps.min() >= 3
        assert gaps.max() <= 9
        assert np.array_equal(gaps, np.round(gaps))
    tapped = Typing(rhythm="tapped", taps=(0.0, 0.2, 0.8, 1.0))
    move = Move(role="entrance", pieces="letters", typing=tapped, pace=Pace())
    starts, _, _ = times_of(title("Kite", length=LONG, moves=[move]), rate)
    assert np.sort(starts).tolist() == [0, 5, 20, 25]


def test_six_letters_and_eighty_are_typed_as_fast():
    rate = Rate(30)
    move = Move(role="entrance", pieces="letters", typing=Typing(), pace=Pace(a_second=12.0))
    for count in (6, 80):
        clip = title("k" * count, length=LONG, moves=[move])
        assert asked_seconds(clip, move, rate) == pytest.approx((count - 1) / 12)


def test_describe_says_how_fast_six_letters_and_eighty_are_typed_and_what_they_need():
    from builders import project_of
    from rovix.motion import describe

    move = Move(role="entrance", name="Typed", pieces="letters", typing=Typing(), pace=Pace(a_second=12.0))
    for count, frames in ((6, 13), (80, 198)):
        clip = title("k" * count, length=150, moves=[move])
        (said,) = describe(project_of(clip), 0)["layers"][0]["moves"]
        assert said == {
            "name": "Typed", "role": "entrance", "start": 0, "frames": min(frames, 149), "needs": frames, "a_second": 12.0,
        }  # fmt: skip


def test_retyping_another_face_and_another_rate_keep_the_pace(tmp_path):
    from builders import project_of

    project = project_of(title("Kite", length=900, moves=[paced()]))
    longer = change_text(project, "title", content="Larkmoor Kite Day", family="Oswald", size=30.0)
    for made, count in ((project, 4), (longer, 15)):
        clip = clip_of(made, "title")
        assert clip.moves[0].pace == Pace(piece=0.3, stagger=0.04)
        for rate in (Rate(24), Rate(60)):
            assert asked_seconds(clip, clip.moves[0], rate) == pytest.approx(
                0.3 + 0.04 * (count - 1), abs=0.081
            )


def test_a_length_that_is_set_changes_the_pace_in_proportion():
    from builders import project_of

    project = project_of(title("Kite", length=900, moves=[paced()]))
    clip = clip_of(project, "title")
    before = asked_frames(clip, clip.moves[0], Rate(30))
    made = clip_of(set_move_length(project, "title", "entrance", 2 * before), "title")
    assert asked_frames(made, made.moves[0], Rate(30)) == 2 * before
    assert made.moves[0].pace.piece / made.moves[0].pace.stagger == pytest.approx(0.3 / 0.04)


def test_an_entrance_by_pace_has_an_exact_reverse():
    rate = Rate(30)
    clip = title("Larkmoor", length=900, moves=[paced(), reversed_move(paced())])
    start, end, span = times_of(clip, rate)
    back, gone, other = times_of(clip, rate, 1)
    assert span == other
    assert np.allclose(span - end, back)
    assert np.allclose(span - start, gone)


def whole(role, **fields):
    return Move(role=role, channels=(Departure(channel="opacity"),), **fields)


def test_stages_start_after_the_one_before_or_after_their_wait():
    rate = Rate(30)
    moves = (
        whole("entrance", length=1.0), whole("entrance", length=0.5, after=True, wait=0.2),
        whole("entrance", length=0.3, wait=1.0), whole("exit", length=0.5),
        whole("exit", length=0.4, after=True, wait=0.1),
    )  # fmt: skip
    clip = title("Kite", length=301, moves=moves)
    spans = clip_spans(clip, rate)
    found = [(spans.start(move, rate), spans.frames(move, rate)) for move in moves]
    # 30 frames a second; the second exit ends with the clip, the first 3 frames before the second starts.
    assert found == [(0, 30), (36, 15), (30, 9), (300 - 12 - 3 - 15, 15), (300 - 12, 12)]
    assert (spans.entrance, spans.exit) == (51, 30)


def test_a_stage_waits_away_and_stays_away_and_rest_is_between():
    rate = Rate(30)
    moves = (whole("entrance", length=0.5, wait=0.5), whole("exit", length=0.5, wait=0.5))
    clip = title("Kite", length=121, moves=moves)
    state = layer_motion(clip, SIZE, rate).at(np.arange(121.0))
    opacity = state.pieces["opacity"][:, 0]
    shown = state.shown[:, 0]
    seen = np.where(shown, opacity, 0.0)
    assert np.all(seen[:15] == 0)
    assert np.all(seen[30:91] == 1)
    assert np.all(seen[106:] == 0)


def test_stages_that_a_clip_is_too_short_for_are_all_faster():
    rate = Rate(30)
    moves = (whole("entrance", length=1.0), whole("entrance", length=1.0, after=True))
    clip = title("Kite", length=31, moves=moves)
    spans = clip_spans(clip, rate)
    assert [(spans.start(m, rate), spans.frames(m, rate)) for m in moves] == [(0, 15), (15, 15)]
    assert (spans.needed, spans.shrunk) == (60, True)
