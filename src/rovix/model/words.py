"""The words of a text layer and how they are set."""

from __future__ import annotations

from typing import Annotated, Literal

import msgspec

from rovix.model.node import Node

Align = Literal["left", "centre", "right"]


class Words(Node, frozen=True, kw_only=True):
    """Text and type.

    `size` is px of the em; `tracking` is em added between letters; `leading` is the distance of
    baselines as a share of the size. Lines part at line feeds.
    """

    text: Annotated[str, msgspec.Meta(max_length=100_000)] = ""
    family: str = "Outfit"
    weight: Annotated[int, msgspec.Meta(ge=1, le=1000)] = 700
    italic: bool = False
    size: Annotated[float, msgspec.Meta(gt=0, le=20_000)] = 120.0
    align: Align = "centre"
    tracking: Annotated[float, msgspec.Meta(ge=-5, le=50)] = 0.0
    leading: Annotated[float, msgspec.Meta(ge=0, le=20)] = 1.2
