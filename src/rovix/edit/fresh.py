"""Copies that share no id with what they were made from."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import msgspec

from rovix.model import Hug, Node, new_id
from rovix.model.treatment import Ride


def fresh_ids(node: Any) -> Any:
    """A copy of a struct, or a tuple of them, in which it and everything in it has an id of its own.

    Links among the copied layers lead to the copies; links to others stay.
    """
    return _copied(node, {old: new_id() for old in _ids(node)})


def _ids(node: Any) -> Iterator[str]:
    if isinstance(node, tuple):
        for item in node:
            yield from _ids(item)
    elif isinstance(node, Node):
        for name in node.__struct_fields__:
            if name == "id":
                yield node.id  # type: ignore[attr-defined]
            elif name != "extra":
                yield from _ids(getattr(node, name))


def _copied(node: Any, names: dict[str, str]) -> Any:
    if isinstance(node, tuple):
        return tuple(_copied(item, names) for item in node)
    if not isinstance(node, Node):
        return node
    links = ("id", "layer") if isinstance(node, Hug | Ride) else ("id", "parent")
    changes = {}
    for name in node.__struct_fields__:
        value = getattr(node, name)
        if name in links and isinstance(value, str):
            changes[name] = names.get(value, value)
        elif name != "extra":
            changes[name] = _copied(value, names)
    return msgspec.structs.replace(node, **changes)
