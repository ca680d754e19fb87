"""Values and keys of channels, whatever they belong to."""

from __future__ import annotations

from typing import Any

import numpy as np

from rovix.edit.address import Held
from rovix.edit.tree import replace
from rovix.errors import RovixError
from rovix.model import (
    Channel,
    ColourKey,
    ColourKeys,
    ContourKey,
    ContourKeys,
    Key,
    Keys,
    MotionPath,
    Node,
    PathKey,
)
from rovix.model.fields import ANIMATED, Animated
from rovix.motion.colours import colours_at
from rovix.motion.contours import contour_at
from rovix.motion.rest import channel_at, path_at

AnyKey = Key | ColourKey | PathKey | ContourKey


def channel_value(channel: Channel, frame: float) -> float:
    """The value at a frame of the clip."""
    return float(channel_at(channel, np.array([float(frame)]))[0])


def value_at(held: Held, frame: float) -> Any:
    """The number, colour, point (x, y) or points of a channel at a frame; None for a path that is none."""
    at = np.array([float(frame)])
    if isinstance(held, ColourKeys):
        return colours_at(held, at)[0]
    if isinstance(held, MotionPath):
        x, y = path_at(held, at)[0][0].tolist()
        return x, y
    if isinstance(held, ContourKeys):
        return contour_at(held, frame)
    return channel_value(held, frame) if isinstance(held, Keys) else held


def set_channel(held: Held, frame: int, value: Any) -> Held:
    """A channel that has keys gets a key at the frame; one that has none changes as a whole."""
    if not isinstance(held, ANIMATED):
        return float(value) if isinstance(value, int) else value
    return with_key(held, frame, value)


def with_key(held: Held, frame: int, value: Any) -> Animated:
    """The channel with a key at a frame; a plain one becomes animated by it."""
    if not isinstance(held, ANIMATED):
        return _first_key(frame, value)
    kept = [key for key in held.keys if key.frame != frame]
    here = next((key for key in held.keys if key.frame == frame), None)
    before = [key for key in kept if key.frame < frame]
    if here is not None:
        key = _valued(here, value)
    else:
        # A new key goes on with the curve of the one before it.
        key = _new_key(held, frame, value, before[-1].curve if before else _usual(held))
    return replace(held, keys=tuple(sorted([*kept, key], key=lambda k: k.frame)))


def _first_key(frame: int, value: Any) -> Animated:
    if isinstance(value, str):
        return ColourKeys(keys=(ColourKey(frame=frame, value=value),))
    if isinstance(value, tuple) and isinstance(value[0], tuple):
        return ContourKeys(keys=(ContourKey(frame=frame, value=value),))
    if isinstance(value, tuple):
        return MotionPath(keys=(PathKey(frame=frame, x=value[0], y=value[1]),))
    return Keys(keys=(Key(frame=frame, value=float(value)),))


def _usual(held: Animated) -> str:
    return "smooth" if isinstance(held, ContourKeys) else "linear"


def _new_key(held: Animated, frame: int, value: Any, curve: str) -> AnyKey:
    key = _first_key(frame, value).keys[0]
    return replace(key, curve=curve)


def _valued(key: AnyKey, value: Any) -> AnyKey:
    if isinstance(key, PathKey):
        return replace(key, x=float(value[0]), y=float(value[1]))
    return replace(key, value=float(value) if isinstance(key, Key) else value)


def without_key(held: Held, frame: int) -> Held:
    """The channel without its key at a frame; with the last one gone it stays at that value."""
    if not isinstance(held, ANIMATED):
        return held
    kept = tuple(key for key in held.keys if key.frame != frame)
    return with_keys(held, kept)


def with_keys(held: Animated, keys: tuple[AnyKey, ...]) -> Held:
    """The channel with other keys; with none it stays at the value of its first.

    A path that has none is gone: RovixError unless it stood still in the middle, where nothing moves.
    """
    if keys:
        return replace(held, keys=keys)
    if isinstance(held, MotionPath):
        raise RovixError("A path keeps at least one point; take the whole path away instead.")
    return held.keys[0].value


def with_handles(key: AnyKey, time: float, value: float = 1.0) -> AnyKey:
    """A number's key with its handles scaled in time and value; those of a path are about place."""
    if not isinstance(key, Key) or (key.before is None and key.after is None):
        return key
    ends = (None if end is None else (end[0] * time, end[1] * value) for end in (key.before, key.after))
    before, after = ends
    return replace(key, before=before, after=after)


def scaled_channel(channel: Channel, share: float, low: float, high: float) -> Channel:
    """A number, or the values of its keys, so many times as large, within limits."""
    if not isinstance(channel, Keys):
        return min(max(channel * share, low), high)
    values = (min(max(key.value * share, low), high) for key in channel.keys)
    pairs = zip(channel.keys, values, strict=True)
    return replace(channel, keys=tuple(replace(with_handles(k, 1.0, share), value=v) for k, v in pairs))


def path_mapped(path: MotionPath | None, change: Any) -> MotionPath | None:
    """A path with its points (x, y) changed by a function, and its tangents as the ways between them."""
    if path is None:
        return None

    def changed(key: PathKey) -> PathKey:
        x, y = change((key.x, key.y))
        ends = {name: getattr(key, name) for name in ("before", "after")}
        moved = {
            name: None if way is None else change((key.x + way[0], key.y + way[1]))
            for name, way in ends.items()
        }
        ways = {name: None if end is None else (end[0] - x, end[1] - y) for name, end in moved.items()}
        return replace(key, x=x, y=y, **ways)

    return replace(path, keys=tuple(changed(key) for key in path.keys))


def shifted_keys(node: Any, frames: int) -> Any:
    """A struct with the keys of every channel in it, and below it, moved by frames, right if above 0."""
    if isinstance(node, ANIMATED):
        return replace(node, keys=tuple(replace(key, frame=key.frame + frames) for key in node.keys))
    if isinstance(node, tuple):
        return tuple(shifted_keys(item, frames) for item in node)
    if not isinstance(node, Node):
        return node
    found = {name: getattr(node, name) for name in node.__struct_fields__ if name not in _OTHERS}
    made = {name: shifted_keys(value, frames) for name, value in found.items()}
    changes = {name: value for name, value in made.items() if value != found[name]}
    return replace(node, **changes) if changes else node


_OTHERS = frozenset({"extra", "moves", "tracks"})
"""Fields whose keys count from elsewhere."""
