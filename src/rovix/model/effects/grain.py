"""Noise in grains."""

from __future__ import annotations

from typing import Annotated

import msgspec

from rovix.model.channel import Share
from rovix.model.effects.effect import Effect, Every, Seed
from rovix.model.effects.rows import DRAWN, Facts, Whole, percent


class Grain(Effect, frozen=True, kw_only=True, tag="grain"):
    """Noise of up to `amount` of full scale in grains of `size` px; anew every `every` frames."""

    facts = Facts(
        "Grain",
        140,
        (percent("amount", "Amount"), Whole("size", "Size", "px"), *DRAWN),
        summary=lambda grain: f"{grain.amount * 100:.0f} %",
    )

    amount: Share = 0.12
    size: Annotated[float, msgspec.Meta(ge=0.5, le=100)] = 2.0
    seed: Seed = 1
    every: Every = 1

    @property
    def is_neutral(self) -> bool:
        return self.amount <= 0
