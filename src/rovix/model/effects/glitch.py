"""Bands pushed aside, colours apart."""

from __future__ import annotations

from typing import Annotated

import msgspec

from rovix.model.channel import Offset
from rovix.model.effects.effect import Effect, Every, Seed, Sides
from rovix.model.effects.rows import DRAWN, Facts, Whole, px


class Glitch(Effect, frozen=True, kw_only=True, tag="glitch"):
    """Bands pushed aside by up to `shift` px, and red and blue apart by `split` px; drawn anew every
    `every` frames, 0 for once and for all."""

    facts = Facts(
        "Glitch",
        100,
        (Whole("bands", "Bands"), px("shift", "Shift"), px("split", "Split", "colours apart"), *DRAWN),
    )

    bands: Annotated[int, msgspec.Meta(ge=1, le=500)] = 12
    shift: Offset = 40.0
    split: Offset = 6.0
    seed: Seed = 1
    every: Every = 2

    @property
    def is_neutral(self) -> bool:
        return self.shift == 0 and self.split == 0

    def beyond(self, sigmas: float) -> Sides:
        far = abs(self.shift) + abs(self.split)
        return far, 0.0, far, 0.0
