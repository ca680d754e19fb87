"""How a field shows its numbers: in a unit, and times as the user prefers, in seconds or in frames."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Protocol, runtime_checkable

TIMES = ("s", "f")
FIRST = {"": "Each as it is kept", "s": "Seconds first", "f": "Frames first"}
"""What the user may prefer, and how it is called."""


@runtime_checkable
class HasRate(Protocol):
    """A widget whose fields of times know the rate, and which of seconds and frames comes first."""

    def frames_a_second(self) -> float: ...

    def first_of_times(self) -> str: ...

    def prefer_times(self, first: str) -> None: ...


@dataclass(frozen=True, slots=True)
class Shown:
    """The number shown is the value times `factor`; a step is in what is shown."""

    unit: str
    factor: float
    decimals: int
    step: float

    @property
    def is_time(self) -> bool:
        return self.unit in TIMES

    def text(self, value: float) -> str:
        """A value in this unit, without the unit."""
        shown = round(value * self.factor, self.decimals) + 0.0
        text = f"{shown:.{self.decimals}f}"
        # Whole px and percent read better without an empty decimal; degrees keep theirs.
        if self.unit in ("px", "%", "f", "") and "." in text:
            text = text.rstrip("0").rstrip(".")
        return text.replace("-", "−")

    def rounded(self, value: float) -> float:
        """A value as exact as it is worth keeping."""
        return round(value * self.factor, max(self.decimals, 2)) / self.factor

    def other(self, rate: float) -> Shown:
        """The same time in frames instead of seconds, or the other way round, by frames a second."""
        if self.unit == "s":
            return Shown("f", self.factor * rate, 1, 1.0)
        return replace(self, unit="s", factor=self.factor / rate, decimals=2, step=self.step / rate)
