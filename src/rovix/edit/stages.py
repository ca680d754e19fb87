"""Stages: moves that come after another of their role, or after a wait, and when each begins."""

from __future__ import annotations

from rovix.edit.moves import change_move, moves_of
from rovix.edit.tree import clip_of
from rovix.errors import RovixError
from rovix.model import Move, PictureClip, Project
from rovix.model.clip_kinds import is_layer
from rovix.motion.pace import clip_spans
from rovix.motion.spans import MoveSpans
from rovix.time import Rate


def staged(clip: PictureClip) -> tuple[Move, ...]:
    """The moves of a layer that do not begin at its start, or end at its end."""
    return tuple(
        move
        for move in clip.moves
        if not move.beats_on and (move.wait > 0 or (move.after and moves_of(clip, move.role)[0] is not move))
    )


def stage_edge(clip: PictureClip, move: Move, spans: MoveSpans, rate: Rate) -> int:
    """The frame of the clip on which an entrance begins, or an exit ends."""
    start = spans.start(move, rate)
    return start + spans.frames(move, rate) if move.leaves else start


def set_stage(project: Project, identity: str, which: str, frame: int) -> Project:
    """Let an entrance begin, or an exit end, on a frame of the clip; what comes after it keeps its distance.

    One that follows another begins no sooner than that ends: the wait between them is what changes.
    RovixError for a loop, or a move that is gone.
    """
    clip = clip_of(project, identity)
    rate = project.sequence.frame_rate
    move = next((m for m in (clip.moves if is_layer(clip) else ()) if m.id == which), None)
    if move is None or move.beats_on or not is_layer(clip):
        raise RovixError(f"'{clip.title}' has no such entrance or exit.")
    spans = clip_spans(clip, rate)
    if move.enters:
        return _wait(project, clip, move, frame - _end_before(clip, move, spans, rate), rate)
    following = _following(clip, move)
    if following is not None and following.after:
        # An exit that another comes after ends as long before it as that one waits.
        return _wait(project, clip, following, spans.start(following, rate) - frame, rate)
    return _wait(project, clip, move, clip.length - 1 - frame, rate)


def _wait(project: Project, clip: PictureClip, move: Move, frames: int, rate: Rate) -> Project:
    return change_move(project, clip.id, move.id, wait=float(rate.seconds(max(0, frames))))


def _end_before(clip: PictureClip, move: Move, spans: MoveSpans, rate: Rate) -> int:
    """The frame from which an entrance waits: the clip's first, or the end of the one before."""
    own = moves_of(clip, move.role)
    at = own.index(move)
    return spans.start(own[at - 1], rate) + spans.frames(own[at - 1], rate) if move.after and at else 0


def _following(clip: PictureClip, move: Move) -> Move | None:
    own = moves_of(clip, move.role)
    at = own.index(move) + 1
    return own[at] if at < len(own) else None
