"""Crawls and rolls: a layer that crosses the frame at one speed."""

from __future__ import annotations

from typing import Annotated, Literal

import msgspec

from rovix.model.limits import Far
from rovix.model.node import Node

Seconds = Annotated[float, msgspec.Meta(ge=0, le=3600)]
Counted = Literal["second", "frame", "words"]
Way = Literal["left", "right", "up", "down"]


class Crossing(Node, frozen=True, kw_only=True):
    """From just off one side of the frame to just off the other, the `way` it goes, at one speed.

    Without a `speed` it takes all of the clip; with one it takes as long as its way is. A speed is counted
    in px of the frame a second or a frame, or in words a minute, of which each takes as much of the way as
    the words do on average; what has no words takes all of the clip then. It stands still for `hold_start`
    and `hold_end` seconds. It starts `from_rest`, or ends `to_rest`, instead of off the frame: where the
    layer rests, or `start` and `end` px of its place right or down of there. With `whole_px` it goes a whole
    number of px a frame, so that it never shimmers, and starts farther out for it.
    """

    way: Way = "left"
    speed: Annotated[float, msgspec.Meta(ge=0.001, le=1_000_000)] | None = None
    counted: Counted = "second"
    hold_start: Seconds = 0.0
    hold_end: Seconds = 0.0
    from_rest: bool = False
    to_rest: bool = False
    start: Far = 0.0
    end: Far = 0.0
    whole_px: bool = False

    @property
    def across(self) -> bool:
        """Whether it goes sideways."""
        return self.way in ("left", "right")

    @property
    def sign(self) -> int:
        """1 to the right or down, -1 to the left or up."""
        return 1 if self.way in ("right", "down") else -1
