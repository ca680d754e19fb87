"""What all effects have."""

from __future__ import annotations

from math import floor
from typing import TYPE_CHECKING, Annotated, ClassVar, Literal

import msgspec

from rovix.model.channel import keyed
from rovix.model.effects.rows import Facts
from rovix.model.node import Id, Node, new_id

if TYPE_CHECKING:
    Strength = float
else:
    Strength = keyed(0, 20)

Sides = tuple[float, float, float, float]
Pin = Literal["words", "frame"]
Seed = Annotated[int, msgspec.Meta(ge=0, le=2**53)]
Every = Annotated[int, msgspec.Meta(ge=0, le=10_000)]


class Effect(Node, frozen=True, kw_only=True, tag_field="effect"):
    """Something done to a layer's edges or pixels.

    Lengths are px of the sequence, angles degrees clockwise from rightwards, shares 0 to 1. One that
    is not `shown` keeps its settings and does nothing.
    """

    facts: ClassVar[Facts]

    id: Id = msgspec.field(default_factory=new_id)
    shown: bool = True

    @property
    def is_neutral(self) -> bool:
        """Whether it changes nothing as it is set."""
        return False

    def beyond(self, sigmas: float) -> Sides:
        """Px left, up, right and down that it shows beyond what the layer shows, blurs to so many sigmas.

        A long shadow has no end, an offset that wraps comes back, and echoes are where the layer was: they
        count for nothing.
        """
        return 0.0, 0.0, 0.0, 0.0

    def draw_at(self, frame: float) -> int:
        """The seed of what is drawn at random on a frame of the clip: the same through all of a whole
        frame and for `every` of them, if the kind has that."""
        every: int = getattr(self, "every", 0)
        return int(getattr(self, "seed", 0)) * 1_000_003 + (floor(frame) // every if every else 0)
