"""What every struct of the tree has in common."""

from __future__ import annotations

import secrets
from typing import Annotated, Any

import msgspec

Id = Annotated[str, msgspec.Meta(min_length=1, max_length=64)]


EXTRA = "(extra)"
"""What :attr:`Node.extra` is called in data: nothing that a field is likely to be called."""


class Node(msgspec.Struct, frozen=True, kw_only=True, weakref=True, forbid_unknown_fields=True):
    """A frozen struct of the project tree.

    `extra` keeps fields of the file that this version does not know, so that they survive being
    opened and saved; readers put them there, for the structs know only their own. Structs compare by
    value; caches go by identity.
    """

    extra: dict[str, Any] = msgspec.field(default={}, name=EXTRA)


def new_id() -> str:
    """A fresh id of 12 hexadecimal digits; ids stay with their thing for life."""
    return secrets.token_hex(6)
