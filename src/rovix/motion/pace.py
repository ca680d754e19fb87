"""Moves by pace: how long they are follows from the words."""

from __future__ import annotations

from math import ceil

import numpy as np

from rovix.model import Move, PictureClip
from rovix.model.clip_kinds import has_words
from rovix.model.identity import IdentityCache
from rovix.motion.at_frame import layer_at
from rovix.motion.order import BY_PLACE, move_ranks
from rovix.motion.spans import MoveSpans, move_spans
from rovix.motion.stagger import given_starts
from rovix.motion.subject import Subject, subject_of
from rovix.motion.typing import gaps_of
from rovix.time import Rate

_ROUNDING = 1e-6
_spans: IdentityCache[MoveSpans] = IdentityCache(most=8 << 20)


def clip_spans(clip: PictureClip, rate: Rate) -> MoveSpans:
    """The spans of a layer's moves; those by pace as long as its words ask for."""
    if all(move.pace is None for move in clip.moves):
        return move_spans(clip.moves, clip.length, rate)
    # Asked for at each painting of the timeline; of uneven typing all gaps are drawn for it.
    return _spans.get(clip, lambda: _paced_spans(clip, rate), rate)


def _paced_spans(clip: PictureClip, rate: Rate) -> MoveSpans:
    asked = {move.id: asked_frames(clip, move, rate) for move in clip.moves if move.pace is not None}
    return move_spans(clip.moves, clip.length, rate, asked)


def asked_frames(clip: PictureClip, move: Move, rate: Rate) -> int:
    """The frames that a move of a layer asks for, whether the clip has them or not."""
    seconds = asked_seconds(clip, move, rate)
    if move.pace is None or move.beats_on:
        return rate.length(seconds)
    # Times are exact, so that the last piece may land between two frames, and is at rest on the next.
    return ceil(float(rate.position(seconds)) - _ROUNDING)


def asked_seconds(clip: PictureClip, move: Move, rate: Rate) -> float:
    """The same, not rounded to frames."""
    if move.pace is None or move.beats_on:
        return move.length
    # What is no words is one piece, whatever its size.
    return paced_seconds(move, subject_of(layer_at(clip, 0.0), (16, 16)) if has_words(clip) else None, rate)


def paced_seconds(move: Move, subject: Subject | None, rate: Rate) -> float:
    """How long a paced move is on a subject, None being one piece, not rounded to frames.

    With K the last rank: K x stagger + piece. Typing takes K / pieces a second, the sum of the drawn gaps
    as frames, or of the tapped ones.
    """
    pace = move.pace
    assert pace is not None
    last = last_rank(move, subject)
    if move.starts:
        return float(given_starts(move, last)[-1]) + (pace.piece if move.typing is None else 0.0)
    if move.typing is None:
        return last * pace.stagger + pace.piece
    gaps, in_frames = gaps_of(move, subject) if subject is not None else (np.zeros(0), True)
    if not len(gaps):
        return last / pace.a_second
    return float(gaps.sum()) / (float(rate.fraction) if in_frames else 1.0)


def last_rank(move: Move, subject: Subject | None) -> int:
    """The rank of the piece that sets off last; 0 where there is one alone."""
    if subject is None:
        return 0
    count = subject.owners(move.pieces)[1]
    ranks = move_ranks(move, count, subject.places(move) if move.order in BY_PLACE else None)
    return int(ranks.max(initial=0))
