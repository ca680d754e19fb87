"""Keys of a layer's place worked on together: in time, in value, reversed, stretched, thinned out."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from itertools import pairwise
from math import floor

import numpy as np

from rovix.curve import reversed_easing
from rovix.edit.channels import channel_value, with_key, without_key
from rovix.edit.place import layer_place
from rovix.edit.tree import replace, replace_clip
from rovix.errors import RovixError
from rovix.model import Clip, Key, Keys, Place, Project
from rovix.motion.rest import PLACED, channel_at

Chosen = Mapping[str, Iterable[int]]
"""Frames of keys by the names of their channels."""
Change = Callable[[tuple[Key, ...]], Iterable[Key]]


def all_keys(place: Place) -> dict[str, tuple[int, ...]]:
    """The frames of every key, by channel; channels without keys are left out."""
    found = {name: getattr(place, name) for name in PLACED}
    return {name: tuple(k.frame for k in keys.keys) for name, keys in found.items() if isinstance(keys, Keys)}


def toggle_keys(project: Project, identity: str, frame: int, names: Iterable[str]) -> Project:
    """Give channels a key at a frame of the clip, with the values they have there; or, where all of
    them have one there, take those away."""

    def change(place: Place) -> Place:
        channels = {name: getattr(place, name) for name in names}
        if all(_key_at(channel, frame) for channel in channels.values()):
            return replace(place, **{n: without_key(c, frame) for n, c in channels.items()})
        missing = {name: channel for name, channel in channels.items() if not _key_at(channel, frame)}
        made = {n: with_key(c, frame, channel_value(c, frame)) for n, c in missing.items()}
        return replace(place, **made)

    return _placed(project, identity, change)


def set_key_curve(project: Project, identity: str, frame: int, names: Iterable[str], curve: str) -> Project:
    """The way on from the last key at or before a frame, of each of the channels that has one."""

    def change(place: Place) -> Place:
        made = {}
        for name in names:
            channel = getattr(place, name)
            key = key_before(channel, frame)
            if isinstance(channel, Keys) and key is not None:
                keys = tuple(replace(k, curve=curve) if k is key else k for k in channel.keys)
                made[name] = replace(channel, keys=keys)
        return replace(place, **made)

    return _placed(project, identity, change)


def key_before(channel: object, frame: int) -> Key | None:
    """The last key at or before a frame; None where there is none."""
    keys = channel.keys if isinstance(channel, Keys) else ()
    return next((key for key in reversed(keys) if key.frame <= frame), None)


def move_keys(project: Project, identity: str, chosen: Chosen, frames: int) -> Project:
    """Move keys in time; RovixError where one would meet a key that stays."""
    return _changed(project, identity, chosen, lambda keys: _at(keys, lambda frame: frame + frames))


def stretch_keys(project: Project, identity: str, chosen: Chosen, anchor: int, factor: float) -> Project:
    """Scale the times of keys about a frame, keeping their proportions but for whole frames.

    RovixError where two would meet.
    """
    if not factor > 0:
        raise RovixError("Keys are stretched by a factor above 0; reverse them to turn them round.")

    def scaled(frame: int) -> int:
        return anchor + floor((frame - anchor) * factor + 0.5)

    return _changed(project, identity, chosen, lambda keys: _at(keys, scaled))


def reverse_keys(project: Project, identity: str, chosen: Chosen) -> Project:
    """Turn keys round in time within the span they have together, and their curves with them."""
    frames = [frame for own in chosen.values() for frame in own]
    if not frames:
        return project
    ends = min(frames) + max(frames)

    def turned(keys: tuple[Key, ...]) -> list[Key]:
        # The way from a key to the next is the way back of the one before it.
        ways = [reversed_easing(key.curve) for key in keys[:-1]]
        curves = [*reversed(ways), keys[-1].curve]
        turned_keys = [replace(key, frame=ends - key.frame) for key in reversed(keys)]
        return [replace(key, curve=curve) for key, curve in zip(turned_keys, curves, strict=True)]

    return _changed(project, identity, chosen, turned)


def mirror_keys(project: Project, identity: str, chosen: Chosen) -> Project:
    """Mirror the values of keys about what a layer at rest has: 0, or 1 for scales and opacity."""
    fresh = Place()

    def change(place: Place) -> Place:
        made = {}
        for name, frames in chosen.items():
            wanted, twice = set(frames), 2 * float(getattr(fresh, name))
            channel = getattr(place, name)
            keys = (replace(k, value=twice - k.value) if k.frame in wanted else k for k in channel.keys)
            made[name] = replace(channel, keys=tuple(keys))
        return replace(place, **made)

    return _placed(project, identity, change)


def repeat_keys(project: Project, identity: str, chosen: Chosen, times: int, gap: int) -> Project:
    """Play keys `times` times in all, `gap` frames between the end of one and the start of the next."""
    frames = [frame for own in chosen.values() for frame in own]
    if times < 1 or gap < 1:
        raise RovixError("Keys are repeated once or more, at least one frame apart.")
    step = max(frames, default=0) - min(frames, default=0) + gap

    def repeated(keys: tuple[Key, ...]) -> list[Key]:
        return [replace(key, frame=key.frame + n * step) for n in range(times) for key in keys]

    return _changed(project, identity, chosen, repeated)


def spread_keys(project: Project, identity: str, chosen: Chosen) -> Project:
    """Space the keys of each channel evenly between its first and last, to whole frames."""

    def spread(keys: tuple[Key, ...]) -> list[Key]:
        frames = np.rint(np.linspace(keys[0].frame, keys[-1].frame, len(keys))).astype(int).tolist()
        return [replace(key, frame=frame) for key, frame in zip(keys, frames, strict=True)]

    return _changed(project, identity, chosen, spread)


def thin_keys(project: Project, identity: str, chosen: Chosen, tolerance: float) -> Project:
    """Leave out keys as long as no frame's value changes by more than a tolerance.

    The first and last of each channel stay, and what stays keeps its curve.
    """

    def change(place: Place) -> Place:
        made = {}
        for name, frames in chosen.items():
            made[name] = _thinned(getattr(place, name), sorted(frames), tolerance)
        return replace(place, **made)

    return _placed(project, identity, change)


def _thinned(channel: Keys, frames: list[int], tolerance: float) -> Keys:
    for frame in frames[1:-1]:
        lighter = replace(channel, keys=tuple(key for key in channel.keys if key.frame != frame))
        whole = np.arange(frames[0], frames[-1] + 1, dtype=np.float64)
        if np.abs(channel_at(lighter, whole) - channel_at(channel, whole)).max() <= tolerance:
            channel = lighter
    return channel


def remove_keys(project: Project, identity: str, chosen: Chosen) -> Project:
    """Take keys away; a channel that has none left stays at the value of its first."""

    def change(place: Place) -> Place:
        made = {}
        for name, frames in chosen.items():
            channel, wanted = getattr(place, name), set(frames)
            kept = tuple(key for key in channel.keys if key.frame not in wanted)
            made[name] = replace(channel, keys=kept) if kept else channel.keys[0].value
        return replace(place, **made)

    return _placed(project, identity, change)


def _at(keys: tuple[Key, ...], move: Callable[[int], int]) -> list[Key]:
    return [replace(key, frame=move(key.frame)) for key in keys]


def _changed(project: Project, identity: str, chosen: Chosen, change: Change) -> Project:
    """The project with the chosen keys of each channel replaced by others."""

    def on_place(place: Place) -> Place:
        made = {}
        for name, frames in chosen.items():
            channel, wanted = getattr(place, name), set(frames)
            own = tuple(key for key in channel.keys if key.frame in wanted)
            if own:
                rest = tuple(key for key in channel.keys if key.frame not in wanted)
                made[name] = replace(channel, keys=_in_order((*rest, *change(own)), name))
        return replace(place, **made)

    return _placed(project, identity, on_place)


def _in_order(keys: Iterable[Key], name: str) -> tuple[Key, ...]:
    ordered = tuple(sorted(keys, key=lambda key: key.frame))
    for before, key in pairwise(ordered):
        if before.frame == key.frame:
            said = f"Two keys of '{name}' would lie on frame {key.frame}; leave them more room."
            raise RovixError(said)
    return ordered


def _key_at(channel: object, frame: int) -> bool:
    return isinstance(channel, Keys) and any(key.frame == frame for key in channel.keys)


def _placed(project: Project, identity: str, change: Callable[[Place], Place]) -> Project:
    def on_clip(clip: Clip) -> Clip:
        return replace(clip, place=change(layer_place(clip)))

    return replace_clip(project, identity, on_clip)
