"""What a group remembers of the title that it was made of."""

from __future__ import annotations

from typing import Annotated

import msgspec

from rovix.model.limits import Name
from rovix.model.node import Node
from rovix.model.reference import refers

SetId = Annotated[str, refers("part", "be set in", loose=True)]


class SetLayer(Node, frozen=True, kw_only=True):
    """A layer within the group whose words, or whose file, are those of a title's `setting`."""

    setting: Name
    layer: SetId


class TitleUse(Node, frozen=True, kw_only=True):
    """The name of a title, the `version` that was put here and at what `scale`, and which layers say what can
    be set; `values` are those that were given for all else, as name and value."""

    name: Name
    version: Annotated[int, msgspec.Meta(ge=1, le=1_000_000)] = 1
    scale: Annotated[float, msgspec.Meta(gt=0, le=100_000)] = 1.0
    layers: tuple[SetLayer, ...] = ()
    values: tuple[tuple[Name, Name], ...] = ()
