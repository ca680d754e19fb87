"""What stands in one clip for a thing of another: its part of the look, its effect, its move."""

from __future__ import annotations

from typing import Any

from rovix.edit.tree import title_of
from rovix.errors import RovixError
from rovix.model import Clip

_HELD = ("effects", "look.parts")
"""Where a clip holds things with ids that channels belong to."""


def items_at(clip: Clip, place: str) -> tuple[Any, ...]:
    """The things that a clip holds at a place, `look.parts` or `moves`; none where it has no such place."""
    node: Any = clip
    for step in place.split("."):
        node = getattr(node, step, ())
    return node if isinstance(node, tuple) else ()


def counterpart(clip: Clip, place: str, identity: str, other: Clip) -> str:
    """The id of what stands in another clip for a clip's item: the as-manieth of its kind.

    RovixError where it has none.
    """
    own = items_at(clip, place)
    item = next((item for item in own if item.id == identity), None)
    if clip.id == other.id or item is None:
        return identity
    at = [one.id for one in own if _kind(one) == _kind(item)].index(identity)
    alike = [one.id for one in items_at(other, place) if _kind(one) == _kind(item)]
    if at >= len(alike):
        raise RovixError(f"'{title_of(other)}' has no such {_said(item)}.")
    return str(alike[at])


def address_on(clip: Clip, address: str, other: Clip) -> str:
    """The address of a clip's channel as it is in another clip; RovixError where that has none."""
    for place in _HELD:
        if address.startswith(f"{place}."):
            identity, rest = address.removeprefix(f"{place}.").split(".", 1)
            return f"{place}.{counterpart(clip, place, identity, other)}.{rest}"
    return address


def _kind(item: Any) -> object:
    """Moves are alike by their role, all else by its type."""
    return getattr(item, "role", type(item))


def _said(item: Any) -> str:
    return str(getattr(item, "role", "")) or str(type(item).__struct_config__.tag).replace("-", " ")
