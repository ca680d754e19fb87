"""Edits of several clips at once. Clips on locked tracks stay as they are."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from math import inf

from rovix.edit.clips import put_or_above, remove_clip_and_gap, split_clip, without_links
from rovix.edit.fresh import fresh_ids
from rovix.edit.tree import find_clip, in_order, replace, with_sequence
from rovix.errors import RovixError
from rovix.model import Clip, Project, Track
from rovix.model.clip_kinds import is_layer
from rovix.motion import clip_spans
from rovix.time import Span


def editable(project: Project, identities: Iterable[str]) -> list[tuple[int, Clip]]:
    """The clips of those ids on unlocked tracks, each with its track's number, from below and by start."""
    wanted = set(identities)
    return [
        (number, clip)
        for number, track in enumerate(project.sequence.tracks)
        if not track.locked
        for clip in track.clips
        if clip.id in wanted
    ]


def _some(project: Project, identities: Iterable[str]) -> list[tuple[int, Clip]]:
    identities = tuple(identities)
    found = editable(project, identities)
    if identities and not found:
        raise RovixError("The selected clips are on locked tracks; unlock these first.")
    return found


def move_clips(project: Project, identities: Iterable[str], frames: int, tracks: int = 0) -> Project:
    """Move clips together by frames, and by tracks among those of their kind (1 towards the viewer).

    As near as the free space lets them; where a track is missing or locked, they stay on theirs.
    """
    chosen = _some(project, identities)
    targets = {clip.id: _other_track(project, number, tracks) for number, clip in chosen}
    if any(target is None for target in targets.values()):
        targets = {clip.id: number for number, clip in chosen}
    gone = {clip.id for _, clip in chosen}
    by = _nearest_shift(project, [(targets[clip.id], clip) for _, clip in chosen], gone, frames)
    placed: dict[int, list[Clip]] = {}
    for _, clip in chosen:
        placed.setdefault(targets[clip.id] or 0, []).append(replace(clip, start=clip.start + by))
    made = []
    for number, track in enumerate(project.sequence.tracks):
        kept = tuple(clip for clip in track.clips if clip.id not in gone)
        if len(kept) != len(track.clips) or number in placed:
            track = replace(track, clips=in_order((*kept, *placed.get(number, ()))))
        made.append(track)
    return with_sequence(project, replace(project.sequence, tracks=tuple(made)))


def _other_track(project: Project, number: int, by: int) -> int | None:
    tracks = project.sequence.tracks
    kind = [at for at, track in enumerate(tracks) if track.kind == tracks[number].kind]
    at = kind.index(number) + by
    return kind[at] if 0 <= at < len(kind) and not tracks[kind[at]].locked else None


def _nearest_shift(
    project: Project, chosen: list[tuple[int | None, Clip]], gone: set[str], wished: int
) -> int:
    """The shift nearest to the one wished at which no chosen clip meets another clip or frame 0."""
    lowest = -min((clip.start for _, clip in chosen), default=0)
    blocked = [
        (other.start - clip.span.end + 1, other.span.end - clip.start - 1)
        for number, clip in chosen
        for other in project.sequence.tracks[number or 0].clips
        if other.id not in gone
    ]
    up = down = max(wished, lowest)
    for low, high in sorted(blocked):
        if low <= up <= high:
            up = high + 1
    for low, high in sorted(blocked, key=lambda pair: -pair[1]):
        if low <= down <= high:
            down = low - 1
    below = down if down >= lowest else -inf
    return int(up if up - wished <= wished - below else below)


def remove_clips(project: Project, identities: Iterable[str]) -> Project:
    """Take clips away; the gaps stay. Layers that followed or fitted them stand free."""
    gone = {clip.id for _, clip in _some(project, identities)}
    tracks = tuple(_less(track, gone) for track in project.sequence.tracks)
    return without_links(with_sequence(project, replace(project.sequence, tracks=tracks)), gone)


def _less(track: Track, gone: set[str]) -> Track:
    kept = tuple(clip for clip in track.clips if clip.id not in gone)
    return track if len(kept) == len(track.clips) else replace(track, clips=kept)


def remove_clips_and_gaps(project: Project, identities: Iterable[str]) -> Project:
    """Take clips away, and let what follows each on its track move up by its length."""
    chosen = _some(project, identities)
    for _, clip in sorted(chosen, key=lambda pair: -pair[1].start):
        project = remove_clip_and_gap(project, clip.id)
    return project


def duplicate_clips(project: Project, identities: Iterable[str]) -> tuple[Project, list[str]]:
    """Copies of clips right behind the last of them, in the same arrangement; and the copies' ids.

    A copy that has no room on its track goes on a new one above it.
    """
    chosen = _some(project, identities)
    if not chosen:
        return project, []
    first = min(clip.start for _, clip in chosen)
    last = max(clip.span.end for _, clip in chosen)
    return copy_clips(project, [clip.id for _, clip in chosen], last - first)


def copy_clips(
    project: Project, identities: Iterable[str], frames: int, tracks: int = 0
) -> tuple[Project, list[str]]:
    """Copies of clips, each moved by frames and tracks; and their ids. See :func:`duplicate_clips`."""
    chosen = _some(project, identities)
    copies: tuple[Clip, ...] = fresh_ids(tuple(clip for _, clip in chosen))
    # From the highest track down, so that a new track does not change the numbers still to come.
    for (number, _), copy in reversed(list(zip(chosen, copies, strict=True))):
        moved = replace(copy, start=max(0, copy.start + frames))
        target = _other_track(project, number, tracks)
        at = number if target is None else target
        project = put_or_above(project, at, moved, f"{project.sequence.tracks[at].name} copy")
    return project, [copy.id for copy in copies]


def split_clips(project: Project, identities: Iterable[str] | None, frame: int) -> Project:
    """Cut clips in two at a frame: those of the ids, or with None all on unlocked tracks.

    Those that the frame does not lie inside stay; RovixError when it lies inside none.
    """
    every = [clip.id for track in project.sequence.tracks for clip in track.clips]
    chosen = _some(project, every if identities is None else identities)
    cut = [clip.id for _, clip in chosen if clip.start < frame < clip.span.end]
    if not cut:
        raise RovixError("No clip that may change is under the playhead, so nothing was split.")
    for identity in cut:
        project = split_clip(project, identity, frame)
    return project


STAGGERED = 4
"""Frames between layers, where none are said."""


def stagger_clips(
    project: Project, identities: Iterable[str], frames: int, from_top: bool = False
) -> Project:
    """Let each clip start so many frames after the one below it, or with `from_top` the one above.

    The first of them stays where it is. RovixError where a clip on the same track is in the way.
    """
    order = [clip for _, clip in _some(project, identities)]
    if from_top:
        order.reverse()
    if len(order) < 2:
        raise RovixError("Select two layers or more, one above the other, to stagger them.")
    first = order[0].start
    starts = {clip.id: first + number * frames for number, clip in enumerate(order)}
    if min(starts.values()) < 0:
        raise RovixError("A layer would start before frame 0; move the first one to the right.")
    return _restarted(project, starts)


def chain_landings(project: Project, identities: Iterable[str]) -> Project:
    """Let each layer start on the frame on which the one before it, in time, lands.

    A layer without an entrance lands on its first frame.
    """
    rate = project.sequence.frame_rate
    order = sorted((clip for _, clip in _some(project, identities)), key=lambda clip: clip.start)
    if len(order) < 2:
        raise RovixError("Select two layers or more; each then starts when the one before it lands.")
    starts, at = {}, order[0].start
    for clip in order:
        starts[clip.id] = at
        at += clip_spans(clip, rate).entrance if is_layer(clip) else 0
    return _restarted(project, starts)


def _restarted(project: Project, starts: dict[str, int]) -> Project:
    def track(old: Track) -> Track:
        clips = tuple(replace(c, start=starts[c.id]) if c.id in starts else c for c in old.clips)
        return old if clips == old.clips else replace(old, clips=in_order(clips))

    tracks = tuple(track(old) for old in project.sequence.tracks)
    return with_sequence(project, replace(project.sequence, tracks=tracks))


def ids_after(project: Project, frame: int) -> list[str]:
    """The clips on unlocked tracks that start at a frame or later."""
    every = [clip.id for track in project.sequence.tracks for clip in track.clips]
    return [clip.id for _, clip in editable(project, every) if clip.start >= frame]


def ids_within(project: Project, span: Span, tracks: set[int]) -> list[str]:
    """The clips that share a frame with a span, on tracks of those numbers."""
    return [
        clip.id
        for number, track in enumerate(project.sequence.tracks)
        if number in tracks
        for clip in track.clips
        if clip.span.overlaps(span)
    ]


def on_each(
    identities: Iterable[str], edit: Callable[[Project, str], Project]
) -> Callable[[Project], Project]:
    """An edit of one clip as an edit of several; those that are gone are left out."""
    identities = tuple(identities)

    def edited(project: Project) -> Project:
        for identity in identities:
            if find_clip(project, identity) is not None:
                project = edit(project, identity)
        return project

    return edited
