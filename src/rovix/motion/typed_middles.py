"""Lines that stand about their middle across while they are typed."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rovix.text import Layout
from rovix.text.caret import caret_at, line_cells, line_of

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]


@dataclass(frozen=True, slots=True, eq=False)
class TypedMiddles:
    """`shifts` (k, lines): px right by which a line stands beside its rest once so many pieces are typed, NaN
    where nothing of it is; `lines` (n,) are the lines of a layer's pieces; `middles` (lines,) px."""

    shifts: Floats
    lines: Ints
    middles: Floats

    def of_pieces(self, typed_last: Ints) -> Floats:
        """(t, n): px right of rest, by the place in the order of what was typed last, -1 before the first."""
        found = np.nan_to_num(self.shifts[np.maximum(typed_last, 0)])[:, self.lines]
        return np.where(typed_last[:, None] >= 0, found, 0.0)

    def of_caret(self, layout: Layout, typed_last: int, index: int) -> float:
        """Px right of rest of a caret before a character; midway where nothing of its line is typed."""
        line = line_of(layout, index)
        found = self.shifts[typed_last, line] if typed_last >= 0 else np.nan
        return float(self.middles[line] - caret_at(layout, index)[0] if np.isnan(found) else found)


def typed_middles(layout: Layout, starts: Ints, ends: Ints, order: Ints) -> TypedMiddles:
    """The middles of a layout's lines as its pieces, behind which are the characters `ends` (k,), are typed
    in an order; `starts` (n,) are the first characters of the layer's pieces."""
    first = np.array([line.start for line in layout.lines])
    middles = np.array([line.left + line.width / 2 for line in layout.lines])
    lefts, rights, lines = _extents(layout, ends)
    shifts = np.full((len(order), len(first)), np.nan)
    reached: dict[int, tuple[float, float]] = {}
    for number, piece in enumerate(order.tolist()):
        if number:
            shifts[number] = shifts[number - 1]
        if np.isfinite(lefts[piece]):
            line = int(lines[piece])
            low, high = reached.get(line, (np.inf, -np.inf))
            low, high = min(low, lefts[piece]), max(high, rights[piece])
            reached[line] = low, high
            shifts[number, line] = middles[line] - (low + high) / 2
    return TypedMiddles(shifts, np.searchsorted(first, starts, side="right") - 1, middles)


def _extents(layout: Layout, ends: Ints) -> tuple[Floats, Floats, Ints]:
    """(k,) each: from where to where the letters of a piece go, blanks left out, and its line."""
    lefts, rights = np.full(len(ends), np.inf), np.full(len(ends), -np.inf)
    lines = np.zeros(len(ends), dtype=np.int64)
    for number in range(len(layout.lines)):
        for cell in line_cells(layout, number):
            if layout.text[cell.start : cell.end].strip():
                piece = int(np.searchsorted(ends, cell.start, side="right"))
                lefts[piece] = min(lefts[piece], cell.left)
                rights[piece] = max(rights[piece], cell.right)
                lines[piece] = number
    return lefts, rights, lines
