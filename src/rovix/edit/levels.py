"""Which tracks are open: those of a sequence, or of a group in it.

Edits work on the first sequence of a project. To work inside a group, the project is turned so that
the group's tracks are its first sequence; afterwards it is turned back.
"""

from __future__ import annotations

from dataclasses import dataclass

from rovix.edit.tree import replace
from rovix.model import Clip, GroupClip, Project, Sequence, Track, Transform
from rovix.model.clip_kinds import holds_tracks
from rovix.model.references import references


@dataclass(frozen=True, slots=True)
class Level:
    """A sequence's id, and the ids of the groups opened in it from the outside in."""

    sequence: str
    groups: tuple[str, ...] = ()

    @property
    def outer(self) -> Level:
        """One group less."""
        return Level(self.sequence, self.groups[:-1])


def sequence_at(project: Project, level: Level) -> Sequence | None:
    """What a level shows, as a sequence; None when it is not there."""
    found = next((s for s in project.sequences if s.id == level.sequence), None)
    for identity in level.groups:
        group = _group(found, identity)
        if found is None or group is None:
            return None
        name = group.name or "Group"
        found = replace(found, name=name, tracks=group.tracks, markers=())
    return found


def focused(project: Project, level: Level) -> Project:
    """The project with the level's tracks as its first sequence; itself where that is so already."""
    if not level.groups and level.sequence == project.sequences[0].id:
        return project
    sequence = sequence_at(project, level)
    assert sequence is not None, "a level is checked before it is opened"
    others = tuple(other for other in project.sequences if other.id != level.sequence)
    return replace(project, sequences=(sequence, *others))


def in_context(project: Project, level: Level) -> Project:
    """Like :func:`focused`, with what surrounds an open group shown around it, in the group's time.

    For pictures only: clips around the group may start before frame 0. A group that moves, plays
    otherwise than straight on, or blends is shown alone.
    """
    view = focused(project, level)
    if not level.groups:
        return view
    sequence = next(s for s in project.sequences if s.id == level.sequence)
    for identity in level.groups:
        group = _group(sequence, identity)
        assert group is not None
        tracks = _around(sequence, group) if _is_clear(group) else group.tracks
        sequence = replace(sequence, tracks=tracks)
    shown = replace(view.sequences[0], tracks=sequence.tracks)
    return replace(view, sequences=(shown, *view.sequences[1:]))


def _is_clear(group: GroupClip) -> bool:
    """Whether a group's layers look the same outside of it."""
    place = replace(group.transform, pivot_x=0.5, pivot_y=0.5, extra={})
    tied = bool(references(group, "layer", inner=False))
    plain = place == Transform() and not group.moves and not tied and group.blend == "normal"
    return plain and group.playing.is_plain


def _around(sequence: Sequence, group: GroupClip) -> tuple[Track, ...]:
    """The sequence's tracks with the group's in its place, counted from the group's own frame 0."""
    shift = group.offset - group.start
    made: list[Track] = []
    for track in sequence.tracks:
        others = tuple(replace(c, start=c.start + shift) for c in track.clips if c.id != group.id)
        if others:
            made.append(replace(track, clips=others))
        if group in track.clips:
            made += [replace(inner, hidden=inner.hidden or track.hidden) for inner in group.tracks]
    return tuple(made)


def unfocused(project: Project, level: Level, view: Project) -> Project:
    """The project with what an edit of :func:`focused` gave put back in its place."""
    if not level.groups and level.sequence == project.sequences[0].id:
        return view
    inner, *others = view.sequences
    old = next(s for s in project.sequences if s.id == level.sequence)
    new = _with_level(old, level.groups, inner)
    known = {sequence.id: sequence for sequence in others}
    kept = [
        new if sequence.id == level.sequence else known.pop(sequence.id)
        for sequence in project.sequences
        if sequence.id == level.sequence or sequence.id in known
    ]
    return replace(view, sequences=(*kept, *known.values()))


def open_level(project: Project, level: Level) -> Level:
    """The level, or the nearest outer one that the project has."""
    if all(sequence.id != level.sequence for sequence in project.sequences):
        return Level(project.sequences[0].id)
    while sequence_at(project, level) is None:
        level = level.outer
    return level


def _group(sequence: Sequence | None, identity: str) -> GroupClip | None:
    tracks: tuple[Track, ...] = sequence.tracks if sequence else ()
    clips = (clip for track in tracks for clip in track.clips)
    return next((c for c in clips if c.id == identity and holds_tracks(c)), None)


def _with_level(sequence: Sequence, groups: tuple[str, ...], inner: Sequence) -> Sequence:
    if not groups:
        return inner
    group = _group(sequence, groups[0])
    assert group is not None
    nested = _with_level(replace(sequence, tracks=group.tracks), groups[1:], inner)
    tracks = tuple(_with_group(track, group, nested.tracks) for track in sequence.tracks)
    return replace(sequence, tracks=tracks)


def _with_group(track: Track, group: GroupClip, tracks: tuple[Track, ...]) -> Track:
    if group not in track.clips:
        return track
    changed = replace(group, tracks=tracks)
    if group.length == group.inner_length and group.playing.is_plain and not group.offset:
        # A group that showed all of itself goes on doing so, as far as there is room.
        later = min((c.start for c in track.clips if c.start > group.start), default=None)
        length = max(1, changed.inner_length)
        changed = replace(changed, length=length if later is None else min(length, later - group.start))
    clips: tuple[Clip, ...] = tuple(changed if clip is group else clip for clip in track.clips)
    return replace(track, clips=clips)
