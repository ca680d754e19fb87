"""Copying a clip out as a small project of its own, and putting it in again."""

from __future__ import annotations

from pathlib import Path

from rovix.edit.bring_in import place_clip, with_media
from rovix.edit.fresh import fresh_ids
from rovix.edit.media_paths import with_base
from rovix.edit.tree import replace, spot_of
from rovix.model import Project, Sequence, SoundClip, Track

_ROOT = Path("/")


def copied(project: Project, identity: str, base: Path) -> Project:
    """A project of one clip from frame 0, with the media it needs by paths from the root folder."""
    spot = spot_of(project, identity)
    clip = replace(project.sequence.tracks[spot.track].clips[spot.index], start=0)
    if not isinstance(clip, SoundClip):
        clip = replace(clip, parent=None)
    kind = project.sequence.tracks[spot.track].kind
    needed = tuple(media for media in project.media if media.id == getattr(clip, "media", None))
    track = Track(id="copied-track", kind=kind, clips=(clip,))
    sequence = Sequence(id="copied", size=project.sequence.size, rate=project.sequence.rate, tracks=(track,))
    return with_base(Project(id="clipboard", sequences=(sequence,), media=needed), base, _ROOT)


def pasted(project: Project, source: Project, start: int, base: Path) -> tuple[Project, str | None]:
    """Put the clips of a copied project at a frame; gives the project and the last new clip's id."""
    source = with_base(source, _ROOT, base)
    last = None
    for track in source.sequence.tracks:
        for clip in track.clips:
            new = replace(fresh_ids(clip), start=start + clip.start)
            file = next((media for media in source.media if media.id == getattr(clip, "media", None)), None)
            if file is not None:
                project, file = with_media(project, file)
                new = replace(new, media=file.id)
            project, last = place_clip(project, new), new.id
    return project, last
