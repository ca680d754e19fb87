"""Joins: where on a track one clip gives way to the next, and how far it has."""

from __future__ import annotations

from bisect import bisect_right
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from rovix.curve import easing
from rovix.model import PictureClip, Track, Transition
from rovix.model.clip_kinds import is_layer
from rovix.model.identity import IdentityCache
from rovix.time import Rate, Span


@dataclass(frozen=True, slots=True, eq=False)
class Joined:
    """Two clips that touch; over the frames of `span` the one before gives way to the one after."""

    before: PictureClip
    after: PictureClip
    transition: Transition
    span: Span

    def share(self, frame: float) -> float:
        """How far the one after has come at a frame: 0 to 1, by the middle of the frame."""
        way = (frame - self.span.start + 0.5) / self.span.length
        eased = easing(self.transition.curve)(np.array([min(max(way, 0.0), 1.0)]))
        return float(np.clip(eased[0], 0.0, 1.0))


_transitions: IdentityCache[tuple[Joined, ...]] = IdentityCache()


def transitions_of(track: Track, rate: Rate) -> tuple[Joined, ...]:
    """The joins of a track's clips that touch, in order.

    Half of a join's frames lie before the cut, at most half of each clip, so none meets the next.
    """
    return _transitions.get(track, lambda: tuple(_found(track, rate)), rate)


def joined_at(track: Track, rate: Rate, frame: float) -> Joined | None:
    """The join that goes on at a frame of a track, or None."""
    transitions = transitions_of(track, rate)
    at = bisect_right(transitions, frame, key=lambda joined: joined.span.start) - 1
    return transitions[at] if at >= 0 and frame in transitions[at].span else None


def _found(track: Track, rate: Rate) -> list[Joined]:
    found = []
    for before, after in pairwise(track.clips):
        # Asked first, as hardly any has one.
        if getattr(after, "transition", None) is None or not is_layer(before) or not is_layer(after):
            continue
        assert after.transition is not None
        length = rate.length(after.transition.length)
        lead = min(length // 2, before.length // 2)
        trail = min(length - length // 2, after.length // 2)
        if before.span.end == after.start and lead + trail:
            span = Span(after.start - lead, after.start + trail)
            found.append(Joined(before, after, after.transition, span))
    return found
