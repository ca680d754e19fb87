"""Keys of a clip worked on together: in time, in value, reversed, stretched, thinned out."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from itertools import pairwise
from math import floor
from typing import Any

import numpy as np

from rovix.curve import reversed_easing
from rovix.edit.address import Held, animated_of, field_at, held_at, put_held, said_of
from rovix.edit.channels import AnyKey, value_at, with_handles, with_key, with_keys, without_key
from rovix.edit.tree import clip_of, replace
from rovix.errors import RovixError
from rovix.model import Clip, ColourKey, ContourKey, Key, PathKey, Project
from rovix.model.fields import ANIMATED, Animated

Chosen = Mapping[str, Iterable[int]]
"""Frames of keys by the addresses of their channels."""
Change = Callable[[tuple[AnyKey, ...]], Iterable[AnyKey]]


def all_keys(clip: Clip | None) -> dict[str, tuple[int, ...]]:
    """The frames of every key, by channel; channels without keys are left out."""
    return {name: tuple(key.frame for key in held.keys) for name, held in animated_of(clip).items()}


def keys_of(project: Project, chosen: Mapping[str, Chosen]) -> list[AnyKey]:
    """The keys at chosen frames, by clip and channel."""
    found: list[AnyKey] = []
    for identity, own in chosen.items():
        clip = clip_of(project, identity)
        for address, frames in own.items():
            held, wanted = held_at(clip, address), set(frames)
            if isinstance(held, ANIMATED):
                found += [key for key in held.keys if key.frame in wanted]
    return found


def toggle_keys(project: Project, identity: str, frame: int, addresses: Iterable[str]) -> Project:
    """Give channels a key at a frame of the clip, with the values they have there; or, where all of
    them have one there, take those away."""
    names = tuple(addresses)
    there = not all(_key_at(channel, frame) for channel in _held(project, identity, names).values())
    return set_keys_at(project, identity, frame, names, there)


def set_keys_at(
    project: Project, identity: str, frame: int, addresses: Iterable[str], there: bool
) -> Project:
    """Give channels that have none a key at a frame of the clip, or take those that are there away."""
    held = _held(project, identity, addresses)
    if not there:
        return put_held(project, identity, {name: without_key(h, frame) for name, h in held.items()})
    missing = {name: channel for name, channel in held.items() if not _key_at(channel, frame)}
    made = {name: with_key(h, frame, value_at(h, frame)) for name, h in missing.items()}
    return put_held(project, identity, made)


def set_key_curve(
    project: Project, identity: str, frame: int, addresses: Iterable[str], curve: str
) -> Project:
    """The way on from the last key at or before a frame, of each of the channels that has one."""
    chosen = {}
    for name, channel in _held(project, identity, addresses).items():
        key = key_before(channel, frame)
        if key is not None:
            chosen[name] = (key.frame,)
    return set_curves(project, identity, chosen, curve)


def set_curves(project: Project, identity: str, chosen: Chosen, curve: str) -> Project:
    """The way on from each of the keys."""
    return _changed(project, identity, chosen, lambda keys: [replace(key, curve=curve) for key in keys])


def key_before(channel: object, frame: float) -> AnyKey | None:
    """The last key at or before a frame; None where there is none."""
    keys: tuple[AnyKey, ...] = channel.keys if isinstance(channel, ANIMATED) else ()
    return next((key for key in reversed(keys) if key.frame <= frame), None)


def move_keys(
    project: Project, identity: str, chosen: Chosen, frames: int, values: Mapping[str, float] | None = None
) -> Project:
    """Move keys in time, and the values of numbers by what is given for their channels.

    RovixError where one would meet a key that stays.
    """
    moved = _changed(project, identity, chosen, lambda keys: _at(keys, lambda frame: frame + frames))
    ways = {name: way for name, way in (values or {}).items() if way and name in chosen}
    if not ways:
        return moved
    clip = clip_of(moved, identity)
    made = {}
    for name, way in ways.items():
        wanted, limits = {frame + frames for frame in chosen[name]}, field_at(clip, name)
        held = held_at(clip, name)
        assert isinstance(held, ANIMATED)
        shifted = (_raised(k, way, limits.low, limits.high) if k.frame in wanted else k for k in held.keys)
        made[name] = replace(held, keys=tuple(shifted))
    return put_held(moved, identity, made)


def _raised(key: AnyKey, way: float, low: float, high: float) -> AnyKey:
    return replace(key, value=min(max(key.value + way, low), high)) if isinstance(key, Key) else key


def stretch_keys(project: Project, identity: str, chosen: Chosen, anchor: int, factor: float) -> Project:
    """Scale the times of keys about a frame, keeping their proportions but for whole frames.

    RovixError where two would meet.
    """
    if not factor > 0:
        raise RovixError("Keys are stretched by a factor above 0; reverse them to turn them round.")

    def scaled(frame: int) -> int:
        return anchor + floor((frame - anchor) * factor + 0.5)

    def stretched(keys: tuple[AnyKey, ...]) -> list[AnyKey]:
        return [with_handles(key, factor) for key in _at(keys, scaled)]

    return _changed(project, identity, chosen, stretched)


def reverse_keys(project: Project, identity: str, chosen: Chosen) -> Project:
    """Turn keys round in time within the span they have together, and their curves with them."""
    frames = [frame for own in chosen.values() for frame in own]
    if not frames:
        return project
    ends = min(frames) + max(frames)
    return _changed(project, identity, chosen, lambda keys: turned_round(keys, ends))


def turned_round(keys: tuple[AnyKey, ...], ends: int) -> list[AnyKey]:
    """Keys in reverse, frame f at `ends` - f."""
    # The way from a key to the next is the way back of the one before it.
    ways = [reversed_easing(key.curve) for key in keys[:-1]]
    curves = [*reversed(ways), keys[-1].curve]
    back = [replace(key, frame=ends - key.frame) for key in reversed(keys)]
    return [_handles_swapped(replace(k, curve=c)) for k, c in zip(back, curves, strict=True)]


def _handles_swapped(key: AnyKey) -> AnyKey:
    return replace(key, before=key.after, after=key.before) if isinstance(key, Key | PathKey) else key


def mirror_keys(project: Project, identity: str, chosen: Chosen) -> Project:
    """Mirror the values of keys about what a layer at rest has: 0, or 1 for scales and opacity."""

    def mirrored(name: str, keys: tuple[AnyKey, ...]) -> list[AnyKey]:
        return [_mirrored(key, _neutral(name)) for key in keys]

    return _changed_each(project, identity, chosen, mirrored)


def _mirrored(key: AnyKey, neutral: float) -> AnyKey:
    if isinstance(key, PathKey):
        turn = lambda way: None if way is None else (-way[0], -way[1])  # noqa: E731
        return replace(key, x=-key.x, y=-key.y, before=turn(key.before), after=turn(key.after))
    if isinstance(key, ContourKey):
        return replace(key, value=tuple(tuple(-n for n in point) for point in key.value))
    if isinstance(key, ColourKey):
        return key
    return with_handles(replace(key, value=2 * neutral - key.value), 1.0, -1.0)


def _neutral(address: str) -> float:
    name = address.rpartition(".")[2]
    return 1.0 if name in ("scale_x", "scale_y", "opacity", "fill_opacity") else 0.0


def repeat_keys(project: Project, identity: str, chosen: Chosen, times: int, gap: int) -> Project:
    """Play keys `times` times in all, `gap` frames between the end of one and the start of the next."""
    frames = [frame for own in chosen.values() for frame in own]
    if times < 1 or gap < 1:
        raise RovixError("Keys are repeated once or more, at least one frame apart.")
    step = max(frames, default=0) - min(frames, default=0) + gap

    def repeated(keys: tuple[AnyKey, ...]) -> list[AnyKey]:
        return [replace(key, frame=key.frame + n * step) for n in range(times) for key in keys]

    return _changed(project, identity, chosen, repeated)


def spread_keys(project: Project, identity: str, chosen: Chosen) -> Project:
    """Space the keys of each channel evenly between its first and last, to whole frames."""

    def spread(keys: tuple[AnyKey, ...]) -> list[AnyKey]:
        frames = np.rint(np.linspace(keys[0].frame, keys[-1].frame, len(keys))).astype(int).tolist()
        return [replace(key, frame=frame) for key, frame in zip(keys, frames, strict=True)]

    return _changed(project, identity, chosen, spread)


def align_keys(project: Project, identity: str, chosen: Chosen, frame: int) -> Project:
    """Move the keys of each channel as one, so that its first lies on a frame."""

    def aligned(keys: tuple[AnyKey, ...]) -> list[AnyKey]:
        way = frame - keys[0].frame
        return _at(keys, lambda at: at + way)

    return _changed(project, identity, chosen, aligned)


def hold_keys(project: Project, identity: str, chosen: Chosen) -> Project:
    """Make steps: each value is held until right before the next key's frame, then cuts to it.

    Before every key but the first of a channel stands one more, a frame earlier, with the value of
    the key before, so that the steps can be pulled apart.
    """

    def held(keys: tuple[AnyKey, ...]) -> list[AnyKey]:
        made = [replace(keys[0], curve="hold")]
        for before, key in pairwise(keys):
            if key.frame - before.frame > 1:
                made.append(replace(before, frame=key.frame - 1, curve="hold"))
            made.append(replace(key, curve="hold"))
        return made

    return _changed(project, identity, chosen, held)


def stagger_keys(project: Project, identity: str, chosen: Chosen, frames: int) -> Project:
    """Shift the keys of each channel by that many frames more than the channel's before it."""
    order = {name: number for number, name in enumerate(chosen)}

    def shifted(name: str, keys: tuple[AnyKey, ...]) -> list[AnyKey]:
        return _at(keys, lambda frame: frame + order[name] * frames)

    return _changed_each(project, identity, chosen, shifted)


def thin_keys(project: Project, identity: str, chosen: Chosen, tolerance: float) -> Project:
    """Leave out keys as long as no frame's value changes by more than a share of the channel's range.

    The first and last of each channel stay, and what stays keeps its curve. Of several that could
    go, the one that changes least goes first. Paths count by px of their own extent.
    """
    clip = clip_of(project, identity)
    made = {}
    for name, frames in chosen.items():
        held = held_at(clip, name)
        if isinstance(held, ANIMATED):
            made[name] = _thinned(held, sorted(frames), tolerance)
    return put_held(project, identity, made)


def _thinned(channel: Animated, frames: list[int], tolerance: float) -> Animated:
    if len(frames) < 3:
        return channel
    whole = range(frames[0], frames[-1] + 1)
    target = _numbers(channel, whole)
    allowed = tolerance * float(np.ptp(target, axis=0).max()) + 1e-12
    inner = frames[1:-1]
    while inner:
        tried = [(float(np.abs(_numbers(_less(channel, f), whole) - target).max()), f) for f in inner]
        error, frame = min(tried)
        if error > allowed:
            break
        channel = _less(channel, frame)
        inner.remove(frame)
    return channel


def _less(channel: Animated, frame: int) -> Animated:
    return replace(channel, keys=tuple(key for key in channel.keys if key.frame != frame))


def _numbers(channel: Animated, frames: Iterable[int]) -> Any:
    """(t, k): what a channel has at frames, colours by their parts 0 to 1."""
    found = [value_at(channel, frame) for frame in frames]
    if isinstance(found[0], str):
        return np.array([[int(text[at : at + 2], 16) / 255 for at in (1, 3, 5)] for text in found])
    return np.array(found, dtype=np.float64).reshape(len(found), -1)


def remove_keys(project: Project, identity: str, chosen: Chosen) -> Project:
    """Take keys away; a channel that has none left stays at the value of its first."""
    clip = clip_of(project, identity)
    made: dict[str, Held] = {}
    for name, frames in chosen.items():
        channel, wanted = held_at(clip, name), set(frames)
        if isinstance(channel, ANIMATED):
            kept = tuple(key for key in channel.keys if key.frame not in wanted)
            made[name] = with_keys(channel, kept)
    return put_held(project, identity, made)


def _at(keys: Iterable[AnyKey], move: Callable[[int], int]) -> list[AnyKey]:
    return [replace(key, frame=move(key.frame)) for key in keys]


def _changed(project: Project, identity: str, chosen: Chosen, change: Change) -> Project:
    """The project with the chosen keys of each channel replaced by others."""
    return _changed_each(project, identity, chosen, lambda _, keys: change(keys))


def _changed_each(
    project: Project,
    identity: str,
    chosen: Chosen,
    change: Callable[[str, tuple[AnyKey, ...]], Iterable[AnyKey]],
) -> Project:
    clip = clip_of(project, identity)
    made: dict[str, Held] = {}
    for name, frames in chosen.items():
        channel, wanted = held_at(clip, name), set(frames)
        if not isinstance(channel, ANIMATED):
            continue
        own = tuple(key for key in channel.keys if key.frame in wanted)
        if own:
            rest = tuple(key for key in channel.keys if key.frame not in wanted)
            made[name] = replace(channel, keys=in_order((*rest, *change(name, own)), name))
    return put_held(project, identity, made)


def in_order(keys: Iterable[AnyKey], name: str) -> tuple[AnyKey, ...]:
    """Keys by their frames; RovixError, naming the channel, where two lie on one."""
    ordered = tuple(sorted(keys, key=lambda key: key.frame))
    for before, key in pairwise(ordered):
        if before.frame == key.frame:
            said = f"Two keys of '{said_of(name)}' would lie on frame {key.frame}; leave them more room."
            raise RovixError(said)
    return ordered


def _key_at(channel: object, frame: int) -> bool:
    return isinstance(channel, ANIMATED) and any(key.frame == frame for key in channel.keys)


def _held(project: Project, identity: str, addresses: Iterable[str]) -> dict[str, Held]:
    clip = clip_of(project, identity)
    return {address: held_at(clip, address) for address in addresses}
