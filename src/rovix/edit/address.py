"""Where a channel stands in a clip: `place.x`, `look.parts.<id>.width`, `fill.stops.1.colour`."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any

from rovix.edit.tree import replace, replace_clip
from rovix.errors import RovixError
from rovix.model import Clip, Node, Project
from rovix.model.contour import Contour
from rovix.model.fields import ANIMATED, Animated, ChannelField, channel_fields

Held = float | str | Animated | Contour | None
"""What a channel holds: a number, a colour, keys of one, a path, points of a line, or nothing."""
_ELSEWHERE = frozenset({"tracks", "transition", "playing", "extra", "moves", "styles"})


def channels_of(clip: Clip) -> dict[str, Held]:
    """Every channel of a clip by its address, in the order of its fields."""
    return {address: getattr(node, name) for address, node, name in _found(clip, "")}


def animated_of(clip: Clip | None) -> dict[str, Animated]:
    """The channels that have keys, by address."""
    found = channels_of(clip) if clip is not None else {}
    return {address: held for address, held in found.items() if isinstance(held, ANIMATED)}


def _found(node: Node, before: str) -> Iterator[tuple[str, Node, str]]:
    fields = channel_fields(type(node))
    for name in node.__struct_fields__:
        if name in _ELSEWHERE:
            continue
        value = getattr(node, name)
        if name in fields:
            yield before + name, node, name
        elif isinstance(value, Node):
            yield from _found(value, f"{before}{name}.")
        elif isinstance(value, tuple):
            for number, item in enumerate(value):
                if isinstance(item, Node):
                    yield from _found(item, f"{before}{name}.{getattr(item, 'id', number)}.")


def held_at(clip: Clip, address: str) -> Held:
    """What a channel holds; RovixError where there is none any more."""
    node, name = owner_at(clip, address)
    return getattr(node, name)


def field_at(clip: Clip, address: str) -> ChannelField:
    """What may stand in a channel."""
    node, name = owner_at(clip, address)
    return channel_fields(node.__class__)[name]


def with_held(clip: Clip, changes: Mapping[str, Held]) -> Clip:
    """The clip with channels holding something else."""
    for address, held in changes.items():
        owner_at(clip, address)
        clip = _put(clip, address.split("."), held)
    return clip


def put_held(project: Project, identity: str, changes: Mapping[str, Held]) -> Project:
    """The project with channels of one clip holding something else."""
    return replace_clip(project, identity, lambda clip: with_held(clip, changes))


def owner_at(clip: Clip, address: str) -> tuple[Node, str]:
    """The struct that has a channel, and its field; RovixError where there is none any more."""
    *way, name = address.split(".")
    node: Any = clip
    while way:
        step = way.pop(0)
        node = getattr(node, step, None)
        if isinstance(node, tuple):
            at = _index(node, way.pop(0)) if way else None
            node = None if at is None else node[at]
    if not isinstance(node, Node) or name not in channel_fields(type(node)):
        raise RovixError(f"There is no '{address}' in '{clip.title}' any more.")
    return node, name


def _put(node: Any, steps: list[str], held: Held) -> Any:
    name, *rest = steps
    if not rest:
        return replace(node, **{name: held})
    inside = getattr(node, name)
    if not isinstance(inside, tuple):
        return replace(node, **{name: _put(inside, rest, held)})
    at = _index(inside, rest[0])
    assert at is not None
    item = _put(inside[at], rest[1:], held)
    return replace(node, **{name: (*inside[:at], item, *inside[at + 1 :])})


def _index(items: tuple[Any, ...], step: str) -> int | None:
    """The place of an item by its id, or by its number where it has none."""
    named = [getattr(item, "id", str(number)) for number, item in enumerate(items)]
    return named.index(step) if step in named else None


def said_of(address: str) -> str:
    """A channel in words, without what it belongs to: 'scale X'."""
    name = address.rpartition(".")[2]
    plain = name.upper() if name in ("x", "y") else name.replace("_x", " X").replace("_y", " Y")
    return plain.replace("_", " ")
