"""Parts of a text layer that are set otherwise than the layer."""

from __future__ import annotations

from itertools import groupby, pairwise
from typing import Any

from rovix.edit.tree import replace
from rovix.model import Words
from rovix.model.words import Dressing

FIELDS = ("family", "weight", "italic", "size", "colour")


def dressed(words: Words, start: int, end: int, **changes: Any) -> Words:
    """Characters `start` to `end` (not included) with fields of a Dressing set; None takes one off.

    Dressings stay in order; neighbours that have become alike are one, and empty ones are gone.
    """
    start, end = max(0, start), min(end, len(words.text))
    if start >= end:
        return words
    marks = {0, start, end, len(words.text)}
    marks |= {mark for dressing in words.dressings for mark in (dressing.start, dressing.end)}
    cuts = sorted(marks)
    parts = []
    for low, high in pairwise(cuts):
        part = replace(dressing_at(words, low) or Dressing(start=low, end=high), start=low, end=high)
        parts.append(replace(part, **changes) if start <= low < end else part)
    return replace(words, dressings=_tidy(parts))


def dressing_at(words: Words, index: int) -> Dressing | None:
    """The dressing of a character, or None."""
    return next((d for d in words.dressings if d.start <= index < d.end), None)


def common_dressing(words: Words, start: int, end: int, field: str) -> Any:
    """What all characters from `start` to `end` have in a field; ValueError when they differ."""
    found = {getattr(dressing_at(words, at), field, None) for at in range(start, max(end, start + 1))}
    if len(found) > 1:
        raise ValueError(f"They differ in {field}.")
    return found.pop()


def retyped(words: Words, text: str) -> Words:
    """The words with another text; dressings stay with their letters.

    What is typed inside or right behind a dressed part belongs to it, as when writing goes on; what
    replaces letters is dressed as the first of them.
    """
    if not words.dressings:
        return replace(words, text=text)
    head, tail = _alike(words.text, text)
    old = [dressing_at(words, at) for at in range(len(words.text))]
    follows = old[head : len(old) - tail][:1] or old[max(0, head - 1) : head] or old[:1] or [None]
    letters = [*old[:head], *follows * (len(text) - head - tail), *old[len(old) - tail :]]
    return replace(words, text=text, dressings=_tidy(_parts(letters)))


def _parts(letters: list[Dressing | None]) -> list[Dressing]:
    """Dressings for texts whose letters have these."""
    found, at = [], 0
    for dressing, group in groupby(letters):
        end = at + sum(1 for _ in group)
        if dressing is not None:
            found.append(replace(dressing, start=at, end=end))
        at = end
    return found


def _alike(old: str, new: str) -> tuple[int, int]:
    """How many characters two texts share at their start, and of the rest at their end."""
    most = min(len(old), len(new))
    head = next((n for n in range(most) if old[n] != new[n]), most)
    tail = next((n for n in range(most - head) if old[-1 - n] != new[-1 - n]), most - head)
    return head, tail


def _tidy(parts: list[Dressing]) -> tuple[Dressing, ...]:
    kept: list[Dressing] = []
    for part in parts:
        if part.start >= part.end or all(getattr(part, name) is None for name in FIELDS):
            continue
        grown = replace(kept[-1], end=part.end) if kept and kept[-1].end == part.start else None
        if grown == replace(part, start=grown.start if grown else part.start):
            kept[-1] = grown
        else:
            kept.append(part)
    return tuple(kept)
