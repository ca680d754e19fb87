"""What is painted of a track: its clips, but those too narrow to be told apart as bars of one colour."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterator
from dataclasses import dataclass

from rovix.desktop.clip_views import clip_role
from rovix.model import Clip
from rovix.model.identity import RecentCache

NARROW = 4.0
"""Px of width below which a clip is one of a crowd."""
_GAP = 1.0  # px between two that still look like one


@dataclass(frozen=True, slots=True)
class Crowd:
    """Narrow clips next to each other that look alike, from frame `start` to before `end`."""

    start: int
    end: int
    role: str


_kept: RecentCache[tuple[Clip | Crowd, ...]] = RecentCache(128)


def shown_of(clips: tuple[Clip, ...], px: float, first: float, last: float) -> Iterator[Clip | Crowd]:
    """What is painted from one frame to another where a frame is `px` wide: thousands of clips are bars."""
    laid = _kept.get(clips, lambda: tuple(_laid(clips, px)), px)
    for place in range(_first(laid, first), len(laid)):
        if laid[place].start > last:
            return
        yield laid[place]


def _first(laid: tuple[Clip | Crowd, ...], frame: float) -> int:
    return max(0, bisect_left(laid, frame, key=lambda one: one.start) - 1)


def _laid(clips: tuple[Clip, ...], px: float) -> Iterator[Clip | Crowd]:
    crowd: Crowd | None = None
    for clip in clips:
        if clip.length * px >= NARROW:
            if crowd is not None:
                yield crowd
            crowd = None
            yield clip
            continue
        role = clip_role(clip)
        if crowd is not None and crowd.role == role and (clip.start - crowd.end) * px <= _GAP:
            crowd = Crowd(crowd.start, clip.end, role)
        else:
            if crowd is not None:
                yield crowd
            crowd = Crowd(clip.start, clip.end, role)
    if crowd is not None:
        yield crowd
