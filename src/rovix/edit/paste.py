"""Copying clips out as a small project of their own, and putting them in again."""

from __future__ import annotations

from collections.abc import Iterable
from pathlib import Path
from typing import Any

from rovix.edit.bring_in import place_clip, with_media
from rovix.edit.fresh import fresh_ids
from rovix.edit.media_list import used_media
from rovix.edit.media_paths import with_base
from rovix.edit.move_sounds import files_of, with_files
from rovix.edit.treatments import rides_of, without_rides
from rovix.edit.tree import replace
from rovix.errors import RovixError
from rovix.model import Clip, GroupClip, Project, Sequence, Track
from rovix.model.consistency import layer_links, sequences_in

_ROOT = Path("/")


def copied(project: Project, identities: Iterable[str], base: Path) -> Project:
    """A project of these clips from frame 0, with the media they need by paths from the root folder.

    Ties to layers that are not copied are left out. RovixError for a clip that shows another sequence.
    """
    wanted = set(identities)
    tracks = tuple(
        Track(id=f"copied-{number}", name=track.name, kind=track.kind, clips=clips)
        for number, track in enumerate(project.sequence.tracks)
        if (clips := tuple(_untied(clip, wanted) for clip in track.clips if clip.id in wanted))
    )
    if sequences_in(tracks):
        raise RovixError("A layer that shows another sequence stays in its project; it cannot be copied.")
    first = min((clip.start for track in tracks for clip in track.clips), default=0)
    tracks = tuple(_earlier(track, first) for track in tracks)
    sequence = Sequence(id="copied", size=project.sequence.size, rate=project.sequence.rate, tracks=tracks)
    small = Project(id="clipboard", sequences=(sequence,))
    used = used_media(small)
    needed = tuple(media for media in project.media if media.id in used)
    return with_base(replace(small, media=needed), base, _ROOT)


def _untied(clip: Clip, wanted: set[str]) -> Clip:
    loose: dict[str, Any] = {f: None for f, target in layer_links(clip).items() if target not in wanted}
    gone = rides_of(clip) - wanted
    if gone:
        loose["treatments"] = without_rides(clip, gone)
    return replace(clip, **loose) if loose else clip


def _earlier(track: Track, frames: int) -> Track:
    return replace(track, clips=tuple(replace(clip, start=clip.start - frames) for clip in track.clips))


def pasted(project: Project, source: Project, start: int, base: Path) -> tuple[Project, list[str]]:
    """Put the clips of a copied project at a frame; gives the project and the new clips' ids."""
    source = with_base(source, _ROOT, base)
    names: dict[str, str] = {}
    for file in source.media:
        project, known = with_media(project, file)
        names[file.id] = known.id
    made = []
    for track in fresh_ids(source.sequence.tracks):
        for clip in track.clips:
            new = _renamed(replace(clip, start=start + clip.start), names)
            project = place_clip(project, new)
            made.append(new.id)
    return project, made


def _renamed(clip: Any, names: dict[str, str]) -> Any:
    """A clip, and everything in it, with its media called as they are in the project."""
    if isinstance(clip, GroupClip):
        tracks = tuple(
            replace(track, clips=tuple(_renamed(inner, names) for inner in track.clips))
            for track in clip.tracks
        )
        return replace(clip, tracks=tracks)
    changes: dict[str, Any] = {}
    media = getattr(clip, "media", None)
    if media is not None:
        changes["media"] = names.get(media, media)
    if files_of(getattr(clip, "moves", ())):
        changes["moves"] = tuple(with_files(move, names) for move in clip.moves)
    return replace(clip, **changes) if changes else clip
