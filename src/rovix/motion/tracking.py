"""How far letters part along their lines."""

from __future__ import annotations

import weakref
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rovix.motion.subject import Subject
from rovix.text import Layout
from rovix.text.line import CURSIVE
from rovix.text.runs import script_of

Floats = NDArray[np.float64]


@dataclass(frozen=True, slots=True, eq=False)
class _Gaps:
    """For each glyph, line after line from the left: px that one em of tracking parts it from the next.

    `firsts` are the glyphs with which lines begin, `line` (glyphs,) counts those lines, `anchor` is
    the share of each line's growth that goes to the left.
    """

    gaps: Floats
    firsts: NDArray[np.int64]
    line: NDArray[np.int64]
    anchor: Floats


def tracking_shifts(subject: Subject, tracking: Floats) -> Floats:
    """(t, n): px that pieces move to the right when each is tracked by so many em (t, n).

    As if the lines were set with that tracking, aligned as they are: left ones grow to the right.
    The pieces are letters; joined scripts stay together.
    """
    shifts = np.zeros_like(tracking)
    if subject.layout is None or subject.of_glyph is None or not len(subject.layout.cluster):
        return shifts
    lines = _gaps(subject.layout)
    parted = tracking[:, subject.of_glyph] * lines.gaps
    before = np.cumsum(parted, axis=1) - parted
    grown = np.add.reduceat(parted, lines.firsts, axis=1) * lines.anchor
    own = before - (before[:, lines.firsts] + grown)[:, lines.line]
    pieces, glyphs = np.unique(subject.of_glyph, return_index=True)
    # A letter stands where its own glyph does; the blank behind it goes along.
    for_letter = np.full(len(subject), -1, dtype=np.int64)
    for_letter[pieces] = glyphs
    heads = np.flatnonzero(np.isin(subject.layout.cluster, subject.starts))
    for_letter[subject.of_glyph[heads]] = heads
    known = for_letter >= 0
    shifts[:, known] = own[:, for_letter[known]]
    return shifts


_kept: weakref.WeakKeyDictionary[Layout, _Gaps] = weakref.WeakKeyDictionary()


def _gaps(layout: Layout) -> _Gaps:
    if layout not in _kept:
        _kept[layout] = _measured(layout)
    return _kept[layout]


def _measured(layout: Layout) -> _Gaps:
    first = np.append(True, layout.line[1:] != layout.line[:-1])
    last = np.append(first[1:], True)
    parts = np.append(layout.cluster[1:] != layout.cluster[:-1], True)
    joined = np.array([script_of(layout.text[at]) in CURSIVE for at in layout.cluster.tolist()], dtype=bool)
    firsts = np.flatnonzero(first)
    boxes = [layout.lines[number] for number in layout.line[firsts].tolist()]
    anchor = np.array([-box.left / box.width if box.width else 0.0 for box in boxes])
    gaps = np.where(parts & ~last & ~joined, layout.em, 0.0)
    return _Gaps(gaps, firsts, np.searchsorted(firsts, np.arange(len(first)), side="right") - 1, anchor)
