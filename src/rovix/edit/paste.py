"""Copying clips out as a small project of their own, and putting them in again."""

from __future__ import annotations

from collections.abc import Iterable
from pathlib import Path

from rovix.edit.fresh import fresh_ids
from rovix.edit.importing import place_clip, with_media
from rovix.edit.media_list import used_media
from rovix.edit.media_paths import with_base
from rovix.edit.tree import replace, without_layers
from rovix.errors import RovixError
from rovix.model import Project, Sequence, Track
from rovix.model.references import renamed, targets

_ROOT = Path("/")


def copied(project: Project, identities: Iterable[str], base: Path) -> Project:
    """A project of these clips from frame 0, with the media they need by paths from the root folder.

    Ties to layers that are not copied are left out. RovixError for a clip that shows another sequence.
    """
    wanted = set(identities)
    tracks = tuple(
        Track(id=f"copied-{number}", name=track.name, kind=track.kind, clips=clips)
        for number, track in enumerate(project.sequence.tracks)
        if (clips := tuple(clip for clip in track.clips if clip.id in wanted))
    )
    if targets(tracks, "sequence"):
        raise RovixError("A layer that shows another sequence stays in its project; it cannot be copied.")
    tracks = without_layers(tracks, {*_siblings(project)} - wanted)
    first = min((clip.start for track in tracks for clip in track.clips), default=0)
    tracks = tuple(_earlier(track, first) for track in tracks)
    sequence = Sequence(id="copied", size=project.sequence.size, rate=project.sequence.rate, tracks=tracks)
    small = Project(id="clipboard", sequences=(sequence,))
    used = set(used_media(small))
    # What files were made of goes along.
    used |= {name for item in project.media if item.id in used for name in targets(item, "media")}
    needed = tuple(media for media in project.media if media.id in used)
    return with_base(replace(small, media=needed), base, _ROOT)


def _siblings(project: Project) -> list[str]:
    return [clip.id for track in project.sequence.tracks for clip in track.clips]


def _earlier(track: Track, frames: int) -> Track:
    return replace(track, clips=tuple(replace(clip, start=clip.start - frames) for clip in track.clips))


def pasted(project: Project, source: Project, start: int, base: Path) -> tuple[Project, list[str]]:
    """Put the clips of a copied project at a frame; gives the project and the new clips' ids."""
    source = with_base(source, _ROOT, base)
    names: dict[str, str] = {}
    # What names another file comes after it.
    for file in sorted(source.media, key=lambda item: len(targets(item, "media"))):
        project, known = with_media(project, renamed(file, names))
        names[file.id] = known.id
    made = []
    for track in fresh_ids(source.sequence.tracks):
        for clip in track.clips:
            new = renamed(replace(clip, start=start + clip.start), names)
            project = place_clip(project, new)
            made.append(new.id)
    return project, made
