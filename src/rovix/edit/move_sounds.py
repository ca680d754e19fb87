"""The files that moves sound with."""

from __future__ import annotations

from collections.abc import Container

from rovix.model import Move
from rovix.model.references import let_go


def without_files(move: Move, known: Container[str] = ()) -> Move:
    """A move that can go to other projects: files that are not `known` there, by their media ids, give
    way to the sounds that come with Rovix."""
    kept: Move = let_go(move, lambda to, target: to.kind == "media" and target not in known)
    return kept
