"""What Rovix gives by itself has numbers of its own: none of the values that tests check formulas with."""

from __future__ import annotations

import pytest

from rovix.curve import Spring
from rovix.edit.selected_clips import STAGGERED
from rovix.model import Echoes, Move
from rovix.model.effects import EFFECTS
from rovix.motion.ready_moves import ready_moves

READY = [move for role in ("entrance", "loop", "exit") for move in ready_moves(role)]
FIGURES = {
    # Common practice, no source; tests alone take them.
    "counter turn": {20.0, -20.0, 31.24, -31.24, 89.84, -89.84, 25.5, -25.5, 34.27, -34.27},
    "slant": {18.92, 0.6594, 0.9099, 15.81, 0.7645, 0.9156},
    "echoes": {0.75, 0.5625, 0.4219, 0.3164},
    "depth": {-350.0, -75.0},
}


def amounts(move: Move):
    for departure in move.channels:
        yield departure.channel, departure.amount.value
        yield from ((departure.channel, key.amount.value) for key in departure.keys)


def phases(move: Move):
    return [
        tuple(round(key.at, 4) for key in departure.keys) for departure in move.channels if departure.keys
    ]


@pytest.mark.parametrize("move", READY, ids=lambda move: f"{move.role} {move.name}")
def test_a_ready_move_has_none_of_the_check_values(move):
    turned = {value for channel, value in amounts(move) if channel.startswith(("rotation", "slant"))}
    assert not turned & FIGURES["counter turn"]
    assert not {value for _, value in amounts(move)} & (FIGURES["slant"] | FIGURES["depth"])
    assert not {value for channel, value in amounts(move) if channel == "echo"} & FIGURES["echoes"]
    assert not any("echo" in channel for channel, _ in amounts(move)) or move.channels[-1].echoes.copies != 4


@pytest.mark.parametrize("move", READY, ids=lambda move: f"{move.role} {move.name}")
def test_inner_keys_are_not_a_plain_third_apart(move):
    assert (0.0, 0.3333, 0.6667, 1.0) not in phases(move)
    assert (0.0, 0.6667, 1.0) not in phases(move)
    assert (0.0, 0.25, 1.0) not in [p for p in phases(move) if move.role != "loop"]


def test_lengths_and_defaults_are_our_own():
    lengths = {move.name: move.length for move in READY if move.role == "entrance"}
    # A pop of 10 frames at 50 fps, a gather of 36 frames at 24 fps.
    assert lengths["Pop"] != 0.2
    assert lengths["Gather"] != 1.5
    assert Spring()[:3] not in {(1.0, 170.0, 26.0), (1.0, 100.0, 10.0)}
    # Letters stand a few frames apart, masks have a key every three or four.
    assert STAGGERED not in (2, 3)
    trail = EFFECTS["echo-trail"]
    assert trail(id="e").strength not in FIGURES["echoes"]
    assert Echoes().gap != pytest.approx(1 / 30)
