"""Effects without a layer, as the shelf keeps them."""

from __future__ import annotations

from typing import Annotated

import msgspec

from rovix.model.effects import AnyEffect
from rovix.model.node import Node


class EffectChain(Node, frozen=True, kw_only=True):
    """One effect or more, the first done first."""

    effects: Annotated[tuple[AnyEffect, ...], msgspec.Meta(min_length=1, max_length=64)]
