"""Values derived from structs, kept as long as the struct lives."""

from __future__ import annotations

import weakref
from collections import OrderedDict
from collections.abc import Callable, Hashable
from typing import Generic, TypeVar

from rovix.model.node import Node

Value = TypeVar("Value")


class IdentityCache(Generic[Value]):
    """Remembers one value per struct *identity* and detail.

    The tree is immutable, so the same struct always gives the same value; going by identity never
    hashes a whole tree. An entry leaves with its struct.
    """

    def __init__(self) -> None:
        self._entries: dict[tuple[int, Hashable], tuple[weakref.ref[Node], Value]] = {}

    def get(self, node: Node, make: Callable[[], Value], detail: Hashable = None) -> Value:
        """The kept value for this very struct and detail, or a new one by `make`."""
        key = (id(node), detail)
        entry = self._entries.get(key)
        if entry is not None and entry[0]() is node:
            return entry[1]
        value = make()
        self._entries[key] = (weakref.ref(node, lambda _: self._forget(key)), value)
        return value

    def has(self, node: Node, detail: Hashable = None) -> bool:
        """Whether a value is kept for this very struct and detail."""
        entry = self._entries.get((id(node), detail))
        return entry is not None and entry[0]() is node

    def _forget(self, key: tuple[int, Hashable]) -> None:
        entry = self._entries.get(key)
        # The key's id may already belong to a younger struct.
        if entry is not None and entry[0]() is None:
            del self._entries[key]

    def __len__(self) -> int:
        return len(self._entries)


class RecentCache(Generic[Value]):
    """Remembers the last few values per struct identity and detail, for those that change by frame."""

    def __init__(self, most: int) -> None:
        self._most = most
        self._entries: OrderedDict[tuple[int, Hashable], tuple[Node, Value]] = OrderedDict()

    def get(self, node: Node, make: Callable[[], Value], detail: Hashable = None) -> Value:
        """The kept value for this very struct and detail, or a new one by `make`."""
        # The entry holds the struct, so that its id stays its own.
        key = (id(node), detail)
        if key not in self._entries:
            self._entries[key] = (node, make())
            while len(self._entries) > self._most:
                self._entries.popitem(last=False)
        self._entries.move_to_end(key)
        return self._entries[key][1]
