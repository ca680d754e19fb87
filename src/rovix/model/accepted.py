"""What a sequence says of its checks: what was accepted as it is, and what is to be kept free."""

from __future__ import annotations

from typing import Annotated

import msgspec

from rovix.model.limits import Name
from rovix.model.node import Id, Node, new_id
from rovix.model.reference import refers

CheckedId = Annotated[str, refers("part", "be accepted for", loose=True)]
Share = Annotated[float, msgspec.Meta(ge=0, le=1)]


class Accepted(Node, frozen=True, kw_only=True):
    """A check of one `kind` that found something in a `layer` (None: in the whole sequence), and why that
    stays as it is."""

    kind: Annotated[str, msgspec.Meta(min_length=1, max_length=40)]
    layer: CheckedId | None = None
    reason: Name = ""


class KeepFree(Node, frozen=True, kw_only=True):
    """A box that words keep out of, by shares of the frame from its top left, such as where a player has its
    buttons."""

    id: Id = msgspec.field(default_factory=new_id)
    name: Name = "Keep free"
    left: Share = 0.0
    top: Share = 0.8
    right: Share = 1.0
    bottom: Share = 1.0
