"""The moves on a layer: take one on, stack another, change it, set its length."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from functools import partial
from typing import Any

from rovix.edit.tree import clip_of, replace, replace_clip
from rovix.errors import RovixError
from rovix.model import Clip, Move, Pace, PictureClip, Project, new_id
from rovix.model.clip_kinds import has_words, is_layer
from rovix.model.roles import ROLES
from rovix.motion.pace import asked_seconds, clip_spans
from rovix.motion.reversal import reversed_move
from rovix.time import Rate


def move_of(clip: Clip | None, which: str) -> Move | None:
    """The layer's move of an id, or of a role: of several the last."""
    moves = getattr(clip, "moves", ())
    return next((move for move in reversed(moves) if which in (move.id, move.role)), None)


def moves_of(clip: Clip | None, role: str) -> list[Move]:
    """The layer's moves of a role in their order."""
    return [move for move in getattr(clip, "moves", ()) if move.role == role]


def apply_move(project: Project, identity: str, role: str, move: Move | None) -> Project:
    """Give a layer a move in place of those it has of that role; None takes them away."""

    def change(clip: Clip) -> Clip:
        if not is_layer(clip):
            raise RovixError("A sound has no picture to move.")
        others = tuple(other for other in clip.moves if other.role != role)
        if move is None:
            return replace(clip, moves=others)
        return replace(clip, moves=(*others, move), **_wanted(clip, move))

    return replace_clip(project, identity, change)


def stack_move(project: Project, identity: str, move: Move) -> Project:
    """Give a layer one more move on top of those it has."""

    def change(clip: Clip) -> Clip:
        if not is_layer(clip):
            raise RovixError("A sound has no picture to move.")
        return replace(clip, moves=(*clip.moves, move), **_wanted(clip, move))

    return replace_clip(project, identity, change)


def drop_move(project: Project, identity: str, move: str) -> Project:
    """Take one move off a layer."""

    def change(clip: Clip) -> Clip:
        kept = tuple(own for own in getattr(clip, "moves", ()) if own.id != move)
        return replace(clip, moves=kept)

    return replace_clip(project, identity, change)


def _wanted(clip: Clip, move: Move) -> dict[str, Any]:
    """What a move needs of the words: figures that count stand in places of one width."""
    counts = any(departure.channel == "figures" for departure in move.channels)
    if not counts or not has_words(clip) or clip.text.fixed_figures:
        return {}
    return {"text": replace(clip.text, fixed_figures=True)}


def set_moves(project: Project, identity: str, moves: tuple[Move, ...]) -> Project:
    """Give a layer these moves in place of all its own, each with an id of its own."""

    def change(clip: Clip) -> Clip:
        if not is_layer(clip):
            raise RovixError("A sound has no picture to move.")
        return replace(clip, moves=tuple(replace(move, id=new_id()) for move in moves))

    return replace_clip(project, identity, change)


def change_move(project: Project, identity: str, which: str, **changes: Any) -> Project:
    """Change fields of the layer's move of an id, or of a role."""

    def change(clip: Clip) -> Clip:
        old = _found(clip, which)
        new = replace(old, **changes)
        moves = tuple(new if move is old else move for move in clip.moves)  # type: ignore[union-attr]
        return replace(clip, moves=moves)

    return replace_clip(project, identity, change)


def stagger_entrances(project: Project, identities: Iterable[str], frames: int) -> Project:
    """Let the entrances of each layer start so many frames later than those of the one before it in time;
    the layers stay where they are. Below 0 the last is the first to enter."""
    clips = [clip for identity in identities if is_layer(clip := clip_of(project, identity))]
    order = sorted(clips, key=lambda clip: clip.start, reverse=frames < 0)
    for number, clip in enumerate(order):
        later = float(project.sequence.frame_rate.seconds(abs(frames) * number))
        project = replace_clip(project, clip.id, partial(_later, seconds=later))
    return project


def _later(clip: Clip, seconds: float) -> Clip:
    """A layer whose entrances wait longer; those that come after another move with it."""
    first = True
    moves = []
    for move in getattr(clip, "moves", ()):
        waits = move.enters and (first or not move.after)
        first = first and not move.enters
        moves.append(replace(move, wait=min(3600.0, move.wait + seconds)) if waits else move)
    return replace(clip, moves=tuple(moves))


def put_move_back(project: Project, identity: str, which: str, card: Move) -> Project:
    """Give a layer's move all that a card has; only its id stays."""

    def change(clip: Clip) -> Clip:
        old = _found(clip, which)
        new = replace(card, id=old.id)
        moves = tuple(new if move is old else move for move in clip.moves)  # type: ignore[union-attr]
        return replace(clip, moves=moves, **_wanted(clip, card))

    return replace_clip(project, identity, change)


def _found(clip: Clip, which: str) -> Move:
    """The move of an id or of a role; RovixError where there is none."""
    move = move_of(clip, which)
    if move is None:
        known = which if which in ROLES else "such move"
        raise RovixError(f"'{clip.title}' has no {known} to change.")
    return move


def set_move_length(project: Project, identity: str, which: str, frames: int) -> Project:
    """Set a length in whole frames: of the move of an id, or of all of a role together, as the longest of
    them is to be; the others keep their share of it.

    It leaves the other role its length and one frame of rest. Of a loop it is one beat, at least one
    frame.
    """
    rate = project.sequence.frame_rate

    def change(clip: Clip) -> Clip:
        found = _found(clip, which)
        assert is_layer(clip)
        spans = clip_spans(clip, rate)
        other = {"start": spans.asked_exit, "end": spans.asked_entrance, "between": 0}[ROLES[found.role].side]
        kept = max(int(found.beats_on), min(frames, clip.length - 1 - other))
        meant = [found] if which == found.id else moves_of(clip, found.role)
        share = _share_of(clip, meant, float(rate.seconds(kept)), rate)
        moves = tuple(share(move) if move in meant else move for move in clip.moves)
        return replace(clip, moves=moves)

    return replace_clip(project, identity, change)


def _share_of(clip: PictureClip, meant: list[Move], length: float, rate: Rate) -> Callable[[Move], Move]:
    """What gives each of these moves its share of a new length, in seconds, of them all together."""
    own = {move.id: asked_seconds(clip, move, rate) for move in meant}
    staged = len(meant) > 1 and any(move.wait or move.after for move in meant)
    spans = clip_spans(clip, rate)
    side = spans.asked_entrance if meant[0].enters else spans.asked_exit
    most = float(rate.seconds(side)) if staged else max(own.values())

    def of(move: Move) -> Move:
        share = own[move.id] / most if most and own[move.id] < most else 1.0
        wait = move.wait * length / most if staged and most else move.wait
        if move.pace is not None and not move.beats_on:
            return replace(move, wait=wait, pace=_other_pace(move.pace, own[move.id], length * share))
        return replace(move, wait=wait, length=length * share)

    return of


def _other_pace(pace: Pace, before: float, after: float) -> Pace:
    """A pace by which the same words take other seconds."""
    share = max(after, 1e-3) / max(before, 1e-3)
    return replace(
        pace, piece=min(3600.0, pace.piece * share), stagger=min(3600.0, pace.stagger * share),
        a_second=min(1000.0, max(0.01, pace.a_second / share)),
    )  # fmt: skip


def reverse_entrances(project: Project, identity: str) -> Project:
    """Give a layer its entrances backwards for exits, in place of those it has."""

    def change(clip: Clip) -> Clip:
        entrances = moves_of(clip, "entrance")
        if not entrances:
            raise RovixError(f"'{clip.title}' has no entrance to turn about.")
        others = tuple(move for move in clip.moves if not move.leaves)  # type: ignore[union-attr]
        return replace(clip, moves=(*others, *map(reversed_move, entrances)))

    return replace_clip(project, identity, change)
