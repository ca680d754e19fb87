"""Where letters and words part: Unicode Standard Annex #29, default rules."""

from __future__ import annotations

from itertools import pairwise

from uniseg.graphemecluster import grapheme_clusters
from uniseg.wordbreak import words as _words


def graphemes(text: str) -> list[str]:
    """User-perceived letters (extended grapheme clusters); they join back to the text."""
    return list(grapheme_clusters(text))


def words(text: str) -> list[str]:
    """Segments between word boundaries, spaces and punctuation among them; they join back."""
    return list(_words(text))


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
    for at, part in zip(starts(graphemes(text)), graphemes(text), strict=True):
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
