"""What differs between two immutable trees, as little as possible: parts that are the very same are left out.

Both sides have the old tree; only what is not the same struct or item there goes from one to the other.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import msgspec

_WORTH = 0.5  # of the items of a tuple of plain values: where more are others, all of it is said


@dataclass(frozen=True, slots=True)
class Fields:
    """The fields of a struct that are others, each as a patch or whole."""

    changed: dict[str, Any]


@dataclass(frozen=True, slots=True)
class Items:
    """The items of a tuple, as long as before, that are others, by number."""

    changed: dict[int, Any]


def patch(old: Any, new: Any) -> Any:
    """What makes `new` of `old`: Fields or Items, or `new` itself."""
    if isinstance(new, msgspec.Struct) and type(old) is type(new):
        pairs = ((name, getattr(old, name), getattr(new, name)) for name in new.__struct_fields__)
        return Fields({name: patch(a, b) for name, a, b in pairs if a is not b})
    if isinstance(new, tuple) and isinstance(old, tuple) and len(old) == len(new):
        others = {n: (a, b) for n, (a, b) in enumerate(zip(old, new, strict=True)) if a is not b}
        if len(others) <= _WORTH * len(new) or isinstance(new[0], msgspec.Struct | tuple):
            return Items({n: patch(a, b) for n, (a, b) in others.items()})
    return new


def patched(old: Any, change: Any) -> Any:
    """The new tree of an old one and its patch; what is not in the patch is the very same."""
    if isinstance(change, Fields):
        made = {name: patched(getattr(old, name), value) for name, value in change.changed.items()}
        return msgspec.structs.replace(old, **made)
    if isinstance(change, Items):
        items = list(old)
        for number, value in change.changed.items():
            items[number] = patched(items[number], value)
        return tuple(items)
    return change
