"""Groups: several clips as one, and back again."""

from __future__ import annotations

from collections.abc import Iterable
from math import cos, radians, sin
from typing import Any

from rovix.edit.clips import has_room, put_or_above
from rovix.edit.selected_clips import editable
from rovix.edit.tree import clip_by_id, in_order, replace, title_of, unlocked_spot, with_sequence, with_track
from rovix.errors import RovixError
from rovix.model import Clip, GroupClip, Playing, Project, Sequence, Track, Transform, new_id
from rovix.model.clip_kinds import holds_tracks, is_layer
from rovix.model.consistency import followed_by
from rovix.model.fields import ANIMATED
from rovix.model.references import Named, references

_FLAT = ("z", "slant", "rotation_x", "rotation_y")


def group_clips(project: Project, identities: Iterable[str], name: str = "Group") -> tuple[Project, str]:
    """Put clips into a group on the highest track that one of them stands on; and the group's id.

    RovixError where they do not belong together: sounds alone, layers tied to others outside, or
    another clip in the way on that track.
    """
    chosen = editable(project, identities)
    pictures = [number for number, clip in chosen if is_layer(clip)]
    if not pictures:
        raise RovixError("Select at least one layer with a picture to make a group.")
    gone = {clip.id for _, clip in chosen}
    _check_ties(project, gone)
    start = min(clip.start for _, clip in chosen)
    end = max(clip.span.end for _, clip in chosen)
    tracks = _inner_tracks(project, chosen, start)
    group = GroupClip(id=new_id(), name=name, start=start, length=end - start, tracks=tracks)
    left = tuple(
        replace(track, clips=tuple(clip for clip in track.clips if clip.id not in gone))
        for track in project.sequence.tracks
    )
    project = with_sequence(project, replace(project.sequence, tracks=left))
    return put_or_above(project, max(pictures), group, name), group.id


def _check_ties(project: Project, gone: set[str]) -> None:
    for track in project.sequence.tracks:
        for clip in track.clips:
            for named in _ties(clip):
                if (clip.id in gone) != (named.target in gone):
                    other = clip_by_id(project, named.target)
                    raise RovixError(
                        f"'{title_of(clip)}' {named.reference.verb}s "
                        f"'{title_of(other) if other else named.target}'; "
                        "select both of them, or free it first."
                    )


def _inner_tracks(project: Project, chosen: list[tuple[int, Clip]], start: int) -> tuple[Track, ...]:
    made = []
    for number, track in enumerate(project.sequence.tracks):
        clips = tuple(replace(clip, start=clip.start - start) for at, clip in chosen if at == number)
        if clips:
            inner = Track(
                id=new_id(), name=track.name, kind=track.kind, clips=clips, hidden=track.hidden,
                muted=track.muted, home=track.id,
            )  # fmt: skip
            made.append(inner)
    return tuple(made)


def ungroup(project: Project, identity: str) -> tuple[Project, list[str]]:
    """Take a group apart, its clips back on the tracks they came from or on new ones; and their ids.

    The group's own place passes on to its layers. RovixError where the picture would change: keys,
    moves, playing, or a place that they could not take over.
    """
    spot = unlocked_spot(project, identity)
    group = project.sequence.tracks[spot.track].clips[spot.index]
    if not holds_tracks(group):
        raise RovixError(f"'{group.title}' is no group.")
    _check_free(project, group)
    placed = [_outside(group, track) for track in group.tracks]
    track = project.sequence.tracks[spot.track]
    rest = tuple(clip for clip in track.clips if clip.id != identity)
    project = with_track(project, spot.track, replace(track, clips=rest))
    at = spot.track
    for inner, clips in zip(group.tracks, placed, strict=True):
        project, at = _returned(project, inner, clips, at)
    return project, [clip.id for clips in placed for clip in clips]


def _check_free(project: Project, group: GroupClip) -> None:
    name = group.name or "The group"
    if group.playing != Playing() or group.offset or group.length < group.inner_length:
        raise RovixError(f"'{name}' plays only a part of itself, or in another way; put that back first.")
    tied = [clip for track in project.sequence.tracks for clip in track.clips]
    if any(group.id in (clip.id, named.target) for clip in tied for named in _ties(clip)):
        raise RovixError(f"'{name}' is tied to a layer, or one to it; free them first.")
    bare = GroupClip(
        id=group.id, name=group.name, start=group.start, length=group.length, tracks=group.tracks,
        transform=group.transform, extra=group.extra,
    )  # fmt: skip
    if group != bare or any(_keyed(group.transform)):
        raise RovixError(
            f"'{name}' has keys, moves, effects, a transition or a blend of its own; take them off first."
        )


def _ties(clip: Clip) -> list[Named]:
    return references(clip, "layer", inner=False)


def _keyed(place: Transform) -> list[bool]:
    return [isinstance(getattr(place, name), ANIMATED) for name in place.__struct_fields__ if name != "extra"]


def _outside(group: GroupClip, track: Track) -> tuple[Clip, ...]:
    """A group's clips as they stand outside of it."""
    moved = []
    for clip in track.clips:
        outer: Clip = replace(clip, start=clip.start + group.start)
        if is_layer(outer) and not followed_by(outer):
            outer = replace(outer, transform=_passed_on(group, outer.transform))
        moved.append(outer)
    return tuple(moved)


def _passed_on(group: GroupClip, place: Transform) -> Transform:
    own = group.transform
    neutral = Transform(pivot_x=own.pivot_x, pivot_y=own.pivot_y)
    if replace(own, extra={}) == neutral:
        return place
    simple = not any(_keyed(place)) and own.scale_x == own.scale_y and own.opacity == 1
    flat = all(getattr(own, name) == 0 for name in _FLAT) and place.rotation_x == 0 and place.rotation_y == 0
    if not (simple and flat and own.pivot_x == 0.5 and own.pivot_y == 0.5):
        name = group.name or "The group"
        raise RovixError(f"'{name}' has a place that its layers cannot take over; put it back first.")
    return _combined(own, place)


def _combined(own: Any, place: Any) -> Transform:
    """A place inside another that only moves, turns and scales evenly about the frame's centre."""
    cosine, sine = cos(radians(own.rotation_z)), sin(radians(own.rotation_z))
    x, y, size = place.x * own.scale_x, place.y * own.scale_y, own.scale_x
    return replace(
        place,
        x=own.x + x * cosine - y * sine,
        y=own.y + x * sine + y * cosine,
        z=place.z * size,
        rotation_z=place.rotation_z + own.rotation_z,
        scale_x=place.scale_x * size,
        scale_y=place.scale_y * size,
    )


def _returned(project: Project, inner: Track, clips: tuple[Clip, ...], at: int) -> tuple[Project, int]:
    """Put clips back; gives the number of the track they are on, for the next to lie above it."""
    tracks = project.sequence.tracks
    home = next((n for n, track in enumerate(tracks) if track.id == inner.home), None)
    if home is not None and not tracks[home].locked and all(has_room(tracks[home], c) for c in clips):
        full = replace(tracks[home], clips=in_order((*tracks[home].clips, *clips)))
        return with_track(project, home, full), max(at, home)
    above = Track(
        id=new_id(), name=inner.name, kind=inner.kind, clips=clips, hidden=inner.hidden, muted=inner.muted
    )
    place = len(tracks) if inner.kind == "sound" else at + 1
    sequence: Sequence = replace(project.sequence, tracks=(*tracks[:place], above, *tracks[place:]))
    return with_sequence(project, sequence), at if inner.kind == "sound" else place
