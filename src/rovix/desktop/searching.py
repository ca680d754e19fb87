"""Finding things by what people type: by name, by what else it is called, and near misses."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from functools import cache, lru_cache
from typing import Generic, TypeVar

from rovix.desktop.also_called import also_called, meant_by

Thing = TypeVar("Thing")
_WORD = re.compile(r"[^\W_]{2,}")
_LONGEST = 64  # letters of a search that are looked at


@dataclass(frozen=True, slots=True)
class Entry(Generic[Thing]):
    """A thing that can be found: by its `title` best, then by all else that is said `about` it."""

    thing: Thing
    title: str
    about: str = ""


def found(entries: Sequence[Entry[Thing]], typed: str) -> list[Thing]:
    """The things meant, the likeliest first; where nothing has what was typed, what comes near to it.

    With nothing typed, all of them.
    """
    wanted = " ".join(typed.lower().split())[:_LONGEST]
    if not wanted:
        return [entry.thing for entry in entries]
    answer = _ranked(entries, wanted)
    if answer:
        return answer
    near = corrected(wanted, entries)
    return _ranked(entries, near) or _by_a_word(entries, near)


def _by_a_word(entries: Sequence[Entry[Thing]], wanted: str) -> list[Thing]:
    """Where nothing is meant by all that was typed: what any of its words means, the best meant first."""
    words = [word for word in wanted.split() if len(word) > 2 and word not in _COMMON]
    ranks = [
        (min((_rank(entry, word) for word in words), default=_NOT), number)
        for number, entry in enumerate(entries)
    ]
    return [entries[number].thing for rank, number in sorted(ranks) if rank < _NOT]


def _ranked(entries: Sequence[Entry[Thing]], wanted: str) -> list[Thing]:
    core = _without_common(wanted)
    ranks = [(_best(entry, wanted, core), number) for number, entry in enumerate(entries)]
    return [entries[number].thing for rank, number in sorted(ranks) if rank < _NOT]


_NOT = 20
_COMMON = frozenset({"text", "title", "layer", "layers", "animation", "effect", "effects", "video", "clip",
                     "the", "a", "to", "my", "of", "make", "add", "set", "change", "put", "here", "create",
                     "new", "how", "get", "give", "with", "for", "on", "is", "it", "more"})  # fmt: skip
"""Words that say little beside others: in 'gradient text' it is the gradient that is wanted."""


def _without_common(wanted: str) -> str:
    words = wanted.split()
    return " ".join(word for word in words if word not in _COMMON) or words[-1]


def _best(entry: Entry[Thing], wanted: str, core: str) -> int:
    """How well a thing is meant, by what was typed or by what says most of it."""
    rank = _rank(entry, wanted)
    return rank if core == wanted else min(rank, _rank(entry, core) + 1)


def _rank(entry: Entry[Thing], wanted: str) -> int:
    """How well a thing is meant, 0 best; `_NOT` where it is not."""
    title = entry.title.lower()
    if title == wanted:
        return 0
    if title.startswith(wanted):
        return 2
    if _begins(title, wanted):
        return 4
    # What people call a thing comes before what has the word somewhere in its description.
    meant, words = _meant(wanted), wanted.split()
    named = next((n for n, other in enumerate(meant) if _begins(title, other)), None)
    if named == 0:
        return 6
    if all(_has(title, word) for word in words) or any(_begins(title, stem) for stem in _stems(wanted)):
        return 8
    if named is not None:
        return 10
    return _rank_about(f"{title} {entry.about.lower()}", words, meant)


def _rank_about(said: str, words: list[str], meant: tuple[str, ...]) -> int:
    """The rank of a thing that is not named so, by all that is said of it."""
    if all(_has(said, word) for word in words):
        return 12
    if any(other in said for other in meant):
        return 14
    several = len(words) > 1 and all(_is_meant(said, word) for word in words)
    return 16 if several else _NOT


@lru_cache(maxsize=512)
def _meant(wanted: str) -> tuple[str, ...]:
    """The words on screen for what was typed, also where its ending is another: 'snapping', 'captions'."""
    return meant_by(wanted) or next(filter(None, map(meant_by, _stems(wanted))), ())


def _stems(wanted: str) -> Iterator[str]:
    """What was typed without the ending of its last word, for as long as four letters stay."""
    for ending in ("ing", "ed", "es", "s", "er", "ly"):
        stem = wanted.removesuffix(ending)
        if stem != wanted and len(stem) >= 4:
            yield stem
            yield f"{stem}e"
            if stem[-1:] == stem[-2:-1]:
                yield stem[:-1]


def _begins(said: str, wanted: str) -> bool:
    """Whether a text stands at the beginning of a word."""
    return re.search(rf"(?<!\w){re.escape(wanted)}", said) is not None


def _has(said: str, word: str) -> bool:
    """Whether a text has a word; a short one at the beginning of one, as 'ink' is not in 'wink'."""
    return _begins(said, word) if len(word) <= 3 else word in said


def _is_meant(said: str, word: str) -> bool:
    return _has(said, word) or any(other in said for other in _meant(word))


def corrected(wanted: str, entries: Iterable[Entry[Thing]]) -> str:
    """What was typed with each word that nothing is called replaced by the nearest that something is.

    Two letters may be wrong, missing or swapped, one in a word of up to seven; shorter than five stay.
    """
    known = sorted({word for entry in entries for word in _WORD.findall(entry.title.lower())} | _called())
    return " ".join(_nearest(word, known) for word in wanted.split())


@cache
def _called() -> frozenset[str]:
    return frozenset(word for name in also_called() for word in _WORD.findall(name))


def _nearest(word: str, known: list[str]) -> str:
    if len(word) < 5 or word in known:
        return word
    most = 1 if len(word) <= 7 else 2
    # Loaded at the first word that is not known as it stands.
    from rapidfuzz import process
    from rapidfuzz.distance import OSA

    near = process.extractOne(word, known, scorer=OSA.distance, score_cutoff=most)
    return near[0] if near is not None else word
