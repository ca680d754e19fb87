"""What the fields of a struct may hold, read off their types once."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from msgspec import inspect

from rovix.model.node import Node
from rovix.model.reference import Reference

_fields: dict[type, tuple[inspect.Field, ...]] = {}


@dataclass(frozen=True, slots=True)
class ReferenceField:
    """A field that names another thing; `optional` when it may be None; `usual` is its default."""

    name: str
    reference: Reference
    optional: bool
    usual: Any


def field_types(struct: type[Node]) -> tuple[inspect.Field, ...]:
    """A struct's fields with their types, without `extra`."""
    if struct not in _fields:
        # One reading tells of every struct below as well; each reading on its own would cost as much.
        for found in _structs(inspect.type_info(struct)):
            _fields.setdefault(found.cls, tuple(f for f in found.fields if f.name != "extra"))
    return _fields[struct]


def _structs(kind: inspect.Type) -> Iterator[inspect.StructType]:
    waiting, seen = [kind], set()
    while waiting:
        here = waiting.pop()
        if isinstance(here, inspect.StructType):
            if here.cls in seen:
                continue
            seen.add(here.cls)
            yield here
            waiting += (field.type for field in here.fields)
        else:
            waiting += _parts(here)


def _parts(kind: inspect.Type) -> tuple[inspect.Type, ...]:
    """The types that a union, a tuple or an annotation is made of."""
    if isinstance(kind, inspect.UnionType):
        return tuple(kind.types)
    if isinstance(kind, inspect.VarTupleType):
        return (kind.item_type,)
    if isinstance(kind, inspect.TupleType):
        return tuple(kind.item_types)
    return (kind.type,) if isinstance(kind, inspect.Metadata) else ()


@lru_cache(maxsize=512)
def held_structs(struct: type[Node]) -> dict[str, frozenset[type[Node]]]:
    """The structs that each field may hold, itself or in tuples; fields that hold none are left out."""
    found = {field.name: frozenset(_held(field.type)) for field in field_types(struct)}
    return {name: structs for name, structs in found.items() if structs}


def _held(kind: inspect.Type) -> Iterator[type[Node]]:
    if isinstance(kind, inspect.StructType):
        assert issubclass(kind.cls, Node), "the tree is made of nodes alone"
        yield kind.cls
    else:
        for part in _parts(kind):
            yield from _held(part)


@lru_cache(maxsize=512)
def reference_fields(struct: type[Node]) -> tuple[ReferenceField, ...]:
    """The fields of a struct that name other things."""
    found = []
    for field in field_types(struct):
        for part in (field.type, *_parts(field.type)):
            reference = (part.extra or {}).get("reference") if isinstance(part, inspect.Metadata) else None
            if reference is not None:
                optional = may_be_none(struct, field.name)
                found.append(ReferenceField(field.name, reference, optional, field.default))
    return tuple(found)


@lru_cache(maxsize=2048)
def may_be_none(struct: type[Node], name: str) -> bool:
    """Whether None stands among what a field may hold."""
    field = next(field for field in field_types(struct) if field.name == name)
    return any(isinstance(part, inspect.NoneType) for part in _parts(field.type))


@lru_cache(maxsize=512)
def ways_to_references(struct: type[Node]) -> tuple[str, ...]:
    """The fields in whose structs, or in those below them, something is named."""
    return tuple(
        name
        for name, structs in held_structs(struct).items()
        if any(reference_fields(below) for start in structs for below in _below(start))
    )


@lru_cache(maxsize=512)
def _below(struct: type[Node]) -> frozenset[type[Node]]:
    """A struct and all that may stand somewhere in it."""
    found: set[type[Node]] = set()
    waiting = [struct]
    while waiting:
        here = waiting.pop()
        if here not in found:
            found.add(here)
            waiting += (kind for kinds in held_structs(here).values() for kind in kinds)
    return frozenset(found)
