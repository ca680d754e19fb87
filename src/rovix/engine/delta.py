"""What changed between two projects, as little as possible: a worker gets clips it does not have."""

from __future__ import annotations

from dataclasses import dataclass, field

import msgspec

from rovix.engine.patch import Fields, patch, patched
from rovix.model import Clip, Project, Sequence
from rovix.model.identity import RecentCache, without_collecting

replace = msgspec.structs.replace


@dataclass(eq=False)
class Known:
    """What a receiver has: its sequences by id, and the clips of each by theirs."""

    sequences: dict[str, Sequence] = field(default_factory=dict)
    clips: dict[str, dict[str, Clip]] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class SequenceDelta:
    """A sequence without its clips, the ids of the clips of each track (None where it is as it was), and
    those that are new or others: by id the clip, or what has changed of it. Where many are new, they are
    `packed`."""

    skeleton: Sequence
    order: tuple[tuple[str, ...] | None, ...]
    changed: dict[str, Clip | Fields]
    packed: bytes = b""


@dataclass(frozen=True, slots=True)
class Delta:
    """A project without its sequences, and for each the id of one that did not change, or what did."""

    skeleton: Project
    sequences: tuple[str | SequenceDelta, ...]


class Unreadable(Exception):
    """Packed clips are read as strictly as a file is: what a file may not hold goes as it is."""


def make_delta(project: Project, known: Known, pack: bool = True) -> Delta:
    """What brings a receiver that knows some clips (the very structs) to a project.

    `known` is updated to what the receiver has afterwards. Many new clips are packed, which takes a tenth of
    the time; a receiver may find that Unreadable, and has to get them without.
    """
    parts = tuple(_part(sequence, known, pack) for sequence in project.sequences)
    _forget(known, project.sequences)
    # A project has at least one sequence; the first stands in without its clips.
    first = replace(project.sequence, tracks=())
    return Delta(replace(project, sequences=(first,)), parts)


def _part(sequence: Sequence, known: Known, pack: bool) -> str | SequenceDelta:
    before = known.sequences.get(sequence.id)
    if before is sequence:
        return sequence.id
    had, old = known.clips.setdefault(sequence.id, {}), _clips_by_track(before)
    # Of thousands of clips an edit changes those of one track.
    fresh = [track for track in sequence.tracks if old.get(track.id) is not track.clips]
    clips = [clip for track in fresh for clip in track.clips if had.get(clip.id) is not clip]
    new = tuple(clip for clip in clips if clip.id not in had)
    packed = _packed(sequence, new) if pack and len(new) >= _MANY else b""
    changed = {c.id: patch(had.get(c.id), c) for c in clips if not packed or c.id in had}
    order = tuple(
        None if old.get(track.id) is track.clips else tuple(clip.id for clip in track.clips)
        for track in sequence.tracks
    )
    _note(known, sequence)
    bare = replace(sequence, tracks=tuple(replace(track, clips=()) for track in sequence.tracks))
    return SequenceDelta(bare, order, changed, packed)


_MANY = 32
_NONE = msgspec.msgpack.encode(())
_last: RecentCache[bytes] = RecentCache(2)


def _packed(sequence: Sequence, clips: tuple[Clip, ...]) -> bytes:
    """Clips of a sequence, kept for the next receiver; nothing for such as have no packed form."""
    try:
        return _last.get(sequence, lambda: msgspec.msgpack.encode(clips), tuple(clip.id for clip in clips))
    except (UnicodeEncodeError, TypeError, ValueError):  # a file's name that is no text
        return b""


def _unpacked(packed: bytes) -> tuple[Clip, ...]:
    try:
        with without_collecting():
            return msgspec.msgpack.decode(packed, type=tuple[Clip, ...])
    except msgspec.DecodeError as wrong:
        raise Unreadable from wrong


def _clips_by_track(sequence: Sequence | None) -> dict[str, tuple[Clip, ...]]:
    return {} if sequence is None else {track.id: track.clips for track in sequence.tracks}


def _note(known: Known, sequence: Sequence) -> None:
    """A sequence is what is known from now on."""
    had, before = known.clips.setdefault(sequence.id, {}), known.sequences.get(sequence.id)
    old, new = _clips_by_track(before), _clips_by_track(sequence)
    for identity, clips in old.items():
        if new.get(identity) is not clips:
            for clip in clips:
                had.pop(clip.id, None)
    for identity, clips in new.items():
        if old.get(identity) is not clips:
            had.update((clip.id, clip) for clip in clips)
    known.sequences[sequence.id] = sequence


def apply_delta(delta: Delta, known: Known) -> Project:
    """The project of a delta; clips and sequences that did not change stay the very structs they were.
    Unreadable where packed clips are."""
    sequences = tuple(
        known.sequences[part] if isinstance(part, str) else _applied(part, known) for part in delta.sequences
    )
    _forget(known, sequences)
    return replace(delta.skeleton, sequences=sequences)


def _applied(part: SequenceDelta, known: Known) -> Sequence:
    identity = part.skeleton.id
    had = known.clips.get(identity, {}) | {clip.id: clip for clip in _unpacked(part.packed or _NONE)}
    for clip, change in part.changed.items():
        had[clip] = _with_kept_parts(patched(had.get(clip), change), had.get(clip))
    old = _clips_by_track(known.sequences.get(identity))
    tracks = tuple(
        replace(track, clips=old[track.id] if ids is None else tuple(had[clip] for clip in ids))
        for track, ids in zip(part.skeleton.tracks, part.order, strict=True)
    )
    sequence = replace(part.skeleton, tracks=tracks)
    _note(known, sequence)
    return sequence


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
