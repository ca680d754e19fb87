"""All references of a tree: found, named anew, let go. No caller knows which fields hold them."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

import msgspec

from rovix.model.identity import IdentityCache
from rovix.model.node import Node
from rovix.model.reference import Kind, Reference
from rovix.model.structure import ReferenceField, may_be_none, reference_fields, ways_to_references
from rovix.model.track import Track

replace = msgspec.structs.replace
Trail = tuple[Any, str | int]
"""Where a value stands: the trail of what it stands in, and the step from there, a field or a number."""
ROOT: Trail = (None, "$")


@dataclass(frozen=True, slots=True)
class Named:
    """Something named: by which struct and field, and where that stands."""

    owner: Node
    field: ReferenceField
    target: str
    trail: Trail

    @property
    def reference(self) -> Reference:
        return self.field.reference

    @property
    def path(self) -> str:
        """As in `$.tracks[0].clips[2].parent`."""
        return f"{path_of(self.trail)}.{self.field.name}"


def path_of(trail: Trail | None) -> str:
    """A trail as text."""
    steps: list[str] = []
    while trail is not None:
        trail, step = trail
        steps.append(f"[{step}]" if isinstance(step, int) else step if trail is None else f".{step}")
    return "".join(reversed(steps))


def references(value: Any, kind: Kind | None = None, at: Trail = ROOT, inner: bool = True) -> list[Named]:
    """What a struct, or a tuple of them, names, of one kind or of all; sounds of ours are no names.

    Without `inner` the tracks in groups are left out: what they name are layers of their own.
    """
    found: list[Named] = []
    if isinstance(value, Node):
        _collect(value, at, inner, found)
    elif isinstance(value, tuple):
        _collect_each(value, at, inner, found)
    return found if kind is None else [named for named in found if named.reference.kind == kind]


def _collect(node: Node, trail: Trail, inner: bool, found: list[Named]) -> None:
    struct = type(node)
    for field in reference_fields(struct):
        target = getattr(node, field.name)
        if target is not None and target not in field.reference.own:
            found.append(Named(node, field, target, trail))
    for name in ways_to_references(struct):
        below = getattr(node, name)
        if isinstance(below, Node):
            _collect(below, (trail, name), inner, found)
        elif below and (inner or not isinstance(below[0], Track)):
            _collect_each(below, (trail, name), inner, found)


def _collect_each(items: tuple[Any, ...], trail: Trail, inner: bool, found: list[Named]) -> None:
    for number, item in enumerate(items):
        if isinstance(item, Node):
            _collect(item, (trail, number), inner, found)


def targets(value: Any, kind: Kind, inner: bool = True) -> list[str]:
    """The ids of one kind that a struct, or a tuple of them, names, one for each use. Of a struct they are
    kept as long as it lives: checks ask again and again, of thousands of clips."""

    def found() -> tuple[str, ...]:
        return tuple(named.target for named in references(value, kind, inner=inner))

    return list(_targets.get(value, found, (kind, inner)) if isinstance(value, Node) else found())


_targets: IdentityCache[tuple[str, ...]] = IdentityCache(16 << 20)


def renamed(value: Any, names: Mapping[str, str]) -> Any:
    """A struct, or a tuple of them, that names what stands in `names` by the ids given there."""

    def change(node: Node, field: ReferenceField) -> dict[str, Any]:
        target = getattr(node, field.name)
        return {} if names.get(target, target) == target else {field.name: names[target]}

    return _each(value, change)


def let_go(value: Any, gone: Callable[[Reference, str], bool]) -> Any:
    """A struct, or a tuple of them, that no longer names what is gone.

    A name that may be None becomes None, one that may be a sound of ours the usual one of these; else
    what holds it goes: from its field where that may be None, from its tuple, or with its own holder.
    None when that is all there was.
    """

    def change(node: Node, field: ReferenceField) -> dict[str, Any] | None:
        target = getattr(node, field.name)
        if target is None or target in field.reference.own or not gone(field.reference, target):
            return {}
        if field.optional:
            return {field.name: None}
        return {field.name: field.usual} if field.usual in field.reference.own else None

    return _each(value, change)


def _each(value: Any, change: Callable[[Node, ReferenceField], dict[str, Any] | None]) -> Any:
    """The value with what `change` says for each name in it; None where it says that it cannot stay."""
    if isinstance(value, tuple):
        items = tuple(_each(item, change) for item in value)
        kept = tuple(item for item in items if item is not None)
        same = len(kept) == len(value) and all(a is b for a, b in zip(kept, value, strict=True))
        return value if same else kept
    return _changed(value, change) if isinstance(value, Node) else value


def _changed(node: Node, change: Callable[[Node, ReferenceField], dict[str, Any] | None]) -> Node | None:
    changes: dict[str, Any] = {}
    for field in reference_fields(type(node)):
        made = change(node, field)
        if made is None:
            return None
        changes |= made
    for name in ways_to_references(type(node)):
        old = getattr(node, name)
        new = _each(old, change)
        if new is None and old is not None and not may_be_none(type(node), name):
            return None
        if new is not old:
            changes[name] = new
    return replace(node, **changes) if changes else node
