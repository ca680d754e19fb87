"""Which clip of tracks is at a frame or has an id, without asking each: a track may hold thousands."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterator
from operator import attrgetter

from rovix.model.identity import RecentCache
from rovix.model.track import Clip, GroupClip, Track

_start = attrgetter("start")
_FEW = 8
_places: RecentCache[dict[str, int]] = RecentCache(256)
_edges: RecentCache[tuple[int, ...]] = RecentCache(256)


def clip_at(track: Track, frame: float) -> Clip | None:
    """The clip at a frame, whole or between; clips stand in order and do not overlap."""
    at = bisect_right(track.clips, frame, key=_start) - 1
    return track.clips[at] if at >= 0 and frame in track.clips[at].span else None


def place_on(track: Track, identity: str) -> int | None:
    """The number among a track's clips of the one that has an id; the first, were there two."""
    clips = track.clips
    if len(clips) <= _FEW:
        return next((place for place, clip in enumerate(clips) if clip.id == identity), None)
    # Of many tracks an edit changes one: the others' are kept.
    places = _places.get(clips, lambda: {clips[at].id: at for at in range(len(clips) - 1, -1, -1)})
    return places.get(identity)


def edges_on(track: Track) -> tuple[int, ...]:
    """The frames at which clips of a track begin or end, in order."""
    clips = track.clips
    return _edges.get(
        clips, lambda: tuple(sorted({edge for clip in clips for edge in (clip.start, clip.end)}))
    )


def clip_named(tracks: tuple[Track, ...], identity: str) -> Clip | None:
    """The clip on these tracks that has an id; not on the tracks within their groups."""
    for track in tracks:
        place = place_on(track, identity)
        if place is not None:
            return track.clips[place]
    return None


def every_clip(tracks: tuple[Track, ...]) -> Iterator[Clip]:
    """All clips of tracks, those within groups right after their group."""
    for track in tracks:
        for clip in track.clips:
            yield clip
            if isinstance(clip, GroupClip):
                yield from every_clip(clip.tracks)
