"""How loud a clip is, and from where."""

from __future__ import annotations

from typing import Annotated

import msgspec

from rovix.model.channel import Keys
from rovix.model.limits import Curve
from rovix.model.node import Node

Fade = Annotated[int, msgspec.Meta(ge=0, le=100_000_000)]


class Sound(Node, frozen=True, kw_only=True):
    """`gain` in dB, `pan` from -1 (left) to 1 (right); fades in frames of the clip.

    A fade's level, 0 to 1, is the easing of the share of its way; its curve is named for the way
    up, and a fade out runs it backwards.
    """

    gain: Annotated[float, msgspec.Meta(ge=-120, le=60)] | Keys = 0.0
    pan: Annotated[float, msgspec.Meta(ge=-1, le=1)] | Keys = 0.0
    fade_in: Fade = 0
    fade_out: Fade = 0
    fade_in_curve: Curve = "linear"
    fade_out_curve: Curve = "linear"
