"""Whether words can be read in the time that they stand. Reading speeds are common practice, no source."""

import numpy as np
import pytest

from builders import project_of, title
from rovix.check.legibility import FINDING, LEAST, LETTERS_A_SECOND, legibility
from rovix.model import Amount, Departure, Move
from rovix.motion import Scene
from rovix.motion.ready_moves import pop, rise_and_fade
from rovix.time import Rate

SIZE, RATE = (640, 360), Rate(30)


def reads(clip):
    return legibility(clip, SIZE, RATE)


def across(role, length, amount, **more):
    return Move(
        id=role,
        role=role,
        length=length,
        channels=(Departure(channel="x", amount=Amount(value=amount)),),
        **more,
    )


def test_words_stand_between_what_brings_and_what_takes_them():
    clip = title(
        "Larkmoor Kite Day", length=91, moves=[across("entrance", 1.0, 50.0), across("exit", 0.5, 50.0)]
    )
    found = reads(clip)
    assert found.shown == pytest.approx((90 - 30 - 15) / 30)
    assert (found.letters, found.words) == (15, 3)
    assert found.needed == pytest.approx(FINDING + 17 / LETTERS_A_SECOND)
    assert found.is_short, "by a thirtieth of a second"
    assert found.words_a_minute == pytest.approx(3 / found.shown * 60)


@pytest.mark.parametrize("length", [12, 30, 61, 200])
def test_it_is_short_exactly_where_the_time_to_read_is_longer(length):
    found = reads(title("One two three four five", length=length, moves=[pop(), rise_and_fade("exit")]))
    assert found.is_short == (found.coming + found.shown < found.needed)


def test_what_comes_piece_by_piece_is_read_as_it_comes():
    by_words = across("entrance", 1.0, 50.0, pieces="words")
    whole = reads(title("One two three four", length=56, moves=[across("entrance", 1.0, 50.0)]))
    dealt = reads(title("One two three four", length=56, moves=[by_words]))
    assert whole.shown == dealt.shown == pytest.approx(25 / 30)
    assert (whole.is_short, dealt.is_short) == (True, False)


def test_a_word_takes_a_least_time_and_none_takes_none():
    assert reads(title("Up", length=90)).needed == LEAST
    nothing = reads(title("", length=90))
    assert (nothing.letters, nothing.needed, nothing.is_short) == (0, 0.0, False)
    assert reads(title("Gone at once", length=1)).words_a_minute == float("inf")


def test_the_fastest_is_that_of_the_places_by_numpys_gradient():
    """Beside numpy.gradient over ten steps a frame, whose central differences are speeds."""
    clip = title("Kite", length=60, moves=[across("entrance", 1.0, -300.0, piece_curve="cubic-out")])
    fine = np.arange(0.0, 30.0, 0.1)
    state = Scene.of(project_of(clip)).motion(clip).at(fine)
    speeds = np.abs(np.gradient(state.local[:, 0, 0, 3] + state.layer[:, 0, 3], fine))
    assert reads(clip).fastest == pytest.approx(speeds.max(), rel=0.06)
    assert reads(clip).fastest <= speeds.max()


def test_what_is_not_seen_has_no_speed_and_what_rests_none():
    hidden = across("entrance", 1.0, -300.0, before="hidden")
    still = reads(title("Kite", length=60))
    assert (still.fastest or 0.0) == pytest.approx(0.0)
    assert reads(title("Kite", length=60, moves=[hidden])).fastest > 0


@pytest.mark.parametrize(("turns", "still"), [(1.0, False), (30.0, True), (15.0, False)])
def test_near_whole_turns_a_frame_it_seems_to_stand_still(turns, still):
    spin = Move(id="m", role="entrance", length=1.0, piece_curve="linear", channels=(
        Departure(channel="rotation_z", amount=Amount(value=360.0 * turns)),
    ))  # fmt: skip
    found = reads(title("Kite", length=60, moves=[spin]))
    assert found.turning == pytest.approx(12.0 * turns, rel=0.01)
    assert found.seems_still == still


def test_very_many_letters_are_counted_and_their_speed_left_out():
    found = reads(
        title("many letters " * 900, length=400, moves=[across("entrance", 10.0, 20.0, pieces="letters")])
    )
    assert found.letters == 900 * 11
    assert found.is_short
