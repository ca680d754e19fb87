"""Finding and replacing in the immutable tree."""

from __future__ import annotations

import itertools
from collections.abc import Callable, Container
from dataclasses import dataclass
from operator import le

import msgspec

from rovix.errors import RovixError
from rovix.model import Clip, Project, Sequence, Track
from rovix.model.on_track import place_on
from rovix.model.references import let_go

replace = msgspec.structs.replace


@dataclass(frozen=True, slots=True)
class Spot:
    """Where a clip stands in the first sequence: the numbers of its track and place there."""

    track: int
    index: int


def find_clip(project: Project, identity: str) -> Spot | None:
    """The spot of the clip with that id, or None."""
    for number, track in enumerate(project.sequence.tracks):
        index = place_on(track, identity)
        if index is not None:
            return Spot(number, index)
    return None


def clip_by_id(project: Project, identity: str | None) -> Clip | None:
    """The clip with that id, or None."""
    spot = find_clip(project, identity) if identity is not None else None
    return None if spot is None else project.sequence.tracks[spot.track].clips[spot.index]


def clip_of(project: Project, identity: str) -> Clip:
    """Like :func:`clip_by_id`, but RovixError when there is none."""
    spot = spot_of(project, identity)
    return project.sequence.tracks[spot.track].clips[spot.index]


def spot_of(project: Project, identity: str) -> Spot:
    """Like :func:`find_clip`, but RovixError when there is none."""
    spot = find_clip(project, identity)
    if spot is None:
        raise RovixError(f"There is no clip '{identity}' any more.")
    return spot


def title_of(clip: Clip) -> str:
    """What to call a clip in a sentence."""
    return clip.title


def unlocked_spot(project: Project, identity: str) -> Spot:
    """Like :func:`spot_of`, for a clip that is to change; RovixError when its track is locked."""
    spot = spot_of(project, identity)
    check_unlocked(project.sequence.tracks[spot.track])
    return spot


def check_unlocked(track: Track) -> None:
    """RovixError when a track is locked."""
    if track.locked:
        raise RovixError(f"'{track.name or 'The track'}' is locked; unlock it first.")


def replace_clip(project: Project, identity: str, change: Callable[[Clip], Clip]) -> Project:
    """The project with one clip changed; the same project when the change gives the same clip.

    The track stays in order of starts; RovixError when the clip would overlap another, or its track
    is locked.
    """
    unlocked_spot(project, identity)
    return with_clip(project, identity, change)


def with_clip(project: Project, identity: str, change: Callable[[Clip], Clip]) -> Project:
    """Like :func:`replace_clip`, locked or not: for what is only shown."""
    spot = spot_of(project, identity)
    track = project.sequence.tracks[spot.track]
    old = track.clips[spot.index]
    new = change(old)
    if new == old:
        return project
    clips = (*track.clips[: spot.index], new, *track.clips[spot.index + 1 :])
    return with_track(project, spot.track, replace(track, clips=in_order(clips)))


def in_order(clips: tuple[Clip, ...]) -> tuple[Clip, ...]:
    """Clips by their start; RovixError where two overlap."""
    if all(map(le, [clip.end for clip in clips], [clip.start for clip in clips[1:]])):
        return clips
    ordered = tuple(sorted(clips, key=lambda clip: clip.start))
    for before, clip in itertools.pairwise(ordered):
        if clip.start < before.end:
            raise RovixError(f"There is no room: '{clip.title}' would lie over the clip before it.")
    return ordered


def with_track(project: Project, number: int, track: Track) -> Project:
    """The project with one track of the first sequence replaced."""
    sequence = project.sequence
    tracks = (*sequence.tracks[:number], track, *sequence.tracks[number + 1 :])
    return with_sequence(project, replace(sequence, tracks=tracks))


def without_layers(tracks: tuple[Track, ...], gone: Container[str]) -> tuple[Track, ...]:
    """Tracks on which nothing names layers that are gone any more."""
    freed: tuple[Track, ...] = let_go(tracks, lambda to, target: to.kind == "layer" and target in gone)
    return freed


def with_sequence(project: Project, sequence: Sequence) -> Project:
    """The project with its first sequence replaced."""
    return replace(project, sequences=(sequence, *project.sequences[1:]))


def free_span(track: Track, without: str, start: int) -> tuple[int, int | None]:
    """The gap around frame `start` that one clip of a track may use: its first frame and its end
    (None: open)."""
    others = [clip for clip in track.clips if clip.id != without]
    low = max((clip.span.end for clip in others if clip.start <= start), default=0)
    high = min((clip.start for clip in others if clip.start > start), default=None)
    return low, high
