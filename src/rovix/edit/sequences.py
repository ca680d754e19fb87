"""Sequences of a project: their settings, several of them, and one inside another."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from operator import add
from typing import Any

import numpy as np

from rovix.edit.address import animated_of, with_held
from rovix.edit.channels import AnyKey, path_mapped, with_handles
from rovix.edit.fresh import fresh_ids
from rovix.edit.importing import place_clip
from rovix.edit.tree import replace, with_sequence
from rovix.errors import RovixError
from rovix.model import (
    Clip,
    Keys,
    Project,
    Sequence,
    SequenceClip,
    Track,
    new_id,
)
from rovix.model.clip_kinds import holds_tracks, is_layer
from rovix.model.consistency import sequences_under
from rovix.model.fields import Animated
from rovix.model.references import targets
from rovix.motion.rest import channel_at
from rovix.time import Rate

_ZERO = np.zeros(1)
FOLLOW = {
    "keep": "Keep their place from the centre",
    "scale": "Scale with the frame",
    "edges": "Keep to the edges they are near",
}


def resize(project: Project, size: tuple[int, int], follow: str = "keep") -> Project:
    """Give the sequence another size; layers follow as :data:`FOLLOW` says.

    *scale* keeps everything's share of the frame by the smaller ratio of the sides; *edges* moves a
    layer with the side whose third of the frame it rests in.
    """
    old = project.sequence
    if old.size == size:
        return project
    changes = _followers(old.size, size)[follow]
    tracks = _each_layer(old.tracks, changes) if changes is not None else old.tracks
    return with_sequence(project, replace(old, size=size, tracks=tracks))


def _followers(old: tuple[int, int], new: tuple[int, int]) -> dict[str, Callable[[Any], Any] | None]:
    ratio = min(new[0] / old[0], new[1] / old[1])

    def scaled(clip: Any) -> Any:
        place, names = clip.transform, ("x", "y", "z", "scale_x", "scale_y")
        by = {name: by_value(getattr(place, name), lambda value: value * ratio) for name in names}
        by["path"] = path_mapped(place.path, lambda point: (point[0] * ratio, point[1] * ratio))
        return replace(clip, transform=replace(place, **by))

    def kept_to_edges(clip: Any) -> Any:
        by = {}
        for axis, name in enumerate(("x", "y")):
            channel = getattr(clip.transform, name)
            rest = float(channel_at(channel, _ZERO)[0])
            third = old[axis] / 6
            side = 0 if abs(rest) <= third else (1 if rest > 0 else -1)
            shift = side * (new[axis] - old[axis]) / 2
            by[name] = by_value(channel, partial(add, shift))
        return replace(clip, transform=replace(clip.transform, **by))

    return {"keep": None, "scale": scaled, "edges": kept_to_edges}


def by_value(channel: Any, change: Callable[[float], float]) -> Any:
    """A channel with each of its values, plain or of a key, changed."""
    if isinstance(channel, Keys):
        return replace(channel, keys=tuple(replace(k, value=change(k.value)) for k in channel.keys))
    return change(channel)


def _each_layer(tracks: tuple[Track, ...], change: Callable[[Any], Any]) -> tuple[Track, ...]:
    return tuple(
        replace(track, clips=tuple(change(c) if is_layer(c) else c for c in track.clips)) for track in tracks
    )


def change_rate(project: Project, rate: str) -> Project:
    """Give the sequence another rate; everything keeps its time in seconds, on whole frames.

    Raises ValueError for text that is no rate.
    """
    old, new = project.sequence.frame_rate, Rate(rate)
    if old == new:
        return project
    sequence = project.sequence
    markers = tuple(replace(m, frame=_frame(m.frame, old, new)) for m in sequence.markers)
    tracks = _retimed_tracks(sequence.tracks, old, new)
    return with_sequence(project, replace(sequence, rate=str(new), tracks=tracks, markers=markers))


def _frame(frame: int, old: Rate, new: Rate) -> int:
    return new.frames(old.seconds(frame))


def _retimed_tracks(tracks: tuple[Track, ...], old: Rate, new: Rate) -> tuple[Track, ...]:
    made = []
    for track in tracks:
        clips: list[Clip] = []
        for clip in track.clips:
            free = clips[-1].span.end if clips else 0
            clips.append(_retimed(clip, free, old, new))
        made.append(replace(track, clips=tuple(clips)))
    return tuple(made)


def _retimed(clip: Any, free: int, old: Rate, new: Rate) -> Any:
    """A clip at another rate, not before frame `free`; both ends are rounded, so that cuts stay cuts."""
    start = max(free, _frame(clip.start, old, new))
    changes: dict[str, Any] = {"start": start, "length": max(1, _frame(clip.span.end, old, new) - start)}
    if hasattr(clip, "playing"):
        playing = clip.playing
        span = None if playing.span is None else max(1, _frame(playing.span, old, new))
        changes["playing"] = replace(playing, span=span, lead=_frame(playing.lead, old, new))
        changes["offset"] = _frame(clip.offset, old, new)
    if hasattr(clip, "sound"):
        fades = {name: _frame(getattr(clip.sound, name), old, new) for name in ("fade_in", "fade_out")}
        changes["sound"] = replace(clip.sound, **fades)
    if holds_tracks(clip):
        changes["tracks"] = _retimed_tracks(clip.tracks, old, new)
    keyed = {name: _retimed_keys(held, old, new) for name, held in animated_of(clip).items()}
    return with_held(replace(clip, **changes), keyed)


def _retimed_keys(channel: Animated, old: Rate, new: Rate) -> Animated:
    factor = float(old.seconds(1) / new.seconds(1))
    # Of keys that fall on one frame the last counts.
    by_frame: dict[int, AnyKey] = {}
    for key in channel.keys:
        frame = new.frames(old.seconds(key.frame))
        by_frame[frame] = replace(with_handles(key, factor), frame=frame)
    return replace(channel, keys=tuple(by_frame.values()))


def lay_by_depth(project: Project, by_depth: bool) -> Project:
    """Whether layers lie over each other by their depth, or as their tracks have them."""
    return with_sequence(project, replace(project.sequence, by_depth=by_depth))


def change_background(project: Project, colour: str) -> Project:
    """Give the sequence another colour under everything."""
    return with_sequence(project, replace(project.sequence, background=colour))


def add_sequence(project: Project, sequence: Sequence) -> Project:
    """One more sequence, behind the others."""
    return replace(project, sequences=(*project.sequences, sequence))


def duplicate_sequence(project: Project, identity: str) -> tuple[Project, str]:
    """A copy of a sequence, with ids of its own; and its id."""
    source = _sequence(project, identity)
    copy = replace(fresh_ids(source), name=f"{source.name} copy")
    return add_sequence(project, copy), copy.id


def rename_sequence(project: Project, identity: str, name: str) -> Project:
    """Give a sequence a name."""
    changed = replace(_sequence(project, identity), name=name)
    return replace(project, sequences=tuple(changed if s.id == identity else s for s in project.sequences))


def remove_sequence(project: Project, identity: str) -> Project:
    """Take a sequence away. RovixError for the last one, and for one that another shows."""
    gone = _sequence(project, identity)
    if len(project.sequences) == 1:
        raise RovixError("A project keeps at least one sequence; add another first.")
    for other in project.sequences:
        if other.id != identity and identity in targets(other, "sequence"):
            raise RovixError(f"'{gone.name}' is shown in '{other.name}'; take it out there first.")
    return replace(project, sequences=tuple(s for s in project.sequences if s.id != identity))


def put_in_sequence(project: Project, identity: str, start: int) -> tuple[Project, str]:
    """Show a sequence in the open one, as one layer from a frame on; and the layer's id.

    RovixError where a sequence would show itself, and for an empty one.
    """
    shown, here = _sequence(project, identity), project.sequence
    if here.id in sequences_under(project, identity):
        raise RovixError(f"'{shown.name}' cannot be put into '{here.name}': it would show itself.")
    if not shown.length:
        raise RovixError(f"'{shown.name}' is empty; put something into it first.")
    length = max(1, here.frame_rate.frames(shown.frame_rate.seconds(shown.length)))
    clip = SequenceClip(id=new_id(), name=shown.name, sequence=identity, start=start, length=length)
    return place_clip(project, clip), clip.id


def _sequence(project: Project, identity: str) -> Sequence:
    found = next((s for s in project.sequences if s.id == identity), None)
    if found is None:
        raise RovixError("That sequence is not there any more.")
    return found
