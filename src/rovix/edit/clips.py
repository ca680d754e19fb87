"""Clips on their tracks: put, move, trim, split, take away. Frames are whole, never below 0."""

from __future__ import annotations

from math import ceil, inf
from typing import Any

from rovix.edit.channels import shifted_keys
from rovix.edit.crossing_keys import with_keys_for_crossing
from rovix.edit.fresh import fresh_ids
from rovix.edit.tree import (
    check_unlocked,
    free_span,
    in_order,
    replace,
    spot_of,
    unlocked_spot,
    with_sequence,
    with_track,
    without_layers,
)
from rovix.edit.tree import replace_clip as _replaced
from rovix.errors import RovixError
from rovix.model import (
    Clip,
    Project,
    TextClip,
    TimedClip,
    Track,
    new_id,
)
from rovix.model.clip_kinds import has_words, holds_tracks, is_layer, is_played, track_kind


def add_text(project: Project, start: int, length: int, clip: TextClip) -> Project:
    """Put a text layer at a frame: on the highest track above all pictures that has room, else on a
    new track above all."""
    clip = replace(clip, start=start, length=length)
    tracks = project.sequence.tracks
    for number in reversed(range(len(tracks))):
        track = tracks[number]
        if track.kind != "picture":
            continue
        if not all(has_words(other) for other in track.clips):
            break  # words put below this would lie behind its pictures
        if not track.locked and not track.hidden and has_room(track, clip):
            return with_track(project, number, replace(track, clips=in_order((*track.clips, clip))))
    return _on_new_track(project, clip)


def has_room(track: Track, clip: Clip) -> bool:
    """Whether a clip, where it stands, overlaps none of a track's clips."""
    return not any(other.span.overlaps(clip.span) for other in track.clips)


def _on_new_track(project: Project, clip: Clip) -> Project:
    sequence = project.sequence
    pictures = sum(track.kind == "picture" for track in sequence.tracks)
    words = sum(track.name.startswith("Text") for track in sequence.tracks) + 1
    track = Track(id=new_id(), name=f"Text {words}", clips=(clip,))
    above = [index for index, other in enumerate(sequence.tracks) if other.kind == "picture"]
    place = above[-1] + 1 if pictures else 0
    return with_sequence(
        project, replace(sequence, tracks=(*sequence.tracks[:place], track, *sequence.tracks[place:]))
    )


def put_or_above(project: Project, number: int, clip: Clip, name: str) -> Project:
    """A clip on a track, or where another is in the way on a new one of that name right above it."""
    tracks = project.sequence.tracks
    track = tracks[number]
    if has_room(track, clip):
        return with_track(project, number, replace(track, clips=in_order((*track.clips, clip))))
    above = Track(id=new_id(), name=name, kind=track.kind, clips=(clip,))
    tracks = (*tracks[: number + 1], above, *tracks[number + 1 :])
    return with_sequence(project, replace(project.sequence, tracks=tracks))


def move_clip(project: Project, identity: str, start: int, track: int | None = None) -> Project:
    """Move a clip to start at a frame, as near as the free space lets it, on its or another track.

    A track of the other kind, or a locked one, is refused with RovixError.
    """
    spot = unlocked_spot(project, identity)
    clip = project.sequence.tracks[spot.track].clips[spot.index]
    number = spot.track if track is None else track
    target = project.sequence.tracks[number]
    _check_track(target, clip)
    moved = replace(clip, start=_nearest_room(target, clip, max(0, start)))
    if number == spot.track:
        return _replaced(project, identity, lambda _: moved)
    left = project.sequence.tracks[spot.track]
    project = with_track(project, spot.track, replace(left, clips=_without(left, {identity})))
    return with_track(project, number, replace(target, clips=in_order((*target.clips, moved))))


def _without(track: Track, identities: set[str]) -> tuple[Clip, ...]:
    return tuple(clip for clip in track.clips if clip.id not in identities)


def trim_start(project: Project, identity: str, start: int) -> Project:
    """Let a clip start at another frame while its end stays; its material and keys keep their time."""
    spot = unlocked_spot(project, identity)
    track = project.sequence.tracks[spot.track]
    clip = track.clips[spot.index]
    low, _ = free_span(track, identity, clip.start)
    if is_played(clip) and not clip.playing.backwards:
        low = max(low, clip.start - _cut_off(clip))
    start = min(max(start, low), clip.span.end - 1)
    by = start - clip.start
    trimmed = shifted_keys(replace(clip, start=start, length=clip.length - by), -by)
    if is_played(trimmed) and not trimmed.playing.backwards:
        trimmed = _with_material_from(trimmed, by)
    return _replaced(project, identity, lambda _: trimmed)


def trim_end(project: Project, identity: str, end: int) -> Project:
    """Let a clip end before another frame (not included); at least one frame stays."""
    spot = unlocked_spot(project, identity)
    track = project.sequence.tracks[spot.track]
    clip = track.clips[spot.index]
    _, high = free_span(track, identity, clip.start)
    if is_played(clip) and clip.playing.backwards:
        furthest = clip.span.end + _cut_off(clip)
        high = furthest if high is None else min(high, furthest)
    end = max(clip.start + 1, end if high is None else min(end, high))
    trimmed = replace(clip, length=end - clip.start)
    if is_played(trimmed) and trimmed.playing.backwards:
        trimmed = _with_material_from(trimmed, clip.span.end - end)
    return _replaced(project, identity, lambda _: trimmed)


def _cut_off(clip: TimedClip) -> int:
    """How many frames a clip could show before the first of its material that it shows now."""
    return clip.offset if clip.playing.goes_straight else clip.playing.lead


def _with_material_from(clip: Any, frames: int) -> Any:
    """The clip starting so many of its frames later in its material."""
    if clip.playing.goes_straight:
        return replace(clip, offset=clip.offset + frames)
    return replace(clip, playing=replace(clip.playing, lead=clip.playing.lead + frames))


def slip(project: Project, identity: str, frames: int) -> Project:
    """Show material from that many frames later in it, the clip itself staying where it is.

    As far as the material goes; RovixError for a clip that has none.
    """
    media = {item.id: item for item in project.media}
    rate = project.sequence.frame_rate

    def change(clip: Clip) -> Clip:
        if not is_played(clip):
            raise RovixError(f"'{clip.title}' has no material to slip; footage, sounds and groups have.")
        used = clip.playing.span or ceil(clip.length * clip.playing.speed)
        file = media.get(getattr(clip, "media", ""))
        if holds_tracks(clip):
            whole: float = clip.inner_length
        else:
            whole = rate.frames(file.length) if file is not None and file.length else inf
        return replace(clip, offset=int(min(max(0, clip.offset + frames), max(clip.offset, whole - used))))

    return _replaced(project, identity, change)


def split_clip(project: Project, identity: str, frame: int) -> Project:
    """Cut a clip in two at a frame of the sequence inside it.

    A crawl or roll goes on by keys. The entrance stays with the first part, the exit with the second, and
    both loop; keys keep their times.
    """
    spot = unlocked_spot(project, identity)
    track = project.sequence.tracks[spot.track]
    clip = track.clips[spot.index]
    if not clip.start < frame < clip.span.end:
        raise RovixError(f"'{clip.title}' is not under the playhead, so it was not split.")
    if is_layer(clip):
        # Each half would cross the whole frame anew.
        clip = with_keys_for_crossing(project, clip)
    first, second = _halves(clip, frame - clip.start)
    clips = (*track.clips[: spot.index], first, second, *track.clips[spot.index + 1 :])
    return with_track(project, spot.track, replace(track, clips=clips))


def _halves(clip: Clip, at: int) -> tuple[Clip, Clip]:
    left = clip.length - at
    first: Any = replace(clip, length=at)
    second: Any = shifted_keys(replace(clip, start=clip.start + at, length=left), -at)
    if is_played(clip):
        if clip.playing.backwards:
            first = _with_material_from(first, left)
        else:
            second = _with_material_from(second, at)
    if hasattr(clip, "sound"):
        first = replace(first, sound=replace(clip.sound, fade_out=0, fade_in=min(clip.sound.fade_in, at)))
        fade_out = min(clip.sound.fade_out, left)
        second = replace(second, sound=replace(second.sound, fade_in=0, fade_out=fade_out))
    if is_layer(clip):
        first = replace(first, moves=tuple(move for move in clip.moves if not move.leaves))
        leaving = tuple(move for move in clip.moves if not move.enters)
        second = replace(second, moves=leaving, transition=None)
    return first, fresh_ids(second)


def remove_clip(project: Project, identity: str) -> Project:
    """Take a clip away; the gap stays. Layers that followed or fitted it stand free."""
    spot = unlocked_spot(project, identity)
    track = project.sequence.tracks[spot.track]
    project = with_track(project, spot.track, replace(track, clips=_without(track, {identity})))
    return without_links(project, {identity})


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


def without_links(project: Project, gone: set[str]) -> Project:
    """The project in which nothing names layers that are gone any more."""
    sequence = project.sequence
    tracks = without_layers(sequence.tracks, gone)
    return project if tracks is sequence.tracks else with_sequence(project, replace(sequence, tracks=tracks))


def _check_track(track: Track, clip: Clip) -> None:
    if track_kind(clip) != track.kind:
        raise RovixError(f"'{track.name}' is a {track.kind} track; take another for this clip.")
    check_unlocked(track)


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
