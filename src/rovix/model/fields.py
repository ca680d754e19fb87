"""Which fields of a struct are channels, and the limits of their values."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from msgspec import inspect

from rovix.model.channel import ColourKeys, Keys
from rovix.model.contour import ContourKeys
from rovix.model.identity import IdentityCache
from rovix.model.motion_path import MotionPath
from rovix.model.node import Node

Animated = Keys | ColourKeys | MotionPath | ContourKeys
"""What makes a field change over time."""
ANIMATED = (Keys, ColourKeys, MotionPath, ContourKeys)
_LEAST = 1e-6  # a width that must be above 0 is at least this


@dataclass(frozen=True, slots=True)
class ChannelField:
    """`kind` is number, colour, path or contour; a number's values stay from `low` to `high`."""

    kind: str
    low: float = -float("inf")
    high: float = float("inf")


@lru_cache(maxsize=256)
def channel_fields(struct: type[Node]) -> dict[str, ChannelField]:
    """The channels among a struct's fields, in their order."""
    info = inspect.type_info(struct)
    assert isinstance(info, inspect.StructType)
    found = {field.name: _channel(field.type) for field in info.fields}
    return {name: channel for name, channel in found.items() if channel is not None}


def _channel(kind: inspect.Type) -> ChannelField | None:
    if not isinstance(kind, inspect.UnionType):
        return None
    structs = {part.cls for part in kind.types if isinstance(part, inspect.StructType)}
    if Keys in structs:
        number = next(part for part in kind.types if isinstance(part, inspect.FloatType))
        low = _LEAST if number.gt == 0 else number.ge
        return ChannelField("number", _or(low, -float("inf")), _or(number.le, float("inf")))
    if ColourKeys in structs:
        return ChannelField("colour")
    if ContourKeys in structs:
        return ChannelField("contour")
    return ChannelField("path") if MotionPath in structs else None


def _or(limit: float | None, otherwise: float) -> float:
    return otherwise if limit is None else float(limit)


_animated: IdentityCache[bool] = IdentityCache()


def is_animated(value: object) -> bool:
    """Whether any channel in a struct, or in the structs below it, has keys."""
    if isinstance(value, ANIMATED):
        return True
    if isinstance(value, tuple):
        return any(is_animated(item) for item in value)
    if not isinstance(value, Node):
        return False
    return _animated.get(value, lambda: any(is_animated(getattr(value, n)) for n in value.__struct_fields__))
