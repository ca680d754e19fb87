"""Tangents of keys: handles dragged, made of other curves, and evened out across a key."""

from __future__ import annotations

from collections.abc import Iterable
from math import hypot

from rovix.curve import TANGENTS
from rovix.edit.address import held_at, put_held
from rovix.edit.tree import clip_of, replace
from rovix.errors import RovixError
from rovix.model import Key, Keys, Project
from rovix.model.channel import Handle
from rovix.motion.reading import slopes_at

Chosen = dict[str, tuple[int, ...]]
SIDES = ("before", "after")
_SHARE = 1 / 3  # of the way to the next key, the length of a handle that is made


def to_tangents(project: Project, identity: str, chosen: Chosen) -> Project:
    """Let the ways on from keys go along tangents, which leave and come in as the ways did."""
    clip = clip_of(project, identity)
    made = {}
    for address, frames in chosen.items():
        held = held_at(clip, address)
        if isinstance(held, Keys):
            numbers = [n for n, key in enumerate(held.keys[:-1]) if key.frame in set(frames)]
            made[address] = as_tangents(held, numbers)
    if not made:
        raise RovixError("Tangents are for numbers: select keys of one that has another key behind them.")
    return put_held(project, identity, made)


def as_tangents(held: Keys, numbers: Iterable[int]) -> Keys:
    """Keys whose ways on, by the number of the key they leave, go along tangents."""
    keys = list(held.keys)
    for number in numbers:
        first, second = held.keys[number], held.keys[number + 1]
        if first.curve == TANGENTS:
            continue
        length = (second.frame - first.frame) * _SHARE
        leaving, coming = slopes_at(held, first.frame)[1], slopes_at(held, second.frame)[0]
        keys[number] = replace(keys[number], curve=TANGENTS, after=(length, leaving * length), joined=False)
        keys[number + 1] = replace(keys[number + 1], before=(length, -coming * length), joined=False)
    return replace(held, keys=tuple(_joined_where_straight(key) for key in keys))


def _joined_where_straight(key: Key) -> Key:
    """A key whose tangents are on one line keeps them there."""
    if key.before is None or key.after is None:
        return key
    one, other = slope_of(key.before, -1.0), slope_of(key.after, 1.0)
    return replace(key, joined=abs(one - other) <= 1e-3 * (1.0 + abs(one) + abs(other)))


def slope_of(handle: Handle, way: float) -> float:
    """Value per frame along a handle; `way` is 1 for one after its key, -1 before."""
    return way * handle[1] / handle[0] if handle[0] > 0 else 0.0


def even_speed(project: Project, identity: str, chosen: Chosen) -> Project:
    """Let keys be passed at one speed: the mean of the speeds before and after, by tangents."""
    clip = clip_of(project, identity)
    made = {}
    for address, frames in chosen.items():
        held = held_at(clip, address)
        if isinstance(held, Keys):
            made[address] = _evened(held, set(frames))
    return put_held(project, identity, made)


def _evened(held: Keys, frames: set[int]) -> Keys:
    inner = [n for n, key in enumerate(held.keys) if key.frame in frames and 0 < n < len(held.keys) - 1]
    bent = as_tangents(held, sorted({number for n in inner for number in (n - 1, n)}))
    keys = list(bent.keys)
    for number in inner:
        key = keys[number]
        slope = sum(slopes_at(held, key.frame)) / 2
        before = key.before[0] if key.before else (key.frame - keys[number - 1].frame) * _SHARE
        after = key.after[0] if key.after else (keys[number + 1].frame - key.frame) * _SHARE
        ends = {"before": (before, -slope * before), "after": (after, slope * after)}
        keys[number] = replace(key, **ends, joined=True)
    return replace(held, keys=tuple(keys))


def drag_handle(
    project: Project,
    identity: str,
    address: str,
    frame: int,
    side: str,
    handle: Handle,
    apart: bool = False,
) -> Project:
    """Put a key's handle (frames away from it, value beside it) somewhere; it never goes past its key.

    Joined tangents stay on one line, the other keeping its length in time; `apart` breaks them.
    """
    held = held_at(clip_of(project, identity), address)
    if not isinstance(held, Keys):
        raise RovixError("Only numbers have tangents in time.")
    number = next((n for n, key in enumerate(held.keys) if key.frame == frame), None)
    if number is None:
        raise RovixError(f"There is no key on frame {frame} any more.")
    key = held.keys[number]
    end = (min(max(0.0, handle[0]), _room(held, number, side)), handle[1])
    changed = replace(key, **{side: end}, joined=key.joined and not apart)
    if changed.joined:
        changed = _other_side(changed, side, end)
    keys = (*held.keys[:number], changed, *held.keys[number + 1 :])
    return put_held(project, identity, {address: replace(held, keys=keys)})


def _room(held: Keys, number: int, side: str) -> float:
    other = number + (1 if side == "after" else -1)
    if not 0 <= other < len(held.keys):
        return float("inf")
    return float(abs(held.keys[other].frame - held.keys[number].frame))


def _other_side(key: Key, side: str, end: Handle) -> Key:
    other = "after" if side == "before" else "before"
    opposite = getattr(key, other)
    if opposite is None or end[0] <= 0:
        return key
    return replace(key, **{other: (opposite[0], -end[1] / end[0] * opposite[0])})


def set_joined(project: Project, identity: str, chosen: Chosen, joined: bool) -> Project:
    """Join the tangents of keys into one line, the one after leading, or break them apart."""
    clip = clip_of(project, identity)
    made = {}
    for address, frames in chosen.items():
        held = held_at(clip, address)
        if isinstance(held, Keys):
            keys = (_with_joint(key, joined) if key.frame in set(frames) else key for key in held.keys)
            made[address] = replace(held, keys=tuple(keys))
    return put_held(project, identity, made)


def _with_joint(key: Key, joined: bool) -> Key:
    changed = replace(key, joined=joined)
    return _other_side(changed, "after", key.after) if joined and key.after else changed


def kept_length(start: Handle, wished: Handle, unit: float) -> Handle:
    """A handle at a wished angle with the length it had; `unit` is how many values are as long as a frame."""
    old, new = hypot(start[0], start[1] / unit), hypot(wished[0], wished[1] / unit)
    scale = old / new if new > 0 else 0.0
    return wished[0] * scale, wished[1] * scale


def kept_angle(start: Handle, wished: Handle, unit: float) -> Handle:
    """A handle as long as is wished along the line that it had."""
    size = hypot(start[0], start[1] / unit)
    if size == 0:
        return wished
    along = (start[0] * wished[0] + start[1] * wished[1] / unit**2) / size**2
    return start[0] * max(0.0, along), start[1] * max(0.0, along)
