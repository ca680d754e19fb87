"""A channel: one number that can change over time, as a constant or as keys."""

from __future__ import annotations

from typing import Annotated

import msgspec

from rovix.model.node import Id, Node, new_id


class Key(Node, frozen=True, kw_only=True):
    """A value at a whole frame of the clip; `curve` is the easing from here to the next key."""

    frame: int
    value: float
    curve: str = "linear"


class Keys(Node, frozen=True, kw_only=True):
    """The keys of one channel, frames rising; held before the first and after the last."""

    id: Id = msgspec.field(default_factory=new_id)
    keys: Annotated[tuple[Key, ...], msgspec.Meta(min_length=1)]


Channel = float | Keys


def constant(channel: Channel) -> float | None:
    """The channel's value when nothing animates it, else None."""
    return None if isinstance(channel, Keys) else channel
