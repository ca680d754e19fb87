"""Inner keys of moves: the same motion at first, then shaped, taken out, copied."""

import numpy as np
import pytest
from msgspec.structs import replace

from builders import project_of, title
from rovix.edit.inner_keys import (
    add_inner_key,
    all_inner_keys,
    copied_inner_keys,
    keys_for,
    keys_on_frames,
    move_inner_keys,
    paste_inner_keys,
    remove_inner_keys,
    set_inner_curves,
    turn_inner_key,
)
from rovix.edit.tree import clip_of
from rovix.errors import RovixError
from rovix.model import Amount, Departure, Move
from rovix.model.move_channels import MOVE_CHANNELS
from rovix.motion import Scene

ROLES = ("entrance", "loop", "exit")


def given(role, *channels, words="Larkmoor kite day", length=1.0, **fields):
    """A project whose title has one move of those channels alone."""
    move = Move(id="m", role=role, length=length, channels=channels, **fields)
    return project_of(title(words, 90, [move]))


def way(value, unit="px", channel="x", **fields):
    return Departure(channel=channel, amount=Amount(value=value, unit=unit), **fields)


def channels(project):
    return clip_of(project, "title").moves[0].channels


def departures(project, frames=None):
    clip = clip_of(project, "title")
    frames = np.arange(0, clip.length, 0.5) if frames is None else frames
    return Scene.of(project).motion(clip).departures_of(0, frames)


def same(one, other):
    return set(one) == set(other) and all(np.allclose(one[name], other[name], atol=1e-9) for name in one)


@pytest.mark.parametrize("role", ROLES)
@pytest.mark.parametrize("channel", [n for n in MOVE_CHANNELS if n not in ("letters", "figures")])
def test_the_keys_that_stand_for_an_amount_do_what_it_does(role, channel):
    row = MOVE_CHANNELS[channel]
    value, unit = row.beating if role == "loop" and row.beating else row.away
    plain = way(value, unit, channel, curve="cubic-out")
    before = given(role, plain, pieces="words", stagger=0.1)
    keys = keys_for(clip_of(before, "title").moves[0], plain)
    keyed = given(role, replace(plain, keys=keys), pieces="words", stagger=0.1)
    assert same(departures(before), departures(keyed))


@pytest.mark.parametrize("role", ROLES)
def test_a_key_on_a_straight_way_changes_nothing_and_taken_away_leaves_the_amount(role):
    plain = way(-1.5, "em", "y", curve="linear")
    before = given(role, plain)
    held = keys_on_frames(before, clip_of(before, "title"), "m", 0)
    frame = round(held.start + held.length / 4)
    keyed = turn_inner_key(before, "title", "m", 0, frame)
    assert same(departures(before), departures(keyed))
    assert len(channels(keyed)[0].keys) == {"loop": 4}.get(role, 3)
    back = turn_inner_key(keyed, "title", "m", 0, frame)
    assert same(departures(before), departures(back))
    if role != "loop":
        assert (channels(back)[0].amount, channels(back)[0].keys) == (plain.amount, ())


def test_a_key_is_counted_as_its_move_counts_and_the_curve_goes_through_it():
    project = given("entrance", way(-1.0, "off-frame", "y"), piece_curve="linear")
    project = add_inner_key(project, "title", "m", 0, 0.5, -0.25)
    whole = departures(project)["y"][:, 0]
    assert whole[15 * 2] == pytest.approx(whole[0] * 0.25)
    assert [key.amount.unit for key in channels(project)[0].keys] == ["off-frame"] * 3


def test_ends_stay_and_keys_do_not_meet():
    project = add_inner_key(given("entrance", way(100.0)), "title", "m", 0, 0.5, 40.0)
    with pytest.raises(RovixError, match="first and the last"):
        remove_inner_keys(project, "title", {("m", 0): [0, 2]})
    with pytest.raises(RovixError, match="one moment"):
        add_inner_key(project, "title", "m", 0, 0.5, 10.0)
    with pytest.raises(RovixError, match="between the start and the end"):
        add_inner_key(project, "title", "m", 0, 1.0, 10.0)
    with pytest.raises(RovixError, match="one moment"):
        move_inner_keys(project, "title", {("m", 0): [1]}, {"m": 0.5})
    later = move_inner_keys(project, "title", {("m", 0): [0, 1, 2]}, {"m": 0.25})
    assert [key.at for key in channels(later)[0].keys] == [0.0, 0.75, 1.0]


def test_smooth_keys_have_one_speed_on_both_sides():
    """The slopes that `numpy.gradient` finds on either side of the key."""
    project = given("entrance", way(100.0), length=2.0)
    for at, value in ((0.3, 80.0), (0.6, 20.0)):
        project = add_inner_key(project, "title", "m", 0, at, value)
    times, jumps = np.linspace(0.55, 0.65, 2001) * 60, []
    for curve in ("linear", "smooth"):
        made = set_inner_curves(project, "title", {("m", 0): range(4)}, curve)
        speed = np.gradient(departures(made, times)["x"][:, 0], times)
        jumps.append(float(np.abs(np.diff(speed)).max()))
    assert jumps[1] < jumps[0] / 20


def test_copied_keys_go_into_a_move_at_a_moment():
    project = given("entrance", way(100.0), way(0.0, channel="opacity"))
    project = add_inner_key(project, "title", "m", 0, 0.4, 30.0)
    project = add_inner_key(project, "title", "m", 1, 0.5, 0.8)
    copied = copied_inner_keys(clip_of(project, "title"), {("m", 0): [1], ("m", 1): [1]})
    assert [(c.channel, c.keys[0].at) for c in copied] == [("x", 0.4), ("opacity", 0.5)]
    made, placed = paste_inner_keys(project, "title", "m", copied, 0.7)
    assert [[round(k.at, 6) for k in departure.keys] for departure in channels(made)] == [
        [0.0, 0.4, 0.7, 1.0],
        [0.0, 0.5, 0.8, 1.0],
    ]
    assert placed == {("m", 0): (2,), ("m", 1): (2,)}
    assert all_inner_keys(clip_of(made, "title")) == {("m", 0): (0, 1, 2, 3), ("m", 1): (0, 1, 2, 3)}
    with pytest.raises(RovixError, match="beyond"):
        paste_inner_keys(project, "title", "m", copied, 0.95)
    with pytest.raises(RovixError, match="none of the channels"):
        paste_inner_keys(given("exit", way(9.0, channel="blur")), "title", "m", copied, 0.5)


def test_figures_count_through_an_inner_key():
    """From 0 to the number in the words; in the middle at a number of one's own."""
    project = given("entrance", way(0.0, "number", "figures"), words="120 kites", piece_curve="linear")
    plain = keys_on_frames(project, clip_of(project, "title"), "m", 0)
    assert [key.value for key in plain.keys.keys] == [0.0, 120.0]
    project = add_inner_key(project, "title", "m", 0, 0.5, 100.0)
    held = keys_on_frames(project, clip_of(project, "title"), "m", 0)
    assert [key.value for key in held.keys.keys] == [0.0, 100.0, 120.0]
    added = departures(project)["figures"][:, 0]
    assert added[[0, 30]] == pytest.approx([-120.0, -20.0])
