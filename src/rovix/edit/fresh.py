"""Copies that share no id with what they were made from."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any

import msgspec

from rovix.model import Node, new_id
from rovix.model.references import renamed
from rovix.model.structure import held_structs


def fresh_ids(node: Any) -> Any:
    """A copy of a struct, or a tuple of them, in which it and everything in it has an id of its own.

    What the copies name among themselves are the copies; names of others stay.
    """
    names = {old: new_id() for old in _ids(node)}
    return renamed(_copied(node, names), names)


def _ids(node: Any) -> Iterator[str]:
    if isinstance(node, tuple):
        for item in node:
            yield from _ids(item)
    elif isinstance(node, Node):
        if "id" in node.__struct_fields__:
            yield node.id  # type: ignore[attr-defined]
        for name in held_structs(type(node)):
            yield from _ids(getattr(node, name))


def _copied(node: Any, names: Mapping[str, str]) -> Any:
    if isinstance(node, tuple):
        return tuple(_copied(item, names) for item in node)
    if not isinstance(node, Node):
        return node
    changes = {name: _copied(getattr(node, name), names) for name in held_structs(type(node))}
    if "id" in node.__struct_fields__:
        changes["id"] = names[node.id]  # type: ignore[attr-defined]
    return msgspec.structs.replace(node, **changes)
