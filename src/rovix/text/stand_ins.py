"""Other letters in the places of a layout's own, which do not move for it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from functools import lru_cache
from typing import Any

import numpy as np
import uharfbuzz as hb

from rovix.text.face import Face
from rovix.text.layout import Layout, ink_of

Placed = tuple[int, float]
"""A glyph and its advance in em."""


def with_stand_ins(layout: Layout, shown: Mapping[int, str], fixed_figures: bool = False) -> Layout:
    """A layout in which other characters stand at some of its clusters, each in the middle of its place.

    Of several characters the last has the place and the others stand to the left of it; none leaves
    it empty. What the face has no glyph for is not shown otherwise.
    """
    rows: list[tuple[int, int, float, float]] = []
    done: set[int] = set()
    for at, cluster in enumerate(layout.cluster.tolist()):
        if cluster not in shown:
            rows.append((at, int(layout.glyph[at]), float(layout.x[at]), float(layout.advance[at])))
        elif cluster not in done:
            done.add(cluster)
            rows += _placed(layout, at, shown[cluster], fixed_figures)
    return _rebuilt(layout, rows)


def _placed(
    layout: Layout, at: int, characters: str, fixed_figures: bool
) -> list[tuple[int, int, float, float]]:
    """Rows for the characters that stand at a glyph's place, from the left."""
    face, em = layout.faces[layout.face[at]], float(layout.em[at])
    same = layout.cluster == layout.cluster[at]
    left, width = float(layout.x[same].min()), float(layout.advance[same].sum())
    rows: list[tuple[int, int, float, float]] = []
    for number, character in enumerate(reversed(characters)):
        glyph, own = _glyph(face, character, fixed_figures)
        place = left + (width - own * em) / 2 if number == 0 else left - number * own * em
        rows.insert(0, (at, glyph, place, width if number == 0 else own * em))
    return rows


@lru_cache(maxsize=8192)
def _glyph(face: Face, character: str, fixed_figures: bool) -> Placed:
    buffer = hb.Buffer()
    buffer.add_str(character)
    buffer.guess_segment_properties()
    hb.shape(face.hb_font, buffer, {"tnum": 1} if fixed_figures else {})
    return buffer.glyph_infos[0].codepoint, buffer.glyph_positions[0].x_advance / face.upem


def _rebuilt(layout: Layout, rows: list[tuple[int, int, float, float]]) -> Layout:
    """A layout of the glyphs that rows (glyph it was, glyph, x, advance) name."""
    kept = np.array([row[0] for row in rows], dtype=np.int64)
    names = ("face", "y", "cluster", "em", "line", "rising", "tint")
    columns: dict[str, Any] = {name: getattr(layout, name)[kept] for name in names}
    columns["glyph"] = np.array([row[1] for row in rows], dtype=np.uint32)
    columns["x"], columns["advance"] = (np.array([row[n] for row in rows], dtype=np.float64) for n in (2, 3))
    return replace(layout, **columns, ink=ink_of(layout.faces, columns))
