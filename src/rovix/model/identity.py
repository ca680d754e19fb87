"""Values derived from structs, kept as long as the struct lives."""

from __future__ import annotations

import gc
import weakref
from collections import OrderedDict
from collections.abc import Callable, Hashable, Iterator
from contextlib import contextmanager
from functools import cache
from typing import Any, Generic, TypeVar

import msgspec

from rovix.model.node import Node

Value = TypeVar("Value")


_ASKED = 8
_PLAIN = frozenset({int, float, bool, str, bytes, type(None)})
MOST = 48 << 20
"""Bytes that one cache may hold by default."""


def size_of(value: object, depth: int = 4) -> int:
    """About how many bytes a value holds: its arrays, and a little for everything around them."""
    kind = type(value)
    if kind is bytes or kind is msgspec.Raw:
        return 48 + len(memoryview(value))  # type: ignore[arg-type]
    if depth == 0 or kind in _PLAIN:
        return 48
    if isinstance(value, Node):
        return 16  # a struct of the tree is there anyway
    size = getattr(value, "nbytes", None)
    if isinstance(size, int):
        return size + 120
    if isinstance(value, dict):
        return 200 + sum(size_of(item, depth - 1) for item in value.values())
    if isinstance(value, tuple | list):
        # Of a long row the first say what each holds.
        first = value[:_ASKED]
        share = len(value) / max(1, len(first))
        return 64 + round(share * sum(size_of(item, depth - 1) for item in first))
    held = [getattr(value, name, None) for name in _slots(kind)]  # type: ignore[arg-type]
    held += getattr(value, "__dict__", {}).values()
    return 64 + sum(size_of(item, depth - 1) for item in held)


@cache
def _slots(kind: type) -> tuple[str, ...]:
    names = (name for base in kind.__mro__ for name in getattr(base, "__slots__", ()))
    return tuple(name for name in names if name not in ("__weakref__", "__dict__"))


_all: weakref.WeakSet[IdentityCache[Any] | RecentCache[Any]] = weakref.WeakSet()


def forget_everything() -> None:
    """Empty every cache: something that values are derived from has changed outside of the tree."""
    for kept in _all:
        kept.clear()


class _Entry(Generic[Value]):
    __slots__ = ("owner", "size", "value")

    def __init__(self, owner: weakref.ref[Node], value: Value, size: int) -> None:
        self.owner, self.value, self.size = owner, value, size


class IdentityCache(Generic[Value]):
    """Remembers one value per struct *identity* and detail, at most so many bytes of them.

    The tree is immutable, so the same struct always gives the same value; going by identity never
    hashes a whole tree. An entry leaves with its struct; those used longest ago leave first, for the
    history keeps every struct there ever was alive.
    """

    def __init__(self, most: int = MOST) -> None:
        self._entries: OrderedDict[tuple[int, Hashable], _Entry[Value]] = OrderedDict()
        self._most = most
        self.held = 0
        """About how many bytes there are."""
        _all.add(self)

    def get(self, node: Node, make: Callable[[], Value], detail: Hashable = None) -> Value:
        """The kept value for this very struct and detail, or a new one by `make`."""
        key = (id(node), detail)
        entry = self._entries.get(key)
        if entry is not None and entry.owner() is node:
            self._entries.move_to_end(key)
            return entry.value
        value = make()
        self._drop(key)
        size = size_of(value)
        self._entries[key] = _Entry(weakref.ref(node, lambda _: self._forget(key)), value, size)
        self.held += size
        while self.held > self._most and len(self._entries) > 1:
            self._drop(next(iter(self._entries)))
        return value

    def clear(self) -> None:
        """Forget all values."""
        self._entries.clear()
        self.held = 0

    def has(self, node: Node, detail: Hashable = None) -> bool:
        """Whether a value is kept for this very struct and detail."""
        entry = self._entries.get((id(node), detail))
        return entry is not None and entry.owner() is node

    def _drop(self, key: tuple[int, Hashable]) -> None:
        entry = self._entries.pop(key, None)
        if entry is not None:
            self.held -= entry.size

    def _forget(self, key: tuple[int, Hashable]) -> None:
        entry = self._entries.get(key)
        # The key's id may already belong to a younger struct.
        if entry is not None and entry.owner() is None:
            self._drop(key)

    def __len__(self) -> int:
        return len(self._entries)


class RecentCache(Generic[Value]):
    """Remembers the last few values per identity of what never changes, and detail."""

    def __init__(self, most: int) -> None:
        self._most = most
        self._entries: OrderedDict[tuple[int, Hashable], tuple[object, Value]] = OrderedDict()
        _all.add(self)

    def clear(self) -> None:
        """Forget all values."""
        self._entries.clear()

    def get(self, of: object, make: Callable[[], Value], detail: Hashable = None) -> Value:
        """The kept value for this very thing and detail, or a new one by `make`."""
        # The entry holds the thing, so that its id stays its own.
        key = (id(of), detail)
        if key not in self._entries:
            self._entries[key] = (of, make())
            while len(self._entries) > self._most:
                self._entries.popitem(last=False)
        self._entries.move_to_end(key)
        return self._entries[key][1]


@contextmanager
def without_collecting() -> Iterator[None]:
    """The structs that come stay; looking for garbage among them takes most of the time."""
    collects = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if collects:
            gc.enable()
