"""The files that moves sound with."""

from __future__ import annotations

from collections.abc import Container, Mapping

from rovix.edit.tree import replace
from rovix.model import Move, Strike, Whoosh
from rovix.model.move import OWN_RUSHES, OWN_STRIKES


def files_of(moves: tuple[Move, ...]) -> list[str]:
    """The media ids that moves strike, or that rush with them; one for each use."""
    struck = [move.strike.sound for move in moves if move.strike is not None]
    rushing = [move.whoosh.sound for move in moves if move.whoosh is not None]
    return [s for s in struck if s not in OWN_STRIKES] + [s for s in rushing if s not in OWN_RUSHES]


def with_files(move: Move, names: Mapping[str, str]) -> Move:
    """A move whose files are called as `names` say; others stay."""
    strike, whoosh = move.strike, move.whoosh
    if strike is not None and strike.sound in names:
        move = replace(move, strike=replace(strike, sound=names[strike.sound]))
    if whoosh is not None and whoosh.sound in names:
        move = replace(move, whoosh=replace(whoosh, sound=names[whoosh.sound]))
    return move


def without_files(move: Move, known: Container[str] = ()) -> Move:
    """A move that can go to other projects: files that are not `known` there, by their media ids, give
    way to the sounds that come with Rovix."""
    strike, whoosh = move.strike, move.whoosh
    if strike is not None and strike.sound not in OWN_STRIKES and strike.sound not in known:
        move = replace(move, strike=replace(strike, sound=Strike().sound))
    if whoosh is not None and whoosh.sound not in OWN_RUSHES and whoosh.sound not in known:
        move = replace(move, whoosh=replace(whoosh, sound=Whoosh().sound))
    return move
