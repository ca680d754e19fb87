"""A channel: one number or colour that can change over time, as a constant or as keys."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

import msgspec

from rovix.model.colour import Colour
from rovix.model.limits import Amount, Curve, Far, Frame
from rovix.model.node import Id, Node, new_id

Handle = tuple[Annotated[float, msgspec.Meta(ge=0, le=100_000_000)], Amount]
"""A tangent's end from its key: frames away from it, 0 or more, and how much the value differs."""
Mix = Literal["srgb", "linear"]


class Key(Node, frozen=True, kw_only=True):
    """A value at a whole frame of the clip; `curve` is the easing from here to the next key.

    With the curve `tangents` the way to the next key leaves along `after` and comes in along the
    next key's `before`; None is level, a third of the way long. `joined` tangents keep one line.
    """

    frame: Frame
    value: Amount
    curve: Curve = "linear"
    before: Handle | None = None
    after: Handle | None = None
    joined: bool = True


class Keys(Node, frozen=True, kw_only=True):
    """The keys of one channel, frames rising; held before the first and after the last."""

    id: Id = msgspec.field(default_factory=new_id)
    keys: Annotated[tuple[Key, ...], msgspec.Meta(min_length=1)]


class ColourKey(Node, frozen=True, kw_only=True):
    """A colour at a whole frame of the clip, and the easing from here to the next key."""

    frame: Frame
    value: Colour
    curve: Curve = "linear"


class ColourKeys(Node, frozen=True, kw_only=True):
    """The keys of a colour; `mix` says where colours are mixed: as code values of sRGB, or as light."""

    id: Id = msgspec.field(default_factory=new_id)
    keys: Annotated[tuple[ColourKey, ...], msgspec.Meta(min_length=1)]
    mix: Mix = "srgb"


Channel = float | Keys


def constant(channel: Channel) -> float | None:
    """The channel's value when nothing animates it, else None."""
    return None if isinstance(channel, Keys) else channel


# Most code reads structs as they are at a frame (rovix.motion.at_frame), where every channel is
# a plain number or colour; so that is what these fields are typed as. Files and edits see both.
if TYPE_CHECKING:
    Number = float
    Share = float
    Offset = float
    Sigma = float
    KeyedColour = str
else:
    Number = Far | Keys
    Share = Annotated[float, msgspec.Meta(ge=0, le=1)] | Keys
    Offset = Annotated[float, msgspec.Meta(ge=-20_000, le=20_000)] | Keys
    Sigma = Annotated[float, msgspec.Meta(ge=0, le=1000)] | Keys
    KeyedColour = Colour | ColourKeys


def keyed(low: float, high: float, above: bool = False) -> object:
    """The type of a number from `low` (with `above` not itself) to `high`, or keys of it."""
    limits = msgspec.Meta(gt=low, le=high) if above else msgspec.Meta(ge=low, le=high)
    return Annotated[float, limits] | Keys
