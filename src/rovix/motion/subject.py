"""What a layer moves: its block, its pieces, and the points they turn about."""

from __future__ import annotations

import weakref
from collections.abc import Callable, Iterable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rovix.model import (
    AreaClip,
    BackgroundClip,
    Cut,
    Fits,
    FootageClip,
    Glow,
    GroupClip,
    Keys,
    Look,
    LookPart,
    Media,
    Move,
    PictureClip,
    Sequence,
    SequenceClip,
    Shadow,
    ShapeClip,
    StillClip,
    TextClip,
    Transform,
)
from rovix.model import (
    Box as BoxBehind,
)
from rovix.model.effects import Effect
from rovix.model.identity import IdentityCache
from rovix.model.move_channels import MOVE_CHANNELS
from rovix.motion.at_frame import at_frame, layer_at, origin
from rovix.motion.contours import flattened
from rovix.motion.figures import numbers_in
from rovix.motion.rest import pivot_at
from rovix.text import Layout, lay_out, pieces_of

Floats = NDArray[np.float64]
Box = tuple[float, float, float, float]
OUTWARD = {"outside": 1.0, "centre": 0.5, "inside": 0.0}
"""The share of an outline's width that lies beyond the edge, by its side."""
SIGMAS = 3.0
"""How many sigmas of a blur count as its reach: what lies beyond is under half of 1/255."""


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

    def places(self, move: Move) -> Floats:
        """(count, 2): the middles of a move's pieces, in px from its point."""
        count = self.owners(move.pieces)[1]
        left, top, right, bottom = self.block
        across, down = move.point
        point = np.array([left + across * (right - left), top + down * (bottom - top)])
        if self.layout is None:
            return np.array([[(left + right) / 2, (top + bottom) / 2]]) - point
        return _middles(self.layout, move.pieces, count) - point

    def boxes(self, kind: str, reach: float, spill: tuple[float, float, float, float]) -> Floats:
        """(n, 4): for each piece the box of the coarser piece of a kind that it belongs to.

        Across it is of that piece's ink, down of all ink of its line, both with outlines (`reach` px)
        and what goes beyond them (`spill`, left, up, right, down). Without ink it is the block's.
        """
        room = np.array([-spill[0] - reach, -spill[1] - reach, spill[2] + reach, spill[3] + reach])
        if self.layout is None:
            return self.ink + room
        owners, count = self.owners(kind)
        boxes = _ink_of(self.ink, owners, count)[owners]
        if kind in ("words", "letters"):
            lines, number = self.owners("lines")
            boxes[:, [1, 3]] = _ink_of(self.ink, lines, number)[lines][:, [1, 3]]
        return np.where(np.isnan(boxes), np.array(self.block), boxes) + room

    def numbers(self) -> Floats:
        """(n,): the number in the words that each piece belongs to, 0 where it belongs to none."""
        found = np.zeros(len(self))
        for number in numbers_in("".join(self.texts)):
            first, last = np.searchsorted(self.starts, [number.start, number.end - 1], side="right") - 1
            found[first : last + 1] = float(number.value)
        return found

    def pivots(self, move: Move, block_pivots: Floats) -> Floats:
        """(t, n, 2) or (1, n, 2): the point each piece turns about under a move; `block_pivots` (t, 2)."""
        kind = pivot_kind(move)
        if kind == "whole" or self.layout is None:
            return np.broadcast_to(block_pivots[:, None], (len(block_pivots), len(self), 2))
        owners, count = self.owners(kind)
        return _middles(self.layout, kind, count)[owners][None]


def pivot_kind(move: Move) -> str:
    """The kind of pieces whose middles a move turns its pieces about; whole is the block's pivot."""
    return {"piece": move.pieces, "letter": "letters", "line": "lines"}.get(move.pivot, "whole")


_subjects: IdentityCache[Subject] = IdentityCache()


def subject_of(
    clip: PictureClip,
    size: tuple[int, int],
    shown: Media | Sequence | None = None,
    fitted: PictureClip | None = None,
) -> Subject:
    """The subject of a layer in a frame of that size; one that changes is as at its first frame,
    unless it is settled at another.

    `shown` is its file or the sequence that it shows; `fitted` is the layer that a shape fits.
    """
    clip = layer_at(clip, 0.0)
    return _SUBJECTS[type(clip)](clip, size, shown, fitted)


def _of_words(clip: TextClip, *_: object) -> Subject:
    # Only the words and how they are dealt out count: moving the layer keeps its subject.
    kinds = _piece_kinds(clip)
    return _subjects.get(clip.text, lambda: _text_subject(clip, kinds), kinds)


def _of_frame(_: PictureClip, size: tuple[int, int], *__: object) -> Subject:
    return _box_subject(*size)


def _of_shown(clip: PictureClip, size: tuple[int, int], shown: Media | Sequence | None, _: object) -> Subject:
    cut: Cut | None = getattr(clip, "cut", None)
    if cut is None:
        return _box_subject(*shown_size(clip, size, shown))
    if cut.form != "drawn":
        return _box_subject(cut.width, cut.height)
    # The block goes about the middle that the line is drawn about.
    across, down = 2 * np.abs(flattened(cut.contour)).max(axis=0)
    return _box_subject(float(across), float(down))


def shown_size(
    clip: PictureClip, size: tuple[int, int], shown: Media | Sequence | None
) -> tuple[float, float]:
    """Width and height in px at which a picture rests, by its fit and crop."""
    if isinstance(shown, Sequence):
        return scaled_to_fit(shown.size, size, getattr(clip, "fit", "fit"))
    if shown is None or not shown.width or not shown.height:
        return float(size[0]), float(size[1])
    width, height = shown.width, shown.height
    if getattr(clip, "crop", "none") != "none":
        width = height = min(width, height)
    return scaled_to_fit((width, height), size, getattr(clip, "fit", "as-is"))


def scaled_to_fit(own: tuple[int, int], size: tuple[int, int], fit: str) -> tuple[float, float]:
    """A size in px, brought to another as it says: fit inside it, fill it, or as it is."""
    ratios = size[0] / own[0], size[1] / own[1]
    scale = 1.0 if fit == "as-is" else (min(ratios) if fit == "fit" else max(ratios))
    return own[0] * scale, own[1] * scale


def _of_shape(clip: ShapeClip, size: tuple[int, int], _: object, fitted: PictureClip | None) -> Subject:
    if clip.fits is None or fitted is None:
        return _box_subject(clip.width, clip.height)
    left, top, right, bottom = ink_box(subject_of(fitted, size))
    reach, side = look_reach(fitted), clip.fits.side
    width = right - left + 2 * (clip.fits.margin_x + reach)
    height = bottom - top + 2 * (clip.fits.margin_y + reach)
    width, height = {
        "under": (width, clip.height), "over": (width, clip.height),
        "left": (clip.height, height), "right": (clip.height, height),
    }.get(side, (width, height))  # fmt: skip
    return _box_subject(max(1.0, width), max(1.0, height))


def fitted_middle(fitted: PictureClip, subject: Subject, fits: Fits, thickness: float) -> tuple[float, float]:
    """Where the middle of a shape rests that fits a layer, in that layer's px: within it, or beside it."""
    left, top, right, bottom = ink_box(subject)
    x, y = ink_middle(subject)
    away = look_reach(fitted) + thickness / 2
    return {
        "under": (x, bottom + fits.margin_y + away), "over": (x, top - fits.margin_y - away),
        "left": (left - fits.margin_x - away, y), "right": (right + fits.margin_x + away, y),
    }.get(fits.side, (x, y))  # fmt: skip


def ink_box(subject: Subject) -> Box:
    """Left, top, right, bottom of all ink at rest; the block where there is none."""
    inked = subject.ink[np.isfinite(subject.ink[:, 0])]
    if not len(inked):
        return subject.block
    left, top = inked[:, :2].min(axis=0).tolist()
    right, bottom = inked[:, 2:].max(axis=0).tolist()
    return left, top, right, bottom


def block_pivots(subject: Subject, place: Transform, frames: Floats) -> Floats:
    """(t, 2): the point that a layer turns about, in its own px: the place's share of the block."""
    left, top, right, bottom = subject.block
    return np.array([left, top]) + pivot_at(place, frames) * np.array([right - left, bottom - top])


def ink_middle(subject: Subject) -> tuple[float, float]:
    """The middle of the ink box."""
    left, top, right, bottom = ink_box(subject)
    return (left + right) / 2, (top + bottom) / 2


def look_reach(clip: PictureClip) -> float:
    """px that the look goes beyond the ink, by its outlines."""
    return max((OUTWARD[outline.side] * outline.width for outline in clip.outlines), default=0.0)


def look_spill(look: Look) -> tuple[float, float, float, float]:
    """px left, up, right and down that shadows, glows and boxes go beyond ink and outlines.

    A long shadow has no end and counts for nothing.
    """
    spill = np.zeros(4)
    for part in look.parts:
        if part.shown and part.opacity > 0:
            spill = np.maximum(spill, _spill(part))
    left, top, right, bottom = spill.tolist()
    return left, top, right, bottom


def effect_spill(effects: Iterable[Effect]) -> Floats:
    """(4,): px left, up, right and down that effects as they are at a moment show beyond the look."""
    shown = [effect.beyond(SIGMAS) for effect in effects if effect.shown and not effect.is_neutral]
    return np.sum(shown, axis=0) if shown else np.zeros(4)


def _spill(part: LookPart) -> Floats:
    if isinstance(part, Shadow):
        soft = SIGMAS * part.blur + part.spread
        return soft + np.array([-part.x, -part.y, part.x, part.y])
    if isinstance(part, Glow) and part.strength > 0:
        return np.full(4, SIGMAS * part.size)
    if isinstance(part, BoxBehind):
        return np.array([part.padding_x, part.padding_y, part.padding_x, part.padding_y])
    return np.zeros(4)


def _box_subject(width: float, height: float) -> Subject:
    box = (-width / 2, -height / 2, width / 2, height / 2)
    return Subject(box, height, np.array([box]), ("",), np.zeros(1, dtype=np.int64))


def _piece_kinds(clip: TextClip) -> frozenset[str]:
    """The kinds of pieces that a layer's moves deal with."""
    by_letter = {"letters" for move in clip.moves if move.pivot == "letter" or _is_by_letter(move)}
    return frozenset({move.pieces for move in clip.moves} | by_letter)


def _is_by_letter(move: Move) -> bool:
    """Whether a move does something to single letters, whatever its pieces."""
    return any(MOVE_CHANNELS[departure.channel].by_letter for departure in move.channels)


def _text_subject(clip: TextClip, kinds: frozenset[str]) -> Subject:
    own = origin(clip.text)
    # Words whose tracking is keyed keep their lines and their glyphs through it all.
    ligatures = "letters" not in kinds and not isinstance(own.tracking, Keys)
    broken_as = at_frame(own, 0.0) if own is not clip.text and own.wrap is not None else None
    layout = lay_out(clip.text, ligatures, broken_as)
    starts = np.unique(np.concatenate([pieces_of(layout, kind).starts for kind in kinds | {"whole"}]))
    of_glyph = np.searchsorted(starts, layout.cluster, side="right") - 1
    ends = [*starts[1:].tolist(), len(layout.text)]
    texts = tuple(layout.text[start:end] for start, end in zip(starts.tolist(), ends, strict=True))
    return Subject(
        layout.block, layout.size, piece_ink(layout, of_glyph, len(starts)), texts, starts, layout, of_glyph
    )


def piece_ink(layout: Layout, of_glyph: NDArray[np.int64], count: int) -> Floats:
    """(count, 4): the box of each piece's ink in px of the layout; NaN without ink."""
    return _ink_of(layout.ink, of_glyph, count)


def _ink_of(ink: Floats, owners: NDArray[np.int64], count: int) -> Floats:
    """(count, 4): the boxes round the ink of pieces that belong together; NaN without ink."""
    boxes = np.full((count, 4), [np.inf, np.inf, -np.inf, -np.inf])
    inked = np.isfinite(ink[:, 0])
    np.minimum.at(boxes[:, :2], owners[inked], ink[inked, :2])
    np.maximum.at(boxes[:, 2:], owners[inked], ink[inked, 2:])
    return np.where(np.isinf(boxes), np.nan, boxes)


_middles_kept: weakref.WeakKeyDictionary[Layout, dict[str, Floats]] = weakref.WeakKeyDictionary()


def _middles(layout: Layout, kind: str, count: int) -> Floats:
    """(count, 2): the middle of each piece's advances across, of its lines' capitals down."""
    kept = _middles_kept.setdefault(layout, {})
    if kind not in kept:
        kept[kind] = _measured_middles(layout, kind, count)
    return kept[kind]


def _measured_middles(layout: Layout, kind: str, count: int) -> Floats:
    of_glyph = pieces_of(layout, kind).of_glyph
    baselines = np.array([line.baseline for line in layout.lines])[layout.line]
    bounds = np.full((count, 4), [np.inf, np.inf, -np.inf, -np.inf])
    caps = np.array([line.cap for line in layout.lines])[layout.line]
    edges = np.stack([layout.x, baselines - caps, layout.x + layout.advance, baselines], axis=1)
    inked = np.isfinite(layout.ink[:, 0]) | (layout.advance > 0)
    visible = inked & ~_blank(layout)
    chosen = visible if visible.any() else inked
    np.minimum.at(bounds[:, :2], of_glyph[chosen], edges[chosen, :2])
    np.maximum.at(bounds[:, 2:], of_glyph[chosen], edges[chosen, 2:])
    centre = [(layout.block[0] + layout.block[2]) / 2, (layout.block[1] + layout.block[3]) / 2]
    middles = np.tile(np.array(centre, dtype=np.float64), (count, 1))
    seen = np.isfinite(bounds).all(axis=1)
    middles[seen] = (bounds[seen, :2] + bounds[seen, 2:]) / 2
    return middles


def _blank(layout: Layout) -> NDArray[np.bool_]:
    return np.array([layout.text[cluster].isspace() for cluster in layout.cluster.tolist()], dtype=bool)


_SUBJECTS: dict[type[PictureClip], Callable[..., Subject]] = {
    TextClip: _of_words,
    ShapeClip: _of_shape,
    AreaClip: lambda clip, *_: _box_subject(clip.width, clip.height),
    BackgroundClip: _of_frame,
    GroupClip: _of_frame,
    FootageClip: _of_shown,
    StillClip: _of_shown,
    SequenceClip: _of_shown,
}
