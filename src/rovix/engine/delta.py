"""What changed between two projects, as little as possible: a worker gets clips it does not have."""

from __future__ import annotations

from dataclasses import dataclass, field

import msgspec

from rovix.engine.patch import Fields, patch, patched
from rovix.model import Clip, Project, Sequence

replace = msgspec.structs.replace


@dataclass(eq=False)
class Known:
    """What a receiver has: its sequences by id, and the clips of each by theirs."""

    sequences: dict[str, Sequence] = field(default_factory=dict)
    clips: dict[str, dict[str, Clip]] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class SequenceDelta:
    """A sequence without its clips, the ids of the clips of each track, and those that are new or others: by
    id the clip, or what has changed of it."""

    skeleton: Sequence
    order: tuple[tuple[str, ...], ...]
    changed: dict[str, Clip | Fields]


@dataclass(frozen=True, slots=True)
class Delta:
    """A project without its sequences, and for each the id of one that did not change, or what did."""

    skeleton: Project
    sequences: tuple[str | SequenceDelta, ...]


def make_delta(project: Project, known: Known) -> Delta:
    """What brings a receiver that knows some clips (the very structs) to a project.

    `known` is updated to what the receiver has afterwards.
    """
    parts = tuple(_part(sequence, known) for sequence in project.sequences)
    _forget(known, project.sequences)
    # A project has at least one sequence; the first stands in without its clips.
    first = replace(project.sequence, tracks=())
    return Delta(replace(project, sequences=(first,)), parts)


def _part(sequence: Sequence, known: Known) -> str | SequenceDelta:
    if known.sequences.get(sequence.id) is sequence:
        return sequence.id
    had = known.clips.get(sequence.id, {})
    clips = [clip for track in sequence.tracks for clip in track.clips]
    changed = {clip.id: patch(had.get(clip.id), clip) for clip in clips if had.get(clip.id) is not clip}
    known.sequences[sequence.id] = sequence
    known.clips[sequence.id] = {clip.id: clip for clip in clips}
    bare = replace(sequence, tracks=tuple(replace(track, clips=()) for track in sequence.tracks))
    return SequenceDelta(
        bare, tuple(tuple(clip.id for clip in track.clips) for track in sequence.tracks), changed
    )


def apply_delta(delta: Delta, known: Known) -> Project:
    """The project of a delta; clips and sequences that did not change stay the very structs they were."""
    sequences = tuple(
        known.sequences[part] if isinstance(part, str) else _applied(part, known) for part in delta.sequences
    )
    _forget(known, sequences)
    return replace(delta.skeleton, sequences=sequences)


def _applied(part: SequenceDelta, known: Known) -> Sequence:
    identity = part.skeleton.id
    had = known.clips.get(identity, {})
    for clip, change in part.changed.items():
        had[clip] = _with_kept_parts(patched(had.get(clip), change), had.get(clip))
    tracks = tuple(
        replace(track, clips=tuple(had[clip] for clip in ids))
        for track, ids in zip(part.skeleton.tracks, part.order, strict=True)
    )
    known.clips[identity] = {clip: had[clip] for ids in part.order for clip in ids}
    known.sequences[identity] = replace(part.skeleton, tracks=tracks)
    return known.sequences[identity]


def _forget(known: Known, sequences: tuple[Sequence, ...]) -> None:
    """Let go of sequences that are there no more."""
    kept = {sequence.id for sequence in sequences}
    for identity in [identity for identity in known.sequences if identity not in kept]:
        del known.sequences[identity], known.clips[identity]


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
