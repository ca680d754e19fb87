"""What every struct of the tree has in common."""

from __future__ import annotations

import secrets
from typing import Annotated, Any

import msgspec

Id = Annotated[str, msgspec.Meta(min_length=1, max_length=64)]


class Node(msgspec.Struct, frozen=True, kw_only=True, weakref=True):
    """A frozen struct of the project tree.

    `extra` keeps fields of the file that this version does not know, so that they survive being
    opened and saved. Structs compare by value; caches go by identity.
    """

    extra: dict[str, Any] = {}


def new_id() -> str:
    """A fresh id of 12 hexadecimal digits; ids stay with their thing for life."""
    return secrets.token_hex(6)
