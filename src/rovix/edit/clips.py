"""Clips on their tracks: put, move, trim, split, take away. Frames are whole, never below 0."""

from __future__ import annotations

from typing import Any

import msgspec

from rovix.edit.tree import free_span, in_order, replace, spot_of, with_sequence, with_track
from rovix.edit.tree import replace_clip as _replaced
from rovix.errors import RovixError
from rovix.model import Clip, FootageClip, Node, Project, SoundClip, TextClip, Track, new_id


def add_text(project: Project, start: int, length: int, clip: TextClip) -> Project:
    """Put a text layer at a frame: on the highest picture track with words that has room, else on a
    new track above all."""
    clip = replace(clip, start=start, length=length)
    tracks = project.sequence.tracks
    for number in range(len(tracks) - 1, -1, -1):
        track = tracks[number]
        usable = track.kind == "picture" and not track.locked and not track.hidden
        if usable and all(isinstance(other, TextClip) for other in track.clips) and has_room(track, clip):
            return with_track(project, number, replace(track, clips=in_order((*track.clips, clip))))
    return _on_new_track(project, clip)


def has_room(track: Track, clip: Clip) -> bool:
    """Whether a clip, where it stands, overlaps none of a track's clips."""
    return not any(other.span.overlaps(clip.span) for other in track.clips)


def _on_new_track(project: Project, clip: Clip) -> Project:
    sequence = project.sequence
    pictures = sum(track.kind == "picture" for track in sequence.tracks)
    words = sum(track.name.startswith("Words") for track in sequence.tracks) + 1
    track = Track(id=new_id(), name=f"Words {words}", clips=(clip,))
    above = [index for index, other in enumerate(sequence.tracks) if other.kind == "picture"]
    place = above[-1] + 1 if pictures else 0
    return with_sequence(
        project, replace(sequence, tracks=(*sequence.tracks[:place], track, *sequence.tracks[place:]))
    )


def move_clip(project: Project, identity: str, start: int, track: int | None = None) -> Project:
    """Move a clip to start at a frame, as near as the free space lets it, on its or another track.

    A track of the other kind, or a locked one, is refused with RovixError.
    """
    spot = spot_of(project, identity)
    clip = project.sequence.tracks[spot.track].clips[spot.index]
    number = spot.track if track is None else track
    target = project.sequence.tracks[number]
    _check_track(target, clip)
    moved = replace(clip, start=_nearest_room(target, clip, max(0, start)))
    if number == spot.track:
        return _replaced(project, identity, lambda _: moved)
    project = remove_clip(project, identity)
    return with_track(project, number, replace(target, clips=in_order((*target.clips, moved))))


def nudge_clip(project: Project, identity: str, frames: int) -> Project:
    """Move a clip by frames, as far as there is room."""
    spot = spot_of(project, identity)
    clip = project.sequence.tracks[spot.track].clips[spot.index]
    return move_clip(project, identity, clip.start + frames)


def trim_start(project: Project, identity: str, start: int) -> Project:
    """Let a clip start at another frame while its end stays; its media keeps its place in time."""
    spot = spot_of(project, identity)
    track = project.sequence.tracks[spot.track]
    clip = track.clips[spot.index]
    low, _ = free_span(track, identity, clip.start)
    if isinstance(clip, FootageClip | SoundClip):
        low = max(low, clip.start - clip.offset)
    start = min(max(start, low), clip.span.end - 1)
    changes: dict[str, Any] = {"start": start, "length": clip.span.end - start}
    if isinstance(clip, FootageClip | SoundClip):
        changes["offset"] = clip.offset + start - clip.start
    return _replaced(project, identity, lambda _: replace(clip, **changes))


def trim_end(project: Project, identity: str, end: int) -> Project:
    """Let a clip end before another frame (not included); at least one frame stays."""
    spot = spot_of(project, identity)
    track = project.sequence.tracks[spot.track]
    clip = track.clips[spot.index]
    _, high = free_span(track, identity, clip.start)
    end = max(clip.start + 1, end if high is None else min(end, high))
    return _replaced(project, identity, lambda _: replace(clip, length=end - clip.start))


def split_clip(project: Project, identity: str, frame: int) -> Project:
    """Cut a clip in two at a frame of the sequence inside it.

    The entrance stays with the first part, the exit with the second; keys keep their times.
    """
    spot = spot_of(project, identity)
    track = project.sequence.tracks[spot.track]
    clip = track.clips[spot.index]
    if not clip.start < frame < clip.span.end:
        raise RovixError(f"'{clip.name or clip.id}' is not under the playhead, so it was not split.")
    first, second = _halves(clip, frame - clip.start)
    clips = (*track.clips[: spot.index], first, second, *track.clips[spot.index + 1 :])
    return with_track(project, spot.track, replace(track, clips=clips))


def _halves(clip: Clip, at: int) -> tuple[Clip, Clip]:
    first: dict[str, Any] = {"length": at}
    second: dict[str, Any] = {"start": clip.start + at, "length": clip.length - at}
    if isinstance(clip, FootageClip | SoundClip):
        second["offset"] = clip.offset + at
    if isinstance(clip, SoundClip):
        first["fade_out"], second["fade_in"] = 0, 0
    else:
        first["moves"] = tuple(move for move in clip.moves if move.role == "entrance")
        second["moves"] = tuple(move for move in clip.moves if move.role == "exit")
        second["place"] = _earlier(clip.place, at)
    later = fresh_ids(replace(clip, **second))
    return replace(clip, **first), later


def _earlier(node: Any, frames: int) -> Any:
    """A place with all keys moved to the left by frames."""
    from rovix.model import Keys

    changes = {}
    for name in node.__struct_fields__:
        channel = getattr(node, name)
        if isinstance(channel, Keys):
            keys = tuple(replace(key, frame=key.frame - frames) for key in channel.keys)
            changes[name] = replace(channel, keys=keys)
    return replace(node, **changes)


def duplicate_clip(project: Project, identity: str) -> tuple[Project, str]:
    """A copy right behind the clip, or on a new track where there is no room; and the copy's id."""
    spot = spot_of(project, identity)
    track = project.sequence.tracks[spot.track]
    clip = track.clips[spot.index]
    copy = replace(fresh_ids(clip), start=clip.span.end)
    if has_room(track, copy):
        clips = in_order((*track.clips, copy))
        return with_track(project, spot.track, replace(track, clips=clips)), copy.id
    above = Track(id=new_id(), name=f"{track.name} copy", kind=track.kind, clips=(copy,))
    tracks = project.sequence.tracks
    tracks = (*tracks[: spot.track + 1], above, *tracks[spot.track + 1 :])
    return with_sequence(project, replace(project.sequence, tracks=tracks)), copy.id


def remove_clip(project: Project, identity: str) -> Project:
    """Take a clip away; the gap stays. Layers that followed it stand free."""
    spot = spot_of(project, identity)
    track = project.sequence.tracks[spot.track]
    clips = tuple(clip for clip in track.clips if clip.id != identity)
    return _without_parent(with_track(project, spot.track, replace(track, clips=clips)), identity)


def remove_clip_and_gap(project: Project, identity: str) -> Project:
    """Take a clip away and let what follows on its track move up."""
    spot = spot_of(project, identity)
    gone = project.sequence.tracks[spot.track].clips[spot.index]
    project = remove_clip(project, identity)
    track = project.sequence.tracks[spot.track]
    clips = tuple(
        replace(clip, start=clip.start - gone.length) if clip.start > gone.start else clip
        for clip in track.clips
    )
    return with_track(project, spot.track, replace(track, clips=clips))


def _without_parent(project: Project, identity: str) -> Project:
    for track in project.sequence.tracks:
        for clip in track.clips:
            if getattr(clip, "parent", None) == identity:
                project = _replaced(project, clip.id, lambda other: replace(other, parent=None))
    return project


def _check_track(track: Track, clip: Clip) -> None:
    if isinstance(clip, SoundClip) != (track.kind == "sound"):
        raise RovixError(f"'{track.name}' is a {track.kind} track; take another for this clip.")
    if track.locked:
        raise RovixError(f"'{track.name}' is locked; unlock it first.")


def _nearest_room(track: Track, clip: Clip, start: int) -> int:
    """The start nearest to the one wished at which the clip fits between the others."""
    others = [other for other in track.clips if other.id != clip.id]
    edges = [0, *(other.span.end for other in others)]
    ends = [*(other.start for other in others)]
    candidates = [start, *edges, *(end - clip.length for end in ends if end >= clip.length)]
    fitting = [
        candidate
        for candidate in candidates
        if not any(candidate < o.span.end and o.start < candidate + clip.length for o in others)
    ]
    return min(fitting, key=lambda candidate: abs(candidate - start))


def fresh_ids(node: Any) -> Any:
    """A copy of a struct in which it and everything in it has an id of its own."""
    if isinstance(node, tuple):
        return tuple(fresh_ids(item) for item in node)
    if not isinstance(node, Node):
        return node
    changes = {
        name: new_id() if name == "id" else fresh_ids(getattr(node, name))
        for name in node.__struct_fields__
        if name != "extra"
    }
    return msgspec.structs.replace(node, **changes)
