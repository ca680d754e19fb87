"""Where letters and words part: Unicode Standard Annex #29, default rules."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable
from functools import lru_cache
from itertools import pairwise

# A single blank between two plain letters or figures: by every rule of UAX #29 and #14 what stands on
# one side of it has no say in what happens on the other. So a long text is cut there first, and each
# part, mostly a word, is looked up once.
_JOINT = re.compile("(?<=[A-Za-z0-9]) (?=[A-Za-z0-9])")
# The same with the line feed, before and behind which letters and words always part (GB4, GB5, WB3a, WB3b).
_JOINT_OR_LINE = re.compile("(?<=[A-Za-z0-9])([ \n])(?=[A-Za-z0-9])")
# Letters and figures alone are one word, whatever their order (WB5, WB8 to WB10).
_ONE_WORD = re.compile("[A-Za-z0-9]+")
# Characters of which each is a letter by itself, whatever follows among them.
_PLAIN = re.compile("[\n\x20-\x7e\xa1-\xac\xae-\u02ff]*")


def graphemes(text: str) -> list[str]:
    """User-perceived letters (extended grapheme clusters); they join back to the text."""
    if _PLAIN.fullmatch(text):
        return list(text)
    return _by_parts(text, _graphemes_of)


def words(text: str) -> list[str]:
    """Segments between word boundaries, spaces and punctuation among them; they join back."""
    return _by_parts(text, _words_of)


def line_units(text: str) -> list[str]:
    """What a line must not be broken within, by UAX #14, blanks behind it included; they join back."""
    parts = _JOINT.split(text)
    found: list[str] = []
    for number, part in enumerate(parts):
        # Letters and figures alone do not part (LB23, LB25, LB28).
        units = (part,) if _ONE_WORD.fullmatch(part) else _line_units_of(part)
        blank = " " if number + 1 < len(parts) else ""
        found += [*units[:-1], units[-1] + blank] if units else []
    return found


def _by_parts(text: str, cut: Callable[[str], tuple[str, ...]]) -> list[str]:
    found: list[str] = []
    for number, part in enumerate(_JOINT_OR_LINE.split(text)):
        # Every second part is the blank or line feed between two: a segment of its own.
        found += (part,) if number % 2 or (_ONE_WORD.fullmatch(part) and cut is _words_of) else cut(part)
    return found


def _kept(cut: Callable[[str], Iterable[str]]) -> Callable[[str], tuple[str, ...]]:
    return lru_cache(maxsize=8192)(lambda part: tuple(cut(part)))


# The tables are loaded when a text first asks for them: plain words never do.


@_kept
def _graphemes_of(part: str) -> Iterable[str]:
    from uniseg.graphemecluster import grapheme_clusters

    return grapheme_clusters(part)


@_kept
def _words_of(part: str) -> Iterable[str]:
    from uniseg.wordbreak import words

    return words(part)


@_kept
def _line_units_of(part: str) -> Iterable[str]:
    from uniseg.linebreak import line_break_units

    return line_break_units(part) if part else ()


def starts(parts: list[str]) -> list[int]:
    """The index in the joined text at which each part starts."""
    found, at = [], 0
    for part in parts:
        found.append(at)
        at += len(part)
    return found


def letter_starts(text: str) -> list[int]:
    """Starts of the letters that move as one: a grapheme and the white space behind it.

    White space in front of the first letter belongs to the first.
    """
    found = [0] if text else []
    ink_before = False
    parts = graphemes(text)
    for at, part in zip(starts(parts), parts, strict=True):
        blank = part.isspace()
        if not blank and ink_before:
            found.append(at)
        ink_before = ink_before or not blank
    return found


def word_starts(text: str) -> list[int]:
    """Starts of the words that move as one: with their punctuation and the white space behind.

    A new word starts behind white space, and where two letters or figures meet at a boundary of
    UAX #29, as between the ideographs of a text without spaces.
    """
    parts = words(text)
    found = [0] if text else []
    ink_before = bool(parts) and not parts[0].isspace()
    for at, (before, part) in zip(starts(parts)[1:], pairwise(parts), strict=True):
        parted = before.isspace() or (_is_wordlike(before) and _is_wordlike(part))
        if not part.isspace() and parted and ink_before:
            found.append(at)
        ink_before = ink_before or not part.isspace()
    return found


def _is_wordlike(part: str) -> bool:
    return any(character.isalnum() for character in part)
