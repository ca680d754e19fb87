"""What is asked of the checks, and how they answer, step by step."""

from __future__ import annotations

from dataclasses import dataclass

from rovix.check.audience import USUAL
from rovix.check.finding import Finding
from rovix.time import Span


@dataclass(frozen=True, slots=True)
class Asked:
    """What is checked: for which audience, which layer first, whether pictures and sound are looked at; of a
    long sequence only the frames `within` the first and the last, not included."""

    audience: str = USUAL
    first: str = ""
    pictures: bool = True
    flashes: bool = True
    sound: bool = True
    within: tuple[int, int] | None = None

    def span(self, length: int) -> Span:
        """The frames that are looked at, of so many."""
        first, last = self.within or (0, length)
        first = min(max(0, first), length)
        return Span(first, max(first, min(length, last)))


@dataclass(frozen=True, slots=True)
class Step:
    """What one step of checking found: all there is of some `kinds`, of a `layer`, or of all where it is
    None."""

    kinds: frozenset[str]
    layer: str | None
    found: tuple[Finding, ...]
