"""What changed between two projects, as little as possible: a worker gets clips it does not have."""

from __future__ import annotations

from dataclasses import dataclass

import msgspec

from rovix.model import Clip, Project

replace = msgspec.structs.replace


@dataclass(frozen=True, slots=True)
class Delta:
    """A project without its clips, the ids of the clips of each track, and the clips that are new."""

    skeleton: Project
    order: tuple[tuple[str, ...], ...]
    changed: tuple[Clip, ...]


def make_delta(project: Project, known: dict[str, Clip]) -> Delta:
    """What brings a receiver that knows some clips (by id, the very structs) to a project.

    `known` is updated to what the receiver has afterwards.
    """
    tracks = project.sequence.tracks
    clips = [clip for track in tracks for clip in track.clips]
    changed = tuple(clip for clip in clips if known.get(clip.id) is not clip)
    known.clear()
    known.update({clip.id: clip for clip in clips})
    bare = replace(project.sequence, tracks=tuple(replace(track, clips=()) for track in tracks))
    skeleton = replace(project, sequences=(bare,))
    return Delta(skeleton, tuple(tuple(clip.id for clip in track.clips) for track in tracks), changed)


def apply_delta(delta: Delta, known: dict[str, Clip]) -> Project:
    """The project of a delta; clips that did not change stay the very structs they were."""
    known.update({clip.id: _with_kept_parts(clip, known.get(clip.id)) for clip in delta.changed})
    sequence = delta.skeleton.sequence
    tracks = tuple(
        replace(track, clips=tuple(known[identity] for identity in ids))
        for track, ids in zip(sequence.tracks, delta.order, strict=True)
    )
    used = {identity for ids in delta.order for identity in ids}
    for identity in [identity for identity in known if identity not in used]:
        del known[identity]
    return replace(delta.skeleton, sequences=(replace(sequence, tracks=tracks),))


def _with_kept_parts(clip: Clip, before: Clip | None) -> Clip:
    """The clip with every part that did not change being the very struct it was.

    What is derived from a part, such as the layout of words, then stays too.
    """
    if type(before) is not type(clip):
        return clip
    kept = {
        name: getattr(before, name)
        for name in clip.__struct_fields__
        if getattr(before, name) == getattr(clip, name)
    }
    return replace(clip, **kept)
