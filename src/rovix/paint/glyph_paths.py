"""Words as Skia paths, dealt out to pieces, kept as long as their layout lives."""

from __future__ import annotations

import weakref
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import lru_cache
from itertools import groupby
from operator import itemgetter

import numpy as np
import skia
from numpy.typing import NDArray

from rovix.model import bgra
from rovix.motion.plan import Bgra, Stroke
from rovix.paint.shapes import band
from rovix.text import Face, Layout, pieces_of
from rovix.text.face import CUBIC, LINE, MOVE, QUADRATIC

Box = tuple[float, float, float, float]
_GRAIN = 4096  # parts of a px to which letters are placed within a word
Word = tuple[tuple[Face, int, float, int, int], ...]
"""Glyphs of a face, em px, and their place in grains from the first."""


@dataclass(frozen=True, slots=True, eq=False)
class Letter:
    """What is filled at once: its path, the box of its ink (px of the layout), its own colour or None."""

    path: skia.Path
    box: Box
    colour: Bgra | None


@dataclass(frozen=True, slots=True, eq=False)
class ColourGlyph:
    """A glyph in colours of its own: from a typeface, at `size` px of the em, its pen at `place`."""

    typeface: skia.Typeface
    number: int
    size: float
    place: tuple[float, float]


class PiecePaths:
    """The paths of one layout dealt out to pieces, in the layout's px; made when first asked for."""

    def __init__(self, layout: Layout, of_glyph: NDArray[np.int64]) -> None:
        self._layout = weakref.ref(layout)
        self._of_glyph = of_glyph
        self._order = np.argsort(of_glyph, kind="stable")
        self._bounds = np.searchsorted(of_glyph[self._order], np.arange(int(of_glyph.max(initial=0)) + 2))
        self._fills: dict[int, skia.Path] = {}
        self._letters: dict[tuple[int, bool], list[Letter]] = {}
        self._strokes: dict[tuple[int, Stroke], skia.Path] = {}
        self._silhouettes: dict[tuple[int, tuple[Stroke, ...]], skia.Path] = {}
        self._pictures: dict[int, list[ColourGlyph]] = {}

    def fill(self, piece: int) -> skia.Path:
        """The outlines of all its letters as one path."""
        kept = self._fills.get(piece)
        if kept is None:
            kept = self._fills[piece] = self._joined(self._glyphs(piece), _word_path)
        return kept

    def letters(self, piece: int, each: bool) -> list[Letter]:
        """What of a piece is filled at once: all that has one colour, or `each` letter by itself."""
        kept = self._letters.get((piece, each))
        if kept is None:
            kept = self._letters[(piece, each)] = self._parted(piece, each)
        return kept

    def stroke(self, piece: int, stroke: Stroke) -> skia.Path:
        """The band along the edges: the outline's width on each side it covers."""
        kept = self._strokes.get((piece, stroke))
        if kept is None:
            edges = self._joined(self._glyphs(piece), _simple_word)
            kept = self._strokes[(piece, stroke)] = band(edges, stroke)
        return kept

    def silhouette(self, piece: int, strokes: tuple[Stroke, ...]) -> skia.Path:
        """All that a piece covers with its fill and outlines, as one path."""
        kept = self._silhouettes.get((piece, strokes))
        if kept is None:
            kept = self.fill(piece)
            for stroke in strokes:
                # Skia's path operations fail on rare outlines; the fill alone is the most of it.
                joined = skia.Op(kept, self.stroke(piece, stroke), skia.PathOp.kUnion_PathOp)
                kept = kept if joined is None else joined
            self._silhouettes[(piece, strokes)] = kept
        return kept

    def pictures(self, piece: int) -> list[ColourGlyph]:
        """The glyphs of a piece that are drawn in their own colours."""
        kept = self._pictures.get(piece)
        if kept is None:
            kept = self._pictures[piece] = list(self._in_colour(piece))
        return kept

    def _glyphs(self, piece: int) -> list[int]:
        return self._order[self._bounds[piece] : self._bounds[piece + 1]].tolist()

    def _parted(self, piece: int, each: bool) -> list[Letter]:
        layout = self._layout()
        glyphs = self._glyphs(piece)
        if layout is None or not glyphs:
            return []
        if not each and not layout.colours:
            return [Letter(self.fill(piece), layout.block, None)]
        owners = pieces_of(layout, "letters").of_glyph if each else None
        parts: dict[tuple[int, int], list[int]] = {}
        for glyph in glyphs:
            owner = 0 if owners is None else int(owners[glyph])
            parts.setdefault((owner, int(layout.tint[glyph])), []).append(glyph)
        return [
            Letter(
                self._joined(own, _word_path),
                _ink_box(layout, own),
                bgra(layout.colours[tint]) if tint >= 0 else None,
            )
            for (_, tint), own in parts.items()
        ]

    def _in_colour(self, piece: int) -> Iterator[ColourGlyph]:
        layout = self._layout()
        if layout is None:
            return
        for glyph in self._glyphs(piece):
            face = layout.faces[layout.face[glyph]]
            if face.in_colour:
                place = float(layout.x[glyph]), float(layout.y[glyph])
                yield ColourGlyph(_typeface(face), int(layout.glyph[glyph]), float(layout.em[glyph]), place)

    def _joined(self, glyphs: list[int], path_of: Callable[[Word], skia.Path]) -> skia.Path:
        """The outlines of some glyphs as one path.

        Word by word, as words are kept from text to text: typing makes only the changed one anew.
        """
        layout = self._layout()
        path = skia.Path()
        if layout is None:
            return path
        shown = [glyph for glyph in glyphs if not layout.faces[layout.face[glyph]].in_colour]
        if len(shown) == 1:
            x, y, word = _one_letter(layout, shown[0])
            path.addPath(path_of(word), x / _GRAIN, y / _GRAIN)
            return path
        for x, y, word in _words_of(layout, shown, pieces_of(layout, "words").of_glyph):
            path.addPath(path_of(word), x / _GRAIN, y / _GRAIN)
        return path


def _one_letter(layout: Layout, glyph: int) -> tuple[int, int, Word]:
    """A single glyph as :func:`_words_of` gives it, without asking for all the others."""
    across, down = (round(float(column[glyph]) * _GRAIN) for column in (layout.x, layout.y))
    face = layout.faces[layout.face[glyph]]
    return across, down, ((face, int(layout.glyph[glyph]), float(layout.em[glyph]), 0, 0),)


def _words_of(
    layout: Layout, glyphs: list[int], owners: NDArray[np.int64]
) -> Iterator[tuple[int, int, Word]]:
    """Each word of some glyphs with the place of its first in grains."""
    across, down = (
        np.rint(column[glyphs] * _GRAIN).astype(np.int64).tolist() for column in (layout.x, layout.y)
    )
    columns = (owners, layout.face, layout.glyph, layout.em)
    rows = zip(*(column[glyphs].tolist() for column in columns), across, down, strict=True)
    faces = layout.faces
    for _, group in groupby(rows, key=itemgetter(0)):
        word = list(group)
        x, y = word[0][4:]
        yield x, y, tuple((faces[face], glyph, em, a - x, d - y) for _, face, glyph, em, a, d in word)


_paths: weakref.WeakKeyDictionary[Layout, dict[bytes, PiecePaths]] = weakref.WeakKeyDictionary()


def piece_paths(layout: Layout, of_glyph: NDArray[np.int64]) -> PiecePaths:
    """The paths of a layout dealt out that way, kept as long as the layout lives."""
    dealt = _paths.setdefault(layout, {})
    key = of_glyph.tobytes()
    if key not in dealt:
        dealt[key] = PiecePaths(layout, of_glyph)
    return dealt[key]


def _ink_box(layout: Layout, glyphs: list[int]) -> Box:
    boxes = layout.ink[glyphs]
    boxes = boxes[np.isfinite(boxes[:, 0])]
    if not len(boxes):
        return 0.0, 0.0, 0.0, 0.0
    left, top = boxes[:, :2].min(axis=0).tolist()
    right, bottom = boxes[:, 2:].max(axis=0).tolist()
    return left, top, right, bottom


@lru_cache(maxsize=8192)
def _word_path(word: Word) -> skia.Path:
    path = skia.Path()
    for face, glyph, em, across, down in word:
        scale = em / face.upem
        place = skia.Matrix.MakeAll(scale, 0, across / _GRAIN, 0, -scale, down / _GRAIN, 0, 0, 1)
        path.addPath(_glyph_path(face, glyph), place)
    return path


@lru_cache(maxsize=8192)
def _simple_word(word: Word) -> skia.Path:
    """The same without its overlaps: letters of variable fonts are drawn in parts that overlap, joined
    scripts in letters that do, and an outline must not show it."""
    simple = skia.Simplify(_word_path(word))
    # Skia's path operations fail on rare outlines; the plain path then only shows its overlaps.
    return _word_path(word) if simple is None or simple.isEmpty() else simple


@lru_cache(maxsize=8192)
def _glyph_path(face: Face, glyph: int) -> skia.Path:
    path = skia.Path()
    draw = {MOVE: path.moveTo, LINE: path.lineTo, QUADRATIC: path.quadTo, CUBIC: path.cubicTo}
    for verb, coordinates in face.outline(glyph).segments():
        draw.get(verb, path.close)(*coordinates)
    return path


@lru_cache(maxsize=32)
def _typeface(face: Face) -> skia.Typeface:
    return skia.Typeface.MakeFromFile(face.key.path, face.key.index)
