import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from rovix.model import Move
from rovix.motion.order import ranks
from rovix.motion.random import shuffled, splitmix64
from rovix.motion.spans import move_spans
from rovix.motion.stagger import piece_times
from rovix.time import Rate

RATE = Rate(30)


def entrance(**fields) -> Move:
    return Move(**{"id": "m", "role": "entrance"} | fields)


def test_splitmix64_gives_the_published_stream():
    # First values for seed 1234567 in the reference test vector (Rosetta Code, "Pseudo-random
    # numbers/Splitmix64"; from memory).
    numbers = splitmix64(1234567)
    assert [next(numbers) for _ in range(3)] == [
        6457827717110365317,
        3203168211198807973,
        9817491932198370423,
    ]


@pytest.mark.parametrize(
    ("order", "count", "expected"),
    [
        ("reading", 4, [0, 1, 2, 3]),
        ("reversed", 4, [3, 2, 1, 0]),
        ("centre-out", 5, [2, 1, 0, 1, 2]),
        ("centre-out", 4, [1, 0, 0, 1]),
        ("ends-in", 5, [0, 1, 2, 1, 0]),
        ("reading", 1, [0]),
        ("centre-out", 0, []),
    ],
)
def test_orders(order, count, expected):
    assert ranks(order, count).tolist() == expected


@given(st.integers(0, 60), st.integers(0, 2**53))
def test_a_shuffle_is_a_permutation_and_comes_again(count, seed):
    assert sorted(shuffled(count, seed)) == list(range(count))
    assert ranks("shuffled", count, seed).tolist() == ranks("shuffled", count, seed).tolist()


def test_seeds_shuffle_differently():
    assert len({tuple(shuffled(8, seed)) for seed in range(50)}) > 45


def test_letters_three_frames_apart():
    # Common practice, no source: a stagger of 3 frames.
    times = piece_times(entrance(stagger=0.1), 5, 24, RATE)
    assert times.starts.tolist() == [0, 3, 6, 9, 12]
    assert times.ends.tolist() == [12, 15, 18, 21, 24]


def test_stagger_and_at_once_are_tied():
    # length = stagger x (ranks - 1 + at once), and each piece takes at once x stagger.
    times = piece_times(entrance(at_once=3.0), 7, 36, RATE)
    stagger = 36 / (6 + 3)
    assert np.diff(times.starts) == pytest.approx(stagger)
    assert times.ends - times.starts == pytest.approx(3 * stagger)


@given(
    st.integers(1, 40), st.floats(0, 50), st.integers(0, 400), st.sampled_from(["linear", "ease", "cubic-in"])
)
def test_pieces_fill_their_span_exactly(count, at_once, span, curve):
    times = piece_times(entrance(at_once=at_once, order_curve=curve), count, span, RATE)
    assert times.starts.min(initial=span) == 0
    assert times.ends.max(initial=0) == pytest.approx(span if count > 1 or at_once > 0 else 0)
    assert (np.diff(times.starts) >= 0).all()


def test_limits_of_the_relation():
    assert piece_times(entrance(at_once=4.0), 1, 20, RATE).ends.tolist() == [20]  # K = 0: the whole span
    cut = piece_times(entrance(at_once=0.0), 5, 20, RATE)
    assert cut.starts.tolist() == cut.ends.tolist() == [0, 5, 10, 15, 20]
    assert piece_times(entrance(at_once=0.0), 1, 20, RATE).starts.tolist() == [0]
    # A stagger too long for the span: pieces are cut on, spread over the span.
    tight = piece_times(entrance(stagger=1.0), 5, 20, RATE)
    assert tight.starts.tolist() == [0, 5, 10, 15, 20]
    assert tight.ends.tolist() == tight.starts.tolist()


def test_shares_are_exactly_one_from_the_end_on():
    times = piece_times(entrance(at_once=2.0), 3, 10, RATE)
    share = times.share(np.arange(-1, 13, 0.25))
    assert share.min() == 0.0
    assert (share[np.arange(-1, 13, 0.25) >= 10] == 1.0).all()
    assert (share[np.arange(-1, 13, 0.25) < 2] < 1.0).all()


def test_centre_out_pieces_of_one_rank_go_together():
    times = piece_times(entrance(order="centre-out", at_once=1.0), 4, 20, RATE)
    assert times.starts.tolist() == [10, 0, 0, 10]


@pytest.mark.parametrize(
    ("length", "entrance_s", "exit_s", "expected"),
    [
        (90, 0.5, 1.0, (15, 30, False)),
        (46, 0.5, 1.0, (15, 30, False)),  # 15 + 30 = 45 = L - 1: it just fits
        (45, 0.5, 1.0, (15, 29, True)),
        (31, 0.5, 1.0, (10, 20, True)),
        (2, 0.5, 1.0, (0, 1, True)),
        (1, 0.5, 1.0, (0, 0, True)),
        (90, 0.0, 0.0, (0, 0, False)),
    ],
)
def test_entrance_and_exit_leave_a_frame_at_rest(length, entrance_s, exit_s, expected):
    moves = (entrance(length=entrance_s), Move(id="x", role="exit", length=exit_s))
    spans = move_spans(moves, length, RATE)
    assert (spans.entrance, spans.exit, spans.shrunk) == expected
    assert spans.entrance + spans.exit <= length - 1
    assert spans.frames(moves[0], RATE) == spans.entrance


def test_a_shorter_move_beside_a_longer_one_shrinks_with_it():
    moves = (entrance(length=1.0), entrance(length=0.5, id="shorter"))
    spans = move_spans(moves, 16, RATE)
    assert [spans.frames(move, RATE) for move in moves] == [15, 8]
