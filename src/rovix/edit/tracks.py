"""Tracks: hide, mute, lock, name, add, reorder, remove."""

from __future__ import annotations

from typing import Any

from rovix.edit.tree import find_clip, replace, with_sequence, with_track
from rovix.errors import RovixError
from rovix.model import Project, Track, new_id

HEIGHTS = {"picture": 35, "sound": 28}
LOWEST, TALLEST = 20, 240


def track_number(project: Project, identity: str) -> int:
    """The place of a track from below; RovixError when there is none of that id."""
    for number, track in enumerate(project.sequence.tracks):
        if track.id == identity:
            return number
    raise RovixError("That track is not there any more.")


def track_of_clip(project: Project, identity: str | None) -> Track | None:
    """The track that a clip stands on, or None."""
    spot = find_clip(project, identity) if identity is not None else None
    return None if spot is None else project.sequence.tracks[spot.track]


def change_track(project: Project, identity: str, **changes: Any) -> Project:
    """Change fields of a track: name, hidden, muted, solo, locked, height."""
    number = track_number(project, identity)
    return with_track(project, number, replace(project.sequence.tracks[number], **changes))


def add_track(project: Project, kind: str) -> Project:
    """An empty track: pictures above all pictures, sounds below all sounds."""
    tracks = project.sequence.tracks
    count = sum(track.kind == kind for track in tracks) + 1
    name = f"{'Pictures' if kind == 'picture' else 'Sound'} {count}"
    track = Track(id=new_id(), name=name, kind=kind)  # type: ignore[arg-type]
    pictures = [number for number, other in enumerate(tracks) if other.kind == "picture"]
    at = len(tracks) if kind == "sound" else (pictures[-1] + 1 if pictures else 0)
    return with_sequence(project, replace(project.sequence, tracks=(*tracks[:at], track, *tracks[at:])))


def move_track(project: Project, identity: str, way: int) -> Project:
    """Let a track change places with the next one of its kind: 1 towards the viewer, -1 away."""
    tracks = list(project.sequence.tracks)
    here = track_number(project, identity)
    others = [number for number, track in enumerate(tracks) if track.kind == tracks[here].kind]
    at = others.index(here) + way
    if not 0 <= at < len(others):
        return project
    there = others[at]
    tracks[here], tracks[there] = tracks[there], tracks[here]
    return with_sequence(project, replace(project.sequence, tracks=tuple(tracks)))


def remove_track(project: Project, identity: str) -> Project:
    """Take an empty track away; RovixError when it holds clips."""
    number = track_number(project, identity)
    track = project.sequence.tracks[number]
    if track.clips:
        raise RovixError(f"'{track.name}' still holds clips; remove or move them first.")
    tracks = project.sequence.tracks
    return with_sequence(project, replace(project.sequence, tracks=(*tracks[:number], *tracks[number + 1 :])))


def scale_heights(project: Project, factor: float) -> Project:
    """Every track taller or lower by a factor, in the timeline."""
    tracks = tuple(
        replace(track, height=round(min(max(track_height(track) * factor, LOWEST), TALLEST)))
        for track in project.sequence.tracks
    )
    return with_sequence(project, replace(project.sequence, tracks=tracks))


def track_height(track: Track) -> int:
    """px at 100 % that a track has in the timeline."""
    return track.height or HEIGHTS[track.kind]


def place_track(project: Project, identity: str, number: int) -> Project:
    """Move a track to the place of another of its kind, those between moving up."""
    tracks = list(project.sequence.tracks)
    here = track_number(project, identity)
    if not 0 <= number < len(tracks) or tracks[number].kind != tracks[here].kind:
        return project
    tracks.insert(number, tracks.pop(here))
    return with_sequence(project, replace(project.sequence, tracks=tuple(tracks)))


def clip_order(project: Project) -> list[str]:
    """The ids of all clips, by their start, then from the lowest track up."""
    tracks = project.sequence.tracks
    clips = sorted(
        (clip.start, number, clip.id) for number, track in enumerate(tracks) for clip in track.clips
    )
    return [identity for _, _, identity in clips]
