"""What an edit let go: layers that named one that is gone."""

from __future__ import annotations

from collections.abc import Iterator

from rovix.edit.tree import title_of
from rovix.model import Clip, Project
from rovix.model.clip_kinds import is_layer
from rovix.model.dependencies import named_by


def freed(before: Project, after: Project) -> list[str]:
    """One sentence for each tie of the open tracks that went because its target went."""
    # Of thousands of clips an edit changes those of a track or two.
    tracks = before.sequence.tracks, after.sequence.tracks
    same = {id(track.clips) for track in tracks[0]} & {id(track.clips) for track in tracks[1]}
    changed, now = ({c.id for t in own if id(t.clips) not in same for c in t.clips} for own in tracks)
    gone = changed - now
    return [*_freed(_layers(before), _layers(after), gone)] if gone else []


def _freed(old: dict[str, Clip], new: dict[str, Clip], gone: set[str]) -> Iterator[str]:
    for identity, clip in old.items():
        if identity not in new:
            continue
        for named in named_by(clip):
            if named.reference.kind == "layer" and named.target in gone and named.target in old:
                left, verb = title_of(old[named.target]), named.reference.verb
                yield f"'{title_of(clip)}' no longer {verb}s '{left}', which is gone from these tracks."


def _layers(project: Project) -> dict[str, Clip]:
    clips = (clip for track in project.sequence.tracks for clip in track.clips)
    return {clip.id: clip for clip in clips if is_layer(clip)}
