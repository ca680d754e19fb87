"""Where lines end: at line feeds, and in a box where Unicode Standard Annex #14 lets them."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import accumulate

from rovix.text.segments import graphemes, line_units

_FEED = re.compile("\r\n|[\n\r\v\f\x85\u2028\u2029]")
_ROUNDS = 24


@dataclass(frozen=True, slots=True)
class Stretch:
    """Characters `start` to `end` of one line without what ends it; `next` is where the next starts.

    `soft` when the box, not a line feed, ended it: the blanks from `end` to `next` then hang.
    """

    start: int
    end: int
    next: int
    soft: bool = False


def paragraphs(text: str) -> list[Stretch]:
    """What line feeds part, at least one."""
    found, start = [], 0
    for feed in _FEED.finditer(text):
        found.append(Stretch(start, feed.start(), feed.end()))
        start = feed.end()
    return [*found, Stretch(start, len(text), len(text))]


def wrapped(text: str, advances: Sequence[float], width: float, balance: bool) -> list[Stretch]:
    """A paragraph's lines in a box of `width`, given the advance of each character.

    First fit; with `balance` in the narrowest box that needs no more lines. Blanks at a line's end
    take no room. A word wider than the box is broken between letters.
    """
    units = list(_units(text, advances, width))
    lines = _first_fit(units, width)
    if balance and len(lines) > 1:
        lines = _balanced(units, width, len(lines))
    return lines


@dataclass(frozen=True, slots=True)
class _Unit:
    """What cannot be broken: from `start`, ink up to `end`, blanks up to `next`; px of both."""

    start: int
    end: int
    next: int
    ink: float
    blank: float


def _units(text: str, advances: Sequence[float], width: float) -> Iterator[_Unit]:
    sums = [0.0, *accumulate(advances)]
    at = 0
    for part in line_units(text):
        inked = len(part.rstrip())
        end, following = at + inked, at + len(part)
        if sums[end] - sums[at] > width and inked > 1:
            yield from _letters(text, at, end, following, sums)
        else:
            yield _Unit(at, end, following, sums[end] - sums[at], sums[following] - sums[end])
        at = following


def _letters(text: str, start: int, end: int, following: int, sums: list[float]) -> Iterator[_Unit]:
    at = start
    for letter in graphemes(text[start:end]):
        to = at + len(letter)
        last = following if to == end else to
        yield _Unit(at, to, last, sums[to] - sums[at], sums[last] - sums[to])
        at = to


def _first_fit(units: list[_Unit], width: float) -> list[Stretch]:
    if not units:
        return [Stretch(0, 0, 0)]
    lines: list[Stretch] = []
    first, used = units[0], 0.0
    for before, unit in zip([None, *units], units, strict=False):
        if before is not None and used + unit.ink > width + 1e-6:
            lines.append(Stretch(first.start, before.end, unit.start, soft=True))
            first, used = unit, 0.0
        used += unit.ink + unit.blank
    return [*lines, Stretch(first.start, units[-1].next, units[-1].next)]


def _balanced(units: list[_Unit], width: float, count: int) -> list[Stretch]:
    low, high = max(unit.ink for unit in units), width
    if len(_first_fit(units, low)) <= count:
        return _first_fit(units, low)
    for _ in range(_ROUNDS):
        middle = (low + high) / 2
        if len(_first_fit(units, middle)) <= count:
            high = middle
        else:
            low = middle
    return _first_fit(units, high)
