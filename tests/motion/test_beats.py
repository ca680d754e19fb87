"""Laws of loops: they leave rest, come back in whole beats, and always join."""

import msgspec
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from builders import project_of, title
from rovix.model import Amount, Beats, Departure, InnerKey, Move, PictureClip
from rovix.motion import describe
from rovix.motion.beats import piece_beats
from rovix.motion.channels import CHANNELS
from rovix.motion.layer import LayerMotion
from rovix.motion.profile import motion_profile, setting_off
from rovix.motion.ready_moves import pop, ready_moves, rise_and_fade
from rovix.time import Rate

replace = msgspec.structs.replace
RATE = Rate(30)
LOOPS = ready_moves("loop")
SCRIPTS = [
    "Kite day", "Παράδειγμα λέξης", "Слово дня", "مثال كلمة", "दिन का शब्द", "한글 낱말", "言葉の日", "คำของวัน",
    "שלום עולם", "👨‍👩‍👧‍👦 🇳🇱", "e\u0301a\u0308", "",
]  # fmt: skip


def loop(**fields) -> Move:
    fields = {"length": 1.0, "channels": (Departure(channel="y", amount=Amount(value=-30.0)),), **fields}
    return Move(id="loop", role="loop", piece_curve="sine-in-out", **fields)


def heights(clip: PictureClip, frames, piece: int = 0) -> np.ndarray:
    return LayerMotion(clip, (640, 360), RATE).at(np.asarray(frames, dtype=float)).pieces["y"][:, piece]


def at_rest(clip: PictureClip, frame: int) -> bool:
    pieces = LayerMotion(clip, (640, 360), RATE).at(np.array([float(frame)])).pieces
    return all((values == CHANNELS[name].neutral).all() for name, values in pieces.items())


def test_a_loop_runs_from_the_landing_to_the_leaving_in_whole_beats():
    clip = title(length=122, moves=[pop(), loop(), rise_and_fade("exit")])
    # 122 frames less 7 for the entrance and 18 for the exit leave 96: three beats of 32 frames.
    assert heights(clip, [7, 23, 39, 55, 71, 87, 103]) == pytest.approx([0, -30, 0, -30, 0, -30, 0], abs=1e-9)
    assert heights(clip, [0, 3, 6, 104, 121]).tolist() == [0, 0, 0, 0, 0]


def test_over_the_whole_clip_it_runs_beneath_the_entrance_too():
    clip = title(length=61, moves=[pop(), loop(beats=Beats(over="clip"))])
    assert heights(clip, [0, 15, 30, 45, 60]) == pytest.approx([0, -30, 0, -30, 0])


def test_a_number_of_beats_keeps_their_length_and_then_rests():
    clip = title(length=121, moves=[loop(beats=Beats(count=2))])
    assert heights(clip, [0, 15, 30, 45, 60, 75, 100]) == pytest.approx([0, -30, 0, -30, 0, 0, 0])


def test_free_beats_keep_their_length_and_swell_and_ebb():
    clip = title(length=101, moves=[loop(beats=Beats(fitted=False, ramp=0.5))])
    found = heights(clip, range(101))
    assert found[[45, 75]] == pytest.approx([-30, -30])
    full = heights(title(length=101, moves=[loop(beats=Beats(fitted=False, ramp=0))]), range(101))
    assert full[7] < found[7] < 0
    assert found[0] == found[100] == 0.0
    # The clip ends between two beats: without a ramp the words would jump back, with one they ebb.
    assert full[99] < -2
    assert -0.5 < found[99] < 0


def test_pieces_follow_one_another_by_their_phase_and_all_return():
    clip = title("Kites", length=91, moves=[loop(pieces="letters", beats=Beats(phase=1.0))])
    # Two beats of 30 frames for each letter, the last one of five a beat behind: 7.5 frames each.
    tops = [int(np.argmin(heights(clip, range(38), piece))) for piece in range(3)]
    assert tops == pytest.approx([15, 22, 30], abs=1)
    assert heights(clip, [0, 90], 4).tolist() == [0, 0]
    assert heights(clip, [30], 4)[0] == 0
    assert heights(clip, [45], 4)[0] == pytest.approx(-30)


def test_whole_turns_go_on_from_beat_to_beat_without_a_jump():
    wheel = next(move for move in LOOPS if move.name == "Wheel")
    clip = title(length=241, moves=[wheel])
    turn = LayerMotion(clip, (640, 360), RATE).at(np.arange(241.0)).pieces["rotation_z"][:, 0]
    steps = np.diff(turn) % 360
    assert steps == pytest.approx(np.full(240, 3.0))


def test_an_amount_is_reached_there_and_back_alike():
    found = heights(title(length=31, moves=[loop()]), range(31))
    assert found == pytest.approx(found[::-1])
    # A sine wave from rest: (1 - cos) / 2 of the way.
    assert found == pytest.approx(-30 * (1 - np.cos(2 * np.pi * np.arange(31) / 30)) / 2)


@given(
    words=st.sampled_from(SCRIPTS),
    number=st.integers(0, len(LOOPS) - 1),
    length=st.integers(1, 200),
    beats=st.builds(
        Beats,
        over=st.sampled_from(["stay", "clip"]),
        count=st.integers(0, 4),
        fitted=st.booleans(),
        ramp=st.floats(0, 2),
        phase=st.floats(0, 5),
    ),
)
@settings(max_examples=120, deadline=None)
def test_every_loop_starts_and_ends_exactly_at_rest(words, number, length, beats):
    clip = title(words, length=length, moves=[replace(LOOPS[number], beats=beats)])
    assert at_rest(clip, 0)
    assert at_rest(clip, length - 1)


@given(
    span=st.integers(0, 500),
    seconds=st.floats(0.01, 8),
    count=st.integers(0, 9),
    fitted=st.booleans(),
    phase=st.floats(0, 6),
    pieces=st.integers(0, 40),
)
def test_beats_stay_within_their_span(span, seconds, count, fitted, phase, pieces):
    move = loop(length=seconds, beats=Beats(count=count, fitted=fitted, phase=phase))
    found = piece_beats(move, pieces, span, RATE)
    assert (found.starts >= 0).all()
    assert found.starts.max(initial=0) + found.length <= span + 1e-6
    whole = found.length / found.whole
    assert whole == pytest.approx(round(whole), abs=1e-6)


def test_there_are_fourteen_loops_of_different_names_and_motions():
    assert len(LOOPS) >= 14
    assert len({move.name for move in LOOPS}) == len(LOOPS)
    ways = set()
    for move in LOOPS:
        state = LayerMotion(title("Kite day", length=121, moves=[move]), (640, 360), RATE).at(
            np.arange(121.0)
        )
        ways.add(tuple(np.round(np.concatenate([state.pieces[name].ravel() for name in CHANNELS]), 6)))
    assert len(ways) == len(LOOPS)


def flashes(strength: np.ndarray) -> int:
    """Pairs of opposing changes in light by a tenth or more."""
    marks = [strength[0]]
    for value in strength[1:]:
        if abs(value - marks[-1]) >= 0.1:
            marks.append(value)
    ways = np.sign(np.diff(marks))
    changes = int((ways[1:] != ways[:-1]).sum()) + 1 if len(ways) else 0
    return changes // 2


@pytest.mark.parametrize("move", LOOPS, ids=lambda move: move.name)
def test_no_loop_flashes_more_than_three_times_in_any_second(move):
    # WCAG 2.2, success criterion 2.3.1: no more than three flashes in any one second period, a
    # flash being a pair of opposing changes of a tenth of the most relative luminance.
    state = LayerMotion(title("Kite", length=181, moves=[move]), (640, 360), RATE).at(np.arange(181.0))
    light = (state.opacity() * state.pieces["fill_opacity"])[:, 0]
    # A colour mixed in, such as white into dark words, changes the light as much as it is mixed.
    mixed = [mix.shares[:, 0] * np.ones(181) for mix in state.mixes]
    for strength in (light, *mixed):
        assert max(flashes(strength[start : start + 31]) for start in range(150)) <= 3


def test_inner_keys_of_a_loop_are_one_beat_and_describe_reads_it():
    keys = tuple(InnerKey(at=at, amount=Amount(value=v)) for at, v in ((0.0, 0.0), (0.25, 8.0), (1.0, 0.0)))
    project = project_of(
        title(length=61, moves=[loop(channels=(Departure(channel="rotation_z", keys=keys),))])
    )
    turns = [
        describe(project, frame)["layers"][0]["pieces"][0]["rotation_z"] for frame in (0, 15, 30, 45, 60)
    ]
    assert turns == pytest.approx([0, 16 / 3, 0, 16 / 3, 0])


def test_ticks_are_where_pieces_set_off():
    wave = Move(id="w", role="entrance", length=1.0, pieces="letters", at_once=2.0)
    whole = replace(wave, id="v", pieces="whole")
    motion = LayerMotion(title("Kites", length=91, moves=[wave, whole, loop()]), (640, 360), RATE)
    # Five letters over 30 frames, two at once: 30 / (4 + 2) frames from one to the next.
    (found,) = setting_off(motion)
    role, frames = found.role, found.frames
    assert role == "entrance"
    assert frames == pytest.approx([0, 5, 10, 15, 20])


def test_the_profile_shows_the_beat():
    profile = motion_profile(LayerMotion(title(length=91, moves=[loop()]), (640, 360), RATE), 91)
    assert profile[[0, 30, 60, 90]] == pytest.approx([1, 1, 1, 1])
    assert profile[[15, 45, 75]] == pytest.approx([0.6, 0.6, 0.6])
