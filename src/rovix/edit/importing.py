"""Bringing media in: onto the project's list, and as a clip onto a track."""

from __future__ import annotations

from typing import Any

from rovix.edit.clips import add_text, has_room
from rovix.edit.tree import in_order, replace, with_sequence, with_track
from rovix.errors import RovixError
from rovix.model import Clip, FootageClip, Media, Project, SoundClip, StillClip, Track, new_id
from rovix.model.clip_kinds import has_words, is_layer, track_kind

STILL_SECONDS = 5.0


def import_media(project: Project, media: Media, start: int) -> tuple[Project, str]:
    """Add a file and put it at a frame; gives the project and the new clip's id.

    A file that the project has already, by its digest, is used again. Pictures go on the highest
    track without words that has room, else on a new one below the words; sounds likewise.
    """
    project, media = with_media(project, media)
    clip = _clip(project, media, start)
    return place_clip(project, clip), clip.id


def add_to_timeline(
    project: Project, identity: str, start: int, track: int | None = None
) -> tuple[Project, str]:
    """Put a file of the list into the sequence at a frame; gives the project and the clip's id.

    On the track of that number where it fits and has room, else as :func:`place_clip` does.
    """
    media = next((item for item in project.media if item.id == identity), None)
    if media is None:
        raise RovixError("That file is not on the list any more.")
    clip = _clip(project, media, start)
    if track is not None:
        target = project.sequence.tracks[track]
        if target.kind == track_kind(clip) and not target.locked and has_room(target, clip):
            return with_track(project, track, replace(target, clips=in_order((*target.clips, clip)))), clip.id
    return place_clip(project, clip), clip.id


def place_clip(project: Project, clip: Clip) -> Project:
    """Put a clip where it starts, on the highest track of its kind that has room, else on a new one.

    Words go among words, other pictures below them.
    """
    if has_words(clip):
        return add_text(project, clip.start, clip.length, clip)
    tracks = project.sequence.tracks
    for number in reversed(range(len(tracks))):
        if _takes(tracks[number], clip):
            track = replace(tracks[number], clips=in_order((*tracks[number].clips, clip)))
            return with_track(project, number, track)
    return _on_new_track(project, clip)


def with_media(project: Project, media: Media) -> tuple[Project, Media]:
    """The project with a file on its list, and the file as it stands there.

    One that is there already, by its digest, is used again; a taken id gives way to a new one.
    """
    known = next((m for m in project.media if m.digest and m.digest == media.digest), None)
    if known is not None:
        return project, known
    if any(other.id == media.id for other in project.media):
        media = replace(media, id=new_id())
    return replace(project, media=(*project.media, media)), media


def _clip(project: Project, media: Media, start: int) -> Clip:
    rate = project.sequence.frame_rate
    length = max(1, rate.frames(media.length if media.length else STILL_SECONDS))
    fields: dict[str, Any] = {
        "id": new_id(),
        "name": media.title,
        "start": start,
        "length": length,
        "media": media.id,
    }
    if media.kind == "sound":
        return SoundClip(**fields)
    if media.kind == "footage":
        return FootageClip(**fields)
    width, height = project.sequence.size
    larger = (media.width or 0) > width or (media.height or 0) > height
    return StillClip(**fields, fit="fit" if larger else "as-is")


def _takes(track: Track, clip: Clip) -> bool:
    usable = track.kind == track_kind(clip) and not track.locked and not track.hidden
    return usable and not any(has_words(other) for other in track.clips) and has_room(track, clip)


def _on_new_track(project: Project, clip: Clip) -> Project:
    sequence = project.sequence
    tracks = sequence.tracks
    if not is_layer(clip):
        number, kind, base = len(tracks), "sound", "Sound"
    else:
        plain = [n for n, t in enumerate(tracks) if t.kind == "picture" and not _has_words(t)]
        number, kind, base = (plain[-1] + 1 if plain else 0), "picture", "Footage"
    count = sum(track.name.startswith(base) for track in tracks)
    name = base if count == 0 else f"{base} {count + 1}"
    track = Track(id=new_id(), name=name, kind=kind, clips=(clip,))  # type: ignore[arg-type]
    return with_sequence(project, replace(sequence, tracks=(*tracks[:number], track, *tracks[number:])))


def _has_words(track: Track) -> bool:
    return any(has_words(clip) for clip in track.clips)
