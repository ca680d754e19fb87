"""Structs as plain JSON data and back, unknown fields kept."""

from __future__ import annotations

from functools import lru_cache
from typing import Any

import msgspec.inspect as inspect

from rovix.model import Node, Project
from rovix.model.node import EXTRA


def plain(value: Any) -> Any:
    """Structs as dicts in the order of their fields, unknown fields back among them."""
    if isinstance(value, Node):
        config = value.__struct_config__
        tag = {config.tag_field: config.tag} if config.tag_field else {}
        known = {name: plain(getattr(value, name)) for name in value.__struct_fields__ if name != "extra"}
        return tag | known | value.extra
    return [plain(item) for item in value] if isinstance(value, tuple) else value


def with_extra(data: Any, kind: type[Node]) -> Any:
    """The data with unknown fields of each struct moved into its `extra`; `kind` is the root's."""
    return _moved(data, _type_of(kind))


@lru_cache(maxsize=8)
def _type_of(kind: type[Node]) -> inspect.Type:
    return inspect.type_info(kind)


def _moved(data: Any, info: inspect.Type) -> Any:
    if isinstance(info, inspect.UnionType):
        info = _alternative(data, info)
    if isinstance(info, inspect.StructType) and isinstance(data, dict):
        return _struct_data(data, info)
    if isinstance(info, inspect.VarTupleType) and isinstance(data, list):
        return [_moved(item, info.item_type) for item in data]
    return data


def _struct_data(data: dict[str, Any], info: inspect.StructType) -> dict[str, Any]:
    fields = {field.encode_name: field.type for field in info.fields if field.name != "extra"}
    head = {info.tag_field} if info.tag_field else {"format", "version"} if info.cls is Project else set()
    known = {name: _moved(value, fields[name]) for name, value in data.items() if name in fields}
    tag = {info.tag_field: data[info.tag_field]} if info.tag_field else {}
    unknown = {name: value for name, value in data.items() if name not in fields and name not in head}
    return tag | known | {EXTRA: unknown}


def _alternative(data: Any, union: inspect.UnionType) -> inspect.Type:
    structs = [option for option in union.types if isinstance(option, inspect.StructType)]
    for option in structs:
        if isinstance(data, dict) and (option.tag_field is None or data.get(option.tag_field) == option.tag):
            return option
    return inspect.AnyType()
