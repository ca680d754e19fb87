"""Finding and changing any place of a project's tree, in tests that change it at random."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import msgspec

from rovix.model import Node, Project
from rovix.model.structure import held_structs

replace = msgspec.structs.replace


def every_struct() -> set[type[Node]]:
    """All structs that a project may hold."""
    found, waiting = set(), [Project]
    while waiting:
        here = waiting.pop()
        if here not in found:
            found.add(here)
            waiting += [kind for kinds in held_structs(here).values() for kind in kinds]
    return found


def nodes_in(value: Any, way: tuple[Any, ...] = ()) -> Iterator[tuple[tuple[Any, ...], Node]]:
    """Every struct of a tree with the way to it."""
    if isinstance(value, tuple):
        for number, item in enumerate(value):
            yield from nodes_in(item, (*way, number))
    elif isinstance(value, Node):
        yield way, value
        for name in held_structs(type(value)):
            yield from nodes_in(getattr(value, name), (*way, name))


def with_value(value: Any, way: tuple[Any, ...], field: str, new: Any) -> Any:
    """The tree with one field of the struct at the end of a way changed."""
    if not way:
        return replace(value, **{field: new})
    step, *rest = way
    if isinstance(step, int):
        return (*value[:step], with_value(value[step], tuple(rest), field, new), *value[step + 1 :])
    return replace(value, **{step: with_value(getattr(value, step), tuple(rest), field, new)})
