"""Which clip of tracks is at a frame or has an id, without asking each: a track may hold thousands."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterator
from operator import attrgetter

from rovix.model.identity import RecentCache
from rovix.model.track import Clip, GroupClip, Track

_start = attrgetter("start")
_named: RecentCache[dict[str, Clip]] = RecentCache(64)


def clip_at(track: Track, frame: float) -> Clip | None:
    """The clip at a frame, whole or between; clips stand in order and do not overlap."""
    at = bisect_right(track.clips, frame, key=_start) - 1
    return track.clips[at] if at >= 0 and frame in track.clips[at].span else None


def clip_named(tracks: tuple[Track, ...], identity: str) -> Clip | None:
    """The clip on these tracks that has an id; not on the tracks within their groups."""
    found = _named.get(tracks, lambda: {clip.id: clip for track in tracks for clip in track.clips})
    return found.get(identity)


def every_clip(tracks: tuple[Track, ...]) -> Iterator[Clip]:
    """All clips of tracks, those within groups right after their group."""
    for track in tracks:
        for clip in track.clips:
            yield clip
            if isinstance(clip, GroupClip):
                yield from every_clip(clip.tracks)
