"""The roles of moves, a row each: when they go on, and what they are called."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Role = Literal["entrance", "loop", "exit"]


@dataclass(frozen=True, slots=True)
class RoleFacts:
    """`side` says which part of the clip the moves take: they end at rest at its `start`, begin at rest at
    its `end`, or beat `between` the two. `reverse` is the role of the same way back."""

    side: Literal["start", "between", "end"]
    article: str
    plural: str
    reverse: Role | None = None


ROLES: dict[Role, RoleFacts] = {
    "entrance": RoleFacts("start", "an", "entrances", reverse="exit"),
    "loop": RoleFacts("between", "a", "loops"),
    "exit": RoleFacts("end", "an", "exits", reverse="entrance"),
}
"""In the order in which they are shown; a test compares with the type."""
