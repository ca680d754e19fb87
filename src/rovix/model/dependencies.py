"""What a result was made from: equal as long as every struct it depends on is the very same.

Whoever evaluates or mixes says what that is; keys of pictures, meters and thumbnails are made of it.
"""

from __future__ import annotations

from collections.abc import Hashable, Iterable, Iterator

from rovix.model.identity import IdentityCache
from rovix.model.node import Node
from rovix.model.project import Project
from rovix.model.references import Named, references


class Dependencies:
    """The very structs that a result depends on, and plain values beside them.

    Two are equal when every struct is the same object; one keeps its structs alive, so an identity
    is never taken over by a younger struct.
    """

    __slots__ = ("_hash", "_identity", "_structs")

    def __init__(self, plain: Hashable, structs: Iterable[Node]) -> None:
        self._structs = tuple(structs)
        self._identity = (plain, tuple(map(id, self._structs)))
        self._hash = hash(self._identity)

    def __hash__(self) -> int:
        return self._hash

    def __eq__(self, other: object) -> bool:
        return self is other or (isinstance(other, Dependencies) and self._identity == other._identity)


_named: IdentityCache[tuple[Named, ...]] = IdentityCache()


def named_by(node: Node) -> tuple[Named, ...]:
    """All that a struct and what is in it name, kept as long as the struct lives."""
    return _named.get(node, lambda: tuple(references(node)))


def beside(project: Project, structs: Iterable[Node], heard: bool) -> Iterator[Node]:
    """The files and sequences that structs name, through those sequences too, once each.

    With `heard` also the files that only sound.
    """
    things: dict[str, Node] = {item.id: item for item in project.media}
    things |= {sequence.id: sequence for sequence in project.sequences}
    waiting, seen = list(structs), set()
    while waiting:
        for named in named_by(waiting.pop()):
            to = named.reference
            found = things.get(named.target) if to.kind in ("media", "sequence") else None
            if found is None or named.target in seen or (to.heard and not heard):
                continue
            seen.add(named.target)
            yield found
            if to.kind == "sequence":
                waiting.append(found)
