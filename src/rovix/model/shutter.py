"""Motion blur: how long the shutter is open for each picture."""

from __future__ import annotations

from typing import Annotated

import msgspec

from rovix.model.node import Node


class Shutter(Node, frozen=True, kw_only=True):
    """While `on`, a picture is the mean of moments from `phase` on, over `angle`, both in degrees of
    which 360 are a frame; at most `samples` moments, as few as leave steps of 2 px."""

    on: bool = False
    angle: Annotated[float, msgspec.Meta(gt=0, le=720)] = 180.0
    phase: Annotated[float, msgspec.Meta(ge=-720, le=720)] = 0.0
    samples: Annotated[int, msgspec.Meta(ge=2, le=256)] = 32
