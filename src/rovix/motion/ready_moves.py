"""The moves that come with Rovix. Numbers are our defaults; every one can be edited."""

from __future__ import annotations

from collections.abc import Callable

import msgspec

from rovix.model import Amount, Departure, InnerKey, Move, Pace, new_id
from rovix.motion.ready_entrances import ready_entrances
from rovix.motion.ready_exits import ready_exits
from rovix.motion.ready_loops import ready_loops
from rovix.motion.ready_typing import taken_back, typed_entrances
from rovix.motion.reversal import reversed_move


def pop(role: str = "entrance") -> Move:
    """From 40 %, 7 % over at 0.55 of the way, smoothly to rest."""
    swell = (
        InnerKey(at=0.0, amount=Amount(value=0.4), curve="quad-out"),
        InnerKey(at=0.55, amount=Amount(value=1.07), curve="sine-in-out"),
        InnerKey(at=1.0, amount=Amount(value=1.0)),
    )
    move = Move(
        name="Pop",
        role="entrance",
        length=0.24,
        before="hidden",
        channels=(Departure(channel="scale", keys=swell),),
    )
    return _for_role(move, role)


def rise_and_fade(role: str = "entrance") -> Move:
    """Up from below into place; as an exit it fades where it is."""
    fade = Departure(channel="opacity", amount=Amount(value=0.0), curve="sine-in-out")
    rise = Departure(channel="y", amount=Amount(value=1.1, unit="em"), curve="quint-out")
    if role == "exit":
        return Move(
            name="Rise and fade", role="exit", length=0.6, piece_curve="sine-in-out", channels=(fade,)
        )
    return Move(
        name="Rise and fade", role="entrance", length=0.6, piece_curve="quint-out", channels=(rise, fade)
    )


def wave(role: str = "entrance") -> Move:
    """Letters swell from nothing with a turn and a fade, many in motion at once."""
    move = Move(
        name="Wave",
        role="entrance",
        length=1.0,
        pieces="letters",
        at_once=6.0,
        piece_curve="back-out",
        channels=(
            Departure(channel="scale", amount=Amount(value=0.0)),
            Departure(channel="rotation_z", amount=Amount(value=-50.0), curve="cubic-out"),
            Departure(channel="opacity", amount=Amount(value=0.0), curve="quad-out"),
        ),
    )
    return _for_role(move, role)


def word_slides(role: str = "entrance") -> Move:
    """Word after word in from the right edge; out over the left."""
    away = Amount(value=1.0, unit="off-frame")
    move = Move(
        name="Word slides",
        role="entrance",
        length=0.9,
        pieces="words",
        at_once=2.0,
        piece_curve="quart-out",
        channels=(Departure(channel="x", amount=away),),
    )
    if role == "entrance":
        return move
    left = Departure(channel="x", amount=Amount(value=-1.0, unit="off-frame"))
    return msgspec.structs.replace(
        move, id=new_id(), role="exit", order="reading", piece_curve="quart-in", channels=(left,)
    )


def ready_moves(role: str) -> list[Move]:
    """The moves that come with Rovix for a role: entrance, loop or exit."""
    if role == "loop":
        return ready_loops()
    entering = role == "entrance"
    others = [*ready_entrances(), *typed_entrances()] if entering else [*ready_exits(), *taken_back()]
    return [_paced(move) for move in (*(make(role) for make in READY_MOVES.values()), *others)]


_LAST = {"lines": 1, "words": 2, "letters": 8}
"""The last rank of usual words: those for which a move by pace takes as long as its length says."""


def _paced(move: Move) -> Move:
    """A move piece by piece at the pace that its length is for usual words; longer ones then take longer."""
    last = _LAST.get(move.pieces)
    if last is None:
        return move
    if move.typing is not None:
        pace = Pace(a_second=round(last / move.length, 2))
    elif move.stagger is not None:
        pace = Pace(piece=max(0.0, move.length - move.stagger * last), stagger=move.stagger)
    else:
        stagger = move.length / (last + move.at_once)
        pace = Pace(piece=round(move.at_once * stagger, 3), stagger=round(stagger, 3))
    return msgspec.structs.replace(move, pace=pace)


READY_MOVES: dict[str, Callable[[str], Move]] = {
    "Pop": pop,
    "Rise and fade": rise_and_fade,
    "Wave": wave,
    "Word slides": word_slides,
}


def _for_role(move: Move, role: str) -> Move:
    return move if role == "entrance" else reversed_move(move)
