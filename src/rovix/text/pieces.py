"""Dealing glyphs out to pieces: whole, lines, words, letters."""

from __future__ import annotations

import weakref
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rovix.text.layout import Layout
from rovix.text.segments import letter_starts, word_starts


@dataclass(frozen=True, slots=True, eq=False)
class Pieces:
    """Pieces in reading order; each is a stretch of the text, and together they are the text.

    `starts` (n,) holds first characters; `of_glyph` the piece of each glyph of the layout.
    """

    kind: str
    starts: NDArray[np.int64]
    of_glyph: NDArray[np.int64]
    texts: tuple[str, ...]

    def __len__(self) -> int:
        return len(self.starts)


def pieces_of(layout: Layout, kind: str) -> Pieces:
    """The layout's pieces; `kind` is whole, lines, words or letters. Empty words have one piece.

    Letters that one glyph draws together (ligatures, joined Indic syllables) are one piece. Kept as
    long as the layout lives.
    """
    dealt = _dealt.setdefault(layout, {})
    if kind not in dealt:
        dealt[kind] = _pieces(layout, kind)
    return dealt[kind]


_dealt: weakref.WeakKeyDictionary[Layout, dict[str, Pieces]] = weakref.WeakKeyDictionary()


def _pieces(layout: Layout, kind: str) -> Pieces:
    starts = np.array(_starts(layout, kind) or [0], dtype=np.int64)
    ends = [*starts[1:].tolist(), len(layout.text)]
    texts = tuple(layout.text[start:end] for start, end in zip(starts.tolist(), ends, strict=True))
    of_glyph = np.searchsorted(starts, layout.cluster, side="right") - 1
    return Pieces(kind, starts, of_glyph, texts)


def _starts(layout: Layout, kind: str) -> list[int]:
    if kind == "whole":
        return [0]
    if kind == "lines":
        return _line_starts(layout)
    if kind == "words":
        return word_starts(layout.text)
    shaped = set(layout.cluster.tolist())
    return [start for start in letter_starts(layout.text) if start == 0 or start in shaped]


def _line_starts(layout: Layout) -> list[int]:
    """Lines with ink or letters; an empty line belongs to the line before it."""
    starts = [line.start for line in layout.lines if layout.text[line.start : line.end].strip()]
    return [0, *starts[1:]] if starts else [0]
