"""Parts of a text layer that are set otherwise than the layer."""

from __future__ import annotations

from itertools import groupby, pairwise
from typing import Any

from rovix.edit.tree import replace
from rovix.model import Text
from rovix.model.text import OwnStyle

FIELDS = ("family", "weight", "italic", "size", "colour")


def styled(words: Text, start: int, end: int, **changes: Any) -> Text:
    """Characters `start` to `end` (not included) with fields of a Dressing set; None takes one off.

    Dressings stay in order; neighbours that have become alike are one, and empty ones are gone.
    """
    start, end = max(0, start), min(end, len(words.content))
    if start >= end:
        return words
    marks = {0, start, end, len(words.content)}
    marks |= {mark for style in words.styles for mark in (style.start, style.end)}
    cuts = sorted(marks)
    parts = []
    for low, high in pairwise(cuts):
        part = replace(style_at(words, low) or OwnStyle(start=low, end=high), start=low, end=high)
        parts.append(replace(part, **changes) if start <= low < end else part)
    return replace(words, styles=_tidy(parts))


def style_at(words: Text, index: int) -> OwnStyle | None:
    """The style of a character, or None."""
    return next((d for d in words.styles if d.start <= index < d.end), None)


def common_style(words: Text, start: int, end: int, field: str) -> Any:
    """What all characters from `start` to `end` have in a field; ValueError when they differ."""
    found = {getattr(style_at(words, at), field, None) for at in range(start, max(end, start + 1))}
    if len(found) > 1:
        raise ValueError(f"They differ in {field}.")
    return found.pop()


def retyped(words: Text, text: str) -> Text:
    """The words with another text; styles stay with their letters.

    What is typed inside or right behind a dressed part belongs to it, as when writing goes on; what
    replaces letters is dressed as the first of them.
    """
    if not words.styles:
        return replace(words, content=text)
    head, tail = _alike(words.content, text)
    old = [style_at(words, at) for at in range(len(words.content))]
    follows = old[head : len(old) - tail][:1] or old[max(0, head - 1) : head] or old[:1] or [None]
    letters = [*old[:head], *follows * (len(text) - head - tail), *old[len(old) - tail :]]
    return replace(words, content=text, styles=_tidy(_parts(letters)))


def _parts(letters: list[OwnStyle | None]) -> list[OwnStyle]:
    """Dressings for texts whose letters have these."""
    found, at = [], 0
    for style, group in groupby(letters):
        end = at + sum(1 for _ in group)
        if style is not None:
            found.append(replace(style, start=at, end=end))
        at = end
    return found


def _alike(old: str, new: str) -> tuple[int, int]:
    """How many characters two texts share at their start, and of the rest at their end."""
    most = min(len(old), len(new))
    head = next((n for n in range(most) if old[n] != new[n]), most)
    tail = next((n for n in range(most - head) if old[-1 - n] != new[-1 - n]), most - head)
    return head, tail


def _tidy(parts: list[OwnStyle]) -> tuple[OwnStyle, ...]:
    kept: list[OwnStyle] = []
    for part in parts:
        if part.start >= part.end or all(getattr(part, name) is None for name in FIELDS):
            continue
        grown = replace(kept[-1], end=part.end) if kept and kept[-1].end == part.start else None
        if grown == replace(part, start=grown.start if grown else part.start):
            kept[-1] = grown
        else:
            kept.append(part)
    return tuple(kept)
