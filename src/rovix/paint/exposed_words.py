"""Words of which only some move while they are exposed: what rests is drawn once for all moments."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, fields, replace
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from rovix.motion import GlyphsPlan, LayerPlan
from rovix.paint.body import Body
from rovix.paint.glyphs import body_of, some_of
from rovix.paint.region import Region, region_of

Floats = NDArray[np.float64]
Pieces = NDArray[np.bool_]
_NOTHING = Region(0, 0, 0, 0)
_WORTH = 6  # pieces that need not be drawn, from which parting the words costs less


@dataclass(frozen=True, slots=True, eq=False)
class ExposedWords:
    """Words at `moments`, each with its opacity, to be drawn `within` a region; anywhere where that is None.

    Outside of it those that are `resting` are all there is to be seen, as strongly as all moments together.
    """

    moments: tuple[tuple[Body, float], ...]
    within: Region | None = None
    resting: GlyphsPlan | None = None

    @property
    def times(self) -> float:
        """How many times what rests is to be seen."""
        return sum(opacity for _, opacity in self.moments)


def exposed_words(
    moments: Sequence[LayerPlan | None], view: Floats, size: tuple[int, int]
) -> ExposedWords | None:
    """What is to be drawn of words at some moments; None where these are not words that are only moved."""
    words = [moment for moment in moments if isinstance(moment, GlyphsPlan) and moment.blur == (0.0, 0.0)]
    if len(words) < sum(moment is not None for moment in moments) or not words:
        return None
    bodies = [body_of(plan, view) for plan in words]
    whole = ExposedWords(tuple(zip(bodies, [plan.opacity for plan in words], strict=True)))
    return _parted(words, whole, size) or whole


def _parted(words: Sequence[GlyphsPlan], whole: ExposedWords, size: tuple[int, int]) -> ExposedWords | None:
    """The same with what rests drawn by itself; None where that spares next to nothing."""
    still, first = resting_pieces(words), words[0]
    resting = np.where(still, first.opacities, 0.0)
    rest = int((resting > 0).sum())
    if len(words) == 1 or rest == 0 or (not still.all() and rest * (len(words) - 1) < _WORTH):
        return None
    touched = [(body, body.touched()) for body, _ in whole.moments]
    moving = [boxes[~still[body.pieces]] for body, boxes in touched]
    within = region_of(np.concatenate(moving).reshape(-1, 2), size) or _NOTHING
    near = [some_of(body, _near(boxes, within)) for body, boxes in touched]
    spared = sum(len(body.pieces) - len(part.pieces) for (body, _), part in zip(touched, near, strict=True))
    if within.width and spared - rest < _WORTH:
        return None
    moments = tuple((part, opacity) for part, (_, opacity) in zip(near, whole.moments, strict=True))
    return ExposedWords(moments, within, replace(first, opacities=resting, opacity=1.0, blend="normal"))


def resting_pieces(words: Sequence[GlyphsPlan]) -> Pieces:
    """(n,): which pieces are drawn the same, in the same place, at all moments."""
    still = np.ones(len(words[0].opacities), dtype=np.bool_)
    for before, after in pairwise(words):
        if before.layout is not after.layout or not np.array_equal(before.of_glyph, after.of_glyph):
            return np.zeros_like(still)
        still &= np.all(before.matrices == after.matrices, axis=(1, 2))
        still &= before.opacities == after.opacities
        still &= _same_windows(before, after) & _same_parts(before, after)
    return still


def _same_windows(before: GlyphsPlan, after: GlyphsPlan) -> Pieces | bool:
    if before.windows is after.windows:
        return True
    if not (before.windows and after.windows):
        return False
    return np.array([
        len(one) == len(other) and all(map(np.array_equal, one, other))
        for one, other in zip(before.windows, after.windows, strict=True)
    ])  # fmt: skip


def _same_parts(before: GlyphsPlan, after: GlyphsPlan) -> Pieces | bool:
    if before.parts is after.parts:
        return True
    if list(map(type, before.parts)) != list(map(type, after.parts)):
        return False
    same: Pieces | bool = True
    for one, other in zip(before.parts, after.parts, strict=True):
        same = same & _same_part(one, other)
    return same


def _same_part(one: object, other: object) -> Pieces | bool:
    """For which pieces two parts of a look, or mixed colours, of one kind are the same."""
    if one is other:
        return True
    same: Pieces | bool = True
    for field in fields(one):  # type: ignore[arg-type]
        first, second = getattr(one, field.name), getattr(other, field.name)
        if field.name == "shares":
            same = same & (first == second)
        elif field.name == "mixes":
            same = same & (len(first) == len(second))
            for each in zip(first, second, strict=False):
                same = same & _same_part(*each)
        else:
            same = same & bool(
                np.array_equal(first, second) if isinstance(first, np.ndarray) else first == second
            )
    return same


def _near(touched: Floats, within: Region) -> Pieces:
    """(n,): of which pieces something may be seen within a region."""
    low, high = touched[:, :2], touched[:, 2:]
    return np.all((high >= (within.left, within.top)) & (low <= (within.right, within.bottom)), axis=1)
