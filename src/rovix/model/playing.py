"""How a clip runs through its material: speed, direction, and again from the start."""

from __future__ import annotations

from typing import Annotated

import msgspec

from rovix.model.node import Node


class Playing(Node, frozen=True, kw_only=True):
    """`speed` 1 is true, 0 holds the first frame; see :func:`rovix.time.played`.

    `span` is how many frames of the material one pass has, after which it begins again, or with
    `and_back` turns back; without it the clip runs on and on. `lead` is how many frames of the
    clip's own time have gone by before its first. `backwards` shows the whole clip mirrored in time.
    """

    speed: Annotated[float, msgspec.Meta(ge=0, le=100)] = 1.0
    backwards: bool = False
    and_back: bool = False
    span: Annotated[int, msgspec.Meta(ge=1, le=100_000_000)] | None = None
    lead: Annotated[int, msgspec.Meta(ge=0, le=100_000_000)] = 0

    @property
    def goes_straight(self) -> bool:
        """Whether a later frame of the clip is a later frame of the material, one for one."""
        return self.speed == 1 and self.span is None and self.lead == 0

    @property
    def is_plain(self) -> bool:
        """Whether the material is shown as it is."""
        return self.goes_straight and not self.backwards
