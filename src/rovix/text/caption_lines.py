"""Lines of captions: balanced, of so many letters and so many at a time, long ones parted at phrases."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import accumulate
from math import ceil

from rovix.text.breaking import paragraphs, wrapped
from rovix.text.segments import line_units

_ENDS = frozenset(".,;:!?…—–।॥،؛؟。、！？：；")
_LEAST = 0.4
"""The share of what fits that a part has at least when it ends with a phrase."""


@dataclass(frozen=True, slots=True)
class CaptionPart:
    """What is on screen at a time: its lines, each characters `low` to `high` (not included) of the text."""

    lines: tuple[tuple[int, int], ...]

    @property
    def low(self) -> int:
        return self.lines[0][0]

    @property
    def high(self) -> int:
        return self.lines[-1][1]

    def words(self, text: str) -> str:
        """The lines, parted by line feeds."""
        return "\n".join(text[low:high] for low, high in self.lines)

    def place(self, index: int) -> int:
        """Where a character of the text stands in the words; one between lines stands at the next."""
        at = 0
        for low, high in self.lines:
            if index < high:
                return at + max(0, index - low)
            at += high - low + 1
        return max(0, at - 1)


def caption_parts(text: str, letters: int, lines: int) -> list[CaptionPart]:
    """The parts of a caption's text, of at most `lines` lines of at most `letters` letters.

    Lines that fit as they are stay; others are parted where UAX #14 lets them, about equally long. A word
    longer than a line is broken between letters.
    """
    own = [(p.start, p.end) for p in paragraphs(text) if text[p.start : p.end].strip()]
    if len(own) <= lines and all(high - low <= letters for low, high in own):
        return [CaptionPart(tuple(own))] if own else []
    flat = text.replace("\n", " ")
    parts, at = [], 0
    while at < len(flat):
        at += len(flat[at:]) - len(flat[at:].lstrip())
        if at >= len(flat):
            break
        end = _end_of_part(flat, at, letters, lines)
        parts.append(CaptionPart(_lines(flat, at, end, letters)))
        at = end
    return parts


def _end_of_part(text: str, at: int, letters: int, lines: int) -> int:
    """Where what can be on screen at a time ends: with a phrase if it can, parts being about as long."""
    found = wrapped(text[at:], [1.0] * (len(text) - at), letters, False)
    if len(found) <= lines:
        return len(text)
    fits = at + found[lines].start
    ideal = at + (len(text) - at) / ceil(len(found) / lines)
    ends = [at + end for end in accumulate(map(len, line_units(text[at:])))]
    possible = [end for end in ends if at + _LEAST * (fits - at) <= end <= fits] or [fits]
    phrases = [end for end in possible if text[:end].rstrip()[-1:] in _ENDS]
    return min(phrases or possible, key=lambda end: abs(end - ideal))


def _lines(text: str, low: int, high: int, letters: int) -> tuple[tuple[int, int], ...]:
    part = text[low:high]
    found = wrapped(part.rstrip(), [1.0] * len(part.rstrip()), letters, True)
    return tuple((low + line.start, low + line.end) for line in found)
