"""Values and keys of channels, whatever they belong to."""

from __future__ import annotations

from typing import Any

import numpy as np

from rovix.edit.tree import replace
from rovix.model import Channel, Key, Keys, Node
from rovix.motion.rest import channel_at


def channel_value(channel: Channel, frame: int) -> float:
    """The value at a frame of the clip."""
    return float(channel_at(channel, np.array([float(frame)]))[0])


def set_channel(channel: Channel, frame: int, value: float) -> Channel:
    """A channel that has keys gets a key at the frame; one that has none changes as a whole."""
    if not isinstance(channel, Keys):
        return float(value)
    return with_key(channel, frame, value)


def with_key(channel: Channel, frame: int, value: float) -> Keys:
    """The channel with a key at a frame; a plain one becomes animated by it."""
    if not isinstance(channel, Keys):
        return Keys(keys=(Key(frame=frame, value=float(value)),))
    kept = [key for key in channel.keys if key.frame != frame]
    here = next((key for key in channel.keys if key.frame == frame), None)
    before = [key for key in kept if key.frame < frame]
    # A new key goes on with the curve of the one before it.
    curve = here.curve if here else (before[-1].curve if before else "linear")
    key = Key(frame=frame, value=float(value), curve=curve)
    return replace(channel, keys=tuple(sorted([*kept, key], key=lambda k: k.frame)))


def without_key(channel: Channel, frame: int) -> Channel:
    """The channel without its key at a frame; with the last one gone it stays at that value."""
    if not isinstance(channel, Keys):
        return channel
    kept = tuple(key for key in channel.keys if key.frame != frame)
    return replace(channel, keys=kept) if kept else channel_value(channel, frame)


def shifted_keys(node: Any, frames: int) -> Any:
    """A struct with the keys of every channel in it moved by frames, to the right if above 0."""
    if isinstance(node, Keys):
        return replace(node, keys=tuple(replace(key, frame=key.frame + frames) for key in node.keys))
    if not isinstance(node, Node):
        return node
    changes = {}
    for name in node.__struct_fields__:
        value = getattr(node, name)
        if isinstance(value, Keys):
            changes[name] = shifted_keys(value, frames)
    return replace(node, **changes) if changes else node
