"""What a layer moves: its block, its pieces, and the points they turn about."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rovix.model import GroundClip, GroupClip, Media, Move, PictureClip, StillClip, TextClip
from rovix.model.identity import IdentityCache
from rovix.text import Layout, lay_out, pieces_of

Floats = NDArray[np.float64]
Box = tuple[float, float, float, float]


@dataclass(frozen=True, slots=True, eq=False)
class Subject:
    """A layer at rest, in its own px around its anchor.

    The pieces are the finest that any of its moves deals with. `ink` is (n, 4), NaN without ink.
    """

    block: Box
    size: float
    ink: Floats
    texts: tuple[str, ...]
    starts: NDArray[np.int64]
    layout: Layout | None = None
    of_glyph: NDArray[np.int64] | None = None

    def __len__(self) -> int:
        return len(self.texts)

    def owners(self, kind: str) -> tuple[NDArray[np.int64], int]:
        """For each piece the coarser piece of that kind it belongs to, and how many there are."""
        if self.layout is None:
            return np.zeros(1, dtype=np.int64), 1
        coarse = pieces_of(self.layout, kind)
        return np.searchsorted(coarse.starts, self.starts, side="right") - 1, len(coarse)

    def pivots(self, move: Move, block_pivot: Floats) -> Floats:
        """(n, 2): the point each piece turns about under a move."""
        kind = {"piece": move.pieces, "letter": "letters", "line": "lines"}.get(move.pivot, "whole")
        if kind == "whole" or self.layout is None:
            return np.broadcast_to(block_pivot, (len(self), 2))
        owners, count = self.owners(kind)
        return _middles(self.layout, kind, count)[owners]


_subjects: IdentityCache[Subject] = IdentityCache()


def subject_of(clip: PictureClip, size: tuple[int, int], media: Media | None) -> Subject:
    """The subject of a layer in a frame of that size; `media` is its file, if it has one."""
    if isinstance(clip, TextClip):
        # Only the words and how they are dealt out count: moving the layer keeps its subject.
        kinds = _piece_kinds(clip)
        return _subjects.get(clip.words, lambda: _text_subject(clip, kinds), kinds)
    return _subjects.get(clip, lambda: _subject(clip, size, media), (size, id(media)))


def _subject(clip: PictureClip, size: tuple[int, int], media: Media | None) -> Subject:
    if isinstance(clip, GroundClip | GroupClip):
        return _box_subject(*size)
    width, height = shown_size(clip, size, media)
    return _box_subject(width, height)


def shown_size(clip: PictureClip, size: tuple[int, int], media: Media | None) -> tuple[float, float]:
    """Width and height in px at which a picture rests, by its fit and crop."""
    if media is None or not media.width or not media.height:
        return float(size[0]), float(size[1])
    width, height = media.width, media.height
    if isinstance(clip, StillClip) and clip.crop != "none":
        width = height = min(width, height)
    ratios = size[0] / width, size[1] / height
    fit = getattr(clip, "fit", "as-is")
    scale = 1.0 if fit == "as-is" else (min(ratios) if fit == "fit" else max(ratios))
    return width * scale, height * scale


def _box_subject(width: float, height: float) -> Subject:
    box = (-width / 2, -height / 2, width / 2, height / 2)
    return Subject(box, height, np.array([box]), ("",), np.zeros(1, dtype=np.int64))


def _piece_kinds(clip: TextClip) -> frozenset[str]:
    """The kinds of pieces that a layer's moves deal with."""
    by_letter = {"letters" for move in clip.moves if move.pivot == "letter"}
    return frozenset({move.pieces for move in clip.moves} | by_letter)


def _text_subject(clip: TextClip, kinds: frozenset[str]) -> Subject:
    layout = lay_out(clip.words, ligatures="letters" not in kinds)
    starts = np.unique(np.concatenate([pieces_of(layout, kind).starts for kind in kinds | {"whole"}]))
    of_glyph = np.searchsorted(starts, layout.cluster, side="right") - 1
    ends = [*starts[1:].tolist(), len(layout.text)]
    texts = tuple(layout.text[start:end] for start, end in zip(starts.tolist(), ends, strict=True))
    return Subject(
        layout.block, layout.size, _piece_ink(layout, of_glyph, len(starts)), texts, starts, layout, of_glyph
    )


def _piece_ink(layout: Layout, of_glyph: NDArray[np.int64], count: int) -> Floats:
    ink = np.full((count, 4), [np.inf, np.inf, -np.inf, -np.inf])
    known = ~np.isnan(layout.ink[:, 0])
    np.minimum.at(ink[:, :2], of_glyph[known], layout.ink[known, :2])
    np.maximum.at(ink[:, 2:], of_glyph[known], layout.ink[known, 2:])
    return np.where(np.isinf(ink), np.nan, ink)


def _middles(layout: Layout, kind: str, count: int) -> Floats:
    """(count, 2): the middle of each piece's advances across, of its lines' capitals down."""
    of_glyph = pieces_of(layout, kind).of_glyph
    baselines = np.array([line.baseline for line in layout.lines])[layout.line]
    bounds = np.full((count, 4), [np.inf, np.inf, -np.inf, -np.inf])
    edges = np.stack([layout.x, baselines - layout.cap_height, layout.x + layout.advance, baselines], axis=1)
    inked = np.isfinite(layout.ink[:, 0]) | (layout.advance > 0)
    visible = inked & ~_blank(layout)
    chosen = visible if visible.any() else inked
    np.minimum.at(bounds[:, :2], of_glyph[chosen], edges[chosen, :2])
    np.maximum.at(bounds[:, 2:], of_glyph[chosen], edges[chosen, 2:])
    middles = (bounds[:, :2] + bounds[:, 2:]) / 2
    centre = [(layout.block[0] + layout.block[2]) / 2, (layout.block[1] + layout.block[3]) / 2]
    return np.where(np.isfinite(middles), middles, centre)


def _blank(layout: Layout) -> NDArray[np.bool_]:
    return np.array([layout.text[cluster].isspace() for cluster in layout.cluster.tolist()], dtype=bool)
