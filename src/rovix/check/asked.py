"""What is asked of the checks, and how they answer, step by step."""

from __future__ import annotations

from dataclasses import dataclass

from rovix.check.audience import USUAL
from rovix.check.finding import Finding


@dataclass(frozen=True, slots=True)
class Asked:
    """What is checked: for which audience, which layer first, whether pictures and sound are looked at."""

    audience: str = USUAL
    first: str = ""
    pictures: bool = True
    flashes: bool = True
    sound: bool = True


@dataclass(frozen=True, slots=True)
class Step:
    """What one step of checking found: all there is of some `kinds`, of a `layer`, or of all where it is
    None."""

    kinds: frozenset[str]
    layer: str | None
    found: tuple[Finding, ...]
