"""What a row shows for several clips: the value that all of them have, or that they differ."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any, Final


class Mixed:
    """The clips have different values."""

    def __repr__(self) -> str:
        return "mixed"

    __str__ = __repr__


MIXED: Final = Mixed()


class Absent:
    """A clip has nothing of what a row shows."""


ABSENT: Final = Absent()


def common(values: Iterable[Any]) -> Any:
    """The value that all have who have one, `MIXED` where they differ, `ABSENT` where none has one.

    >>> common([1, ABSENT, 1]), common([1, 2]), common([None, None])
    (1, mixed, None)
    """
    found = [value for value in values if value is not ABSENT]
    if not found:
        return ABSENT
    return found[0] if all(value == found[0] for value in found) else MIXED
