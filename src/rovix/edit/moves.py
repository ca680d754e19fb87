"""The moves on a layer: take one on, change it, set its length."""

from __future__ import annotations

from typing import Any

from rovix.edit.tree import replace, replace_clip
from rovix.errors import RovixError
from rovix.model import Clip, Move, Project, SoundClip, new_id


def move_of(clip: Clip | None, role: str) -> Move | None:
    """The layer's move of a role: of several the last, which the shelf shows."""
    moves = getattr(clip, "moves", ())
    return next((move for move in reversed(moves) if move.role == role), None)


def take_on(project: Project, identity: str, role: str, move: Move | None) -> Project:
    """Give a layer a move in place of those it has of that role; None takes them away."""

    def change(clip: Clip) -> Clip:
        if isinstance(clip, SoundClip):
            raise RovixError("A sound has no picture to move.")
        others = tuple(other for other in clip.moves if other.role != role)
        return replace(clip, moves=others if move is None else (*others, move))

    return replace_clip(project, identity, change)


def set_moves(project: Project, identity: str, moves: tuple[Move, ...]) -> Project:
    """Give a layer these moves in place of all its own, each with an id of its own."""

    def change(clip: Clip) -> Clip:
        if isinstance(clip, SoundClip):
            raise RovixError("A sound has no picture to move.")
        return replace(clip, moves=tuple(replace(move, id=new_id()) for move in moves))

    return replace_clip(project, identity, change)


def change_move(project: Project, identity: str, role: str, **changes: Any) -> Project:
    """Change fields of the layer's move of a role."""

    def change(clip: Clip) -> Clip:
        old = move_of(clip, role)
        if old is None:
            raise RovixError(f"'{clip.name or clip.id}' has no {role} to change.")
        new = replace(old, **changes)
        moves = tuple(new if move is old else move for move in clip.moves)  # type: ignore[union-attr]
        return replace(clip, moves=moves)

    return replace_clip(project, identity, change)


def set_move_length(project: Project, identity: str, role: str, frames: int) -> Project:
    """Set a move's length in whole frames; it leaves the other role its length and one frame of rest.

    Of a loop it is one beat, at least one frame.
    """
    rate = project.sequence.frame_rate
    other = {"entrance": "exit", "exit": "entrance"}.get(role)

    def longest(clip: Clip) -> int:
        return max((rate.length(m.length) for m in getattr(clip, "moves", ()) if m.role == other), default=0)

    def change(clip: Clip) -> Clip:
        old = move_of(clip, role)
        if old is None:
            raise RovixError(f"'{clip.name or clip.id}' has no {role} to change.")
        kept = max(int(role == "loop"), min(frames, clip.length - 1 - longest(clip)))
        new = replace(old, length=float(rate.seconds(kept)))
        moves = tuple(new if move is old else move for move in clip.moves)  # type: ignore[union-attr]
        return replace(clip, moves=moves)

    return replace_clip(project, identity, change)
