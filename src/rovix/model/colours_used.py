"""The colours of a project, found by the types of its fields."""

from __future__ import annotations

from collections import Counter
from functools import lru_cache

from msgspec import inspect

from rovix.model.colour import COLOUR_PATTERN
from rovix.model.node import Node
from rovix.model.project import Project
from rovix.model.structure import field_types, held_structs


def used_colours(project: Project) -> list[str]:
    """Every colour that a project names, as `#rrggbb` or `#rrggbbaa`, those named most often first."""
    found: Counter[str] = Counter()
    waiting: list[object] = [project]
    while waiting:
        value = waiting.pop()
        if isinstance(value, Node):
            kind = type(value)
            found.update(
                c.lower() for c in (getattr(value, name) for name in _colour_fields(kind)) if _said(c)
            )
            waiting += [getattr(value, name) for name in held_structs(kind)]
        elif isinstance(value, tuple):
            waiting += value
    return [colour for colour, _ in found.most_common()]


def _said(value: object) -> bool:
    """Whether a field that may hold keys, or nothing, holds a colour by itself."""
    return isinstance(value, str)


@lru_cache(maxsize=256)
def _colour_fields(struct: type[Node]) -> tuple[str, ...]:
    return tuple(field.name for field in field_types(struct) if _is_colour(field.type))


def _is_colour(kind: inspect.Type) -> bool:
    if isinstance(kind, inspect.UnionType):
        return any(map(_is_colour, kind.types))
    return isinstance(kind, inspect.StrType) and kind.pattern == COLOUR_PATTERN
