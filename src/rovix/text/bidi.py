"""Direction of text: embedding levels and visual order, Unicode Standard Annex #9."""

from __future__ import annotations

import re
import unicodedata
from functools import partial
from itertools import groupby

from bidi import algorithm

_RIGHT_TO_LEFT = frozenset({"R", "AL", "AN", "RLE", "RLO", "RLI", "LRE", "LRO", "LRI", "FSI", "PDF", "PDI"})
# python-bidi's level steps know embeddings but not isolates; an embedding is the nearest thing.
_WITHOUT_ISOLATES = {0x2066: 0x202A, 0x2067: 0x202B, 0x2068: 0x202A, 0x2069: 0x202C}


_PLAIN = re.compile("[\x00-\u058f]*")
# Blocks whose unassigned characters count as right to left (DerivedBidiClass.txt, from memory).
_RIGHT_TO_LEFT_BLOCKS = (
    (0x590, 0x8FF),
    (0xFB1D, 0xFDFF),
    (0xFE70, 0xFEFF),
    (0x10800, 0x10FFF),
    (0x1E800, 0x1EFFF),
)


def base_level(text: str) -> int:
    """0 for a paragraph that runs left to right, 1 for right to left, by its first strong letter."""
    return int(algorithm.get_base_level(_resolvable(text)))


def _resolvable(text: str) -> str:
    """The text with what python-bidi cannot resolve replaced by what runs the same way."""
    return "".join(map(_stand_in, text.translate(_WITHOUT_ISOLATES)))


def _stand_in(character: str) -> str:
    if unicodedata.bidirectional(character):
        return character
    rightward = any(low <= ord(character) <= high for low, high in _RIGHT_TO_LEFT_BLOCKS)
    return "\u05d0" if rightward else "a"


def levels(text: str) -> list[int]:
    """One embedding level per character of a paragraph, white space at its end at the base level."""
    if _PLAIN.fullmatch(text) or not any(
        unicodedata.bidirectional(character) in _RIGHT_TO_LEFT for character in text
    ):
        return [0] * len(text)
    base, known = base_level(text), _resolvable(text)
    found = _fill(known, _resolved(known, base), base)
    for at in range(len(text) - 1, -1, -1):
        if not text[at].isspace():
            break
        found[at] = base
    return found


def _resolved(text: str, base: int) -> list[int]:
    storage = algorithm.get_empty_storage()
    storage["base_level"], storage["base_dir"] = base, "LR"[base]
    algorithm.get_embedding_levels(text, storage)
    for step in (
        algorithm.explicit_embed_and_overrides,
        algorithm.resolve_weak_types,
        algorithm.resolve_neutral_types,
        algorithm.resolve_implicit_levels,
    ):
        step(storage, False)
    return [character["level"] for character in storage["chars"]]


def _fill(text: str, resolved: list[int], base: int) -> list[int]:
    """Levels for all characters; the controls that rule X9 removes take the level before them."""
    filled, rest, level = [], iter(resolved), base
    for character in text:
        if unicodedata.bidirectional(character) not in algorithm.X9_REMOVED:
            level = next(rest)
        filled.append(level)
    return filled


def visual_order(run_levels: list[int]) -> list[int]:
    """Indices of runs from left to right (rule L2)."""
    order = list(range(len(run_levels)))
    odd = [level for level in run_levels if level % 2]
    for level in range(max(run_levels, default=0), min(odd, default=1) - 1, -1):
        turned: list[int] = []
        for high, group in groupby(order, key=partial(_at_least, run_levels, level)):
            runs = list(group)
            turned += runs[::-1] if high else runs
        order = turned
    return order


def _at_least(run_levels: list[int], level: int, run: int) -> bool:
    return run_levels[run] >= level
