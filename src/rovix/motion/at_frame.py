"""Structs at a moment: every channel as the plain number or colour that it has there."""

from __future__ import annotations

from typing import TypeVar

import msgspec
import numpy as np

from rovix.model import ColourKeys, ContourKeys, Keys, Node, PictureClip
from rovix.model.fields import channel_fields, is_animated
from rovix.model.identity import IdentityCache, RecentCache
from rovix.motion.colours import colours_at
from rovix.motion.contours import contour_at
from rovix.motion.rest import channel_at

Kind = TypeVar("Kind", bound=Node)
Layer = TypeVar("Layer", bound=PictureClip)
_MOVING = frozenset(
    {"transform", "moves", "effects", "sound", "tracks", "transition", "playing", "confidence"}
)
"""Fields of a clip that have their own way over time."""

_at_frame: RecentCache[Node] = RecentCache(256)
_changing: IdentityCache[bool] = IdentityCache()
_origins: IdentityCache[Node] = IdentityCache()


def at_frame(node: Kind, frame: float) -> Kind:
    """A struct at a frame of its clip, and those below it; the very same one when nothing changes.

    Numbers stay in the limits of their fields.
    """
    if not is_animated(node):
        return node
    return _at_frame.get(node, lambda: _at(node, frame), frame)  # type: ignore[return-value]


def layer_at(clip: Layer, frame: float) -> Layer:
    """A layer with its words, look or shape as they are at a frame; its place and moves stay."""
    if not is_changing(clip):
        return clip
    return _at_frame.get(clip, lambda: _at(clip, frame, _MOVING), frame)  # type: ignore[return-value]


def is_changing(clip: PictureClip) -> bool:
    """Whether anything of a layer but its place, moves and material has keys."""
    return _changing.get(clip, lambda: _is_changing(clip))


def _is_changing(clip: PictureClip) -> bool:
    return any(is_animated(getattr(clip, n)) for n in clip.__struct_fields__ if n not in _MOVING)


def origin(node: Kind) -> Kind:
    """The struct that one was settled from; itself when it was not."""
    return _origins.get(node, lambda: node) if _origins.has(node) else node  # type: ignore[return-value]


def _at(node: Node, frame: float, kept: frozenset[str] = frozenset()) -> Node:
    fields = channel_fields(type(node))
    changes: dict[str, object] = {}
    for name in node.__struct_fields__:
        value = None if name in kept else getattr(node, name)
        if isinstance(value, Keys):
            number = float(channel_at(value, np.array([frame]))[0])
            changes[name] = min(max(number, fields[name].low), fields[name].high)
        elif isinstance(value, ColourKeys):
            changes[name] = colours_at(value, np.array([frame]))[0]
        elif isinstance(value, ContourKeys):
            changes[name] = contour_at(value, frame)
        elif isinstance(value, tuple):
            changes[name] = tuple(at_frame(i, frame) if isinstance(i, Node) else i for i in value)
        elif isinstance(value, Node):
            changes[name] = at_frame(value, frame)
    made = msgspec.structs.replace(node, **changes)
    _origins.get(made, lambda: node)
    return made
