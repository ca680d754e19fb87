"""One face: a font file at one setting of its axes, read by HarfBuzz."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import Any

import numpy as np
import uharfbuzz as hb
from numpy.typing import NDArray

MOVE, LINE, QUADRATIC, CUBIC, CLOSE = range(5)
_POINTS = {MOVE: 1, LINE: 1, QUADRATIC: 2, CUBIC: 3, CLOSE: 0}
_SLANT_WITHOUT_ITALIC = 0.2  # about 11 degrees, as drawn italics of sans faces lean


@dataclass(frozen=True, slots=True, eq=False)
class GlyphOutline:
    """A glyph's contours in font units, y up: `verbs` (n,) of the constants above, `points` (m, 2)."""

    verbs: NDArray[np.uint8]
    points: NDArray[np.float32]

    def segments(self) -> Iterator[tuple[int, tuple[float, ...]]]:
        """Each verb with its coordinates x, y, …, in drawing order."""
        at, coordinates = 0, self.points.reshape(-1).tolist()
        for verb in self.verbs.tolist():
            end = at + 2 * _POINTS[verb]
            yield verb, tuple(coordinates[at:end])
            at = end

    @property
    def box(self) -> tuple[float, float, float, float] | None:
        """Left, bottom, right, top of all control points; None without ink."""
        if not len(self.points):
            return None
        low, high = self.points.min(axis=0), self.points.max(axis=0)
        return float(low[0]), float(low[1]), float(high[0]), float(high[1])


@dataclass(frozen=True, slots=True)
class FaceKey:
    """What names a face: file, index inside it, axis settings, and whether it is slanted by us."""

    path: str
    index: int = 0
    axes: tuple[tuple[str, float], ...] = ()
    slanted: bool = False


class Face:
    """Shapes text and gives outlines; made once per key by :func:`face`."""

    def __init__(self, key: FaceKey) -> None:
        self.key = key
        self.hb_face = hb.Face(hb.Blob.from_file_path(key.path), key.index)
        self.hb_font = hb.Font(self.hb_face)
        if key.axes:
            self.hb_font.set_variations(dict(key.axes))
        if key.slanted:
            self.hb_font.synthetic_slant = _SLANT_WITHOUT_ITALIC
        self.upem = int(self.hb_face.upem)
        self.characters = frozenset(self.hb_face.unicodes)
        self._outlines: dict[int, GlyphOutline] = {}

    def __repr__(self) -> str:
        return f"Face({Path(self.key.path).name!r})"

    @property
    def cap_height(self) -> float:
        """Height of capitals as a share of the em; 0.7 where the font does not say."""
        metric = self.hb_font.get_metric_position(hb.OTMetricsTag.CAP_HEIGHT)
        return (metric or 0.7 * self.upem) / self.upem

    def covers(self, cluster: str) -> bool:
        """Whether the face has a glyph for every character that asks for one."""
        return all(ord(character) in self.characters for character in cluster if asks_for_glyph(character))

    def outline(self, glyph: int) -> GlyphOutline:
        """The glyph's contours, kept after the first time."""
        kept = self._outlines.get(glyph)
        if kept is None:
            kept = self._outlines[glyph] = _drawn(self.hb_font, glyph)
        return kept


@lru_cache(maxsize=256)
def face(key: FaceKey) -> Face:
    """The face of a key, opened once."""
    return Face(key)


def asks_for_glyph(character: str) -> bool:
    """False for joiners, variation selectors, controls and other characters without ink of their own."""
    code = ord(character)
    return not (
        code < 0x20
        or 0x7F <= code < 0xA0
        or code in (0xAD, 0x34F, 0x61C, 0xFEFF)
        or 0x200B <= code <= 0x200F
        or 0x2028 <= code <= 0x202E
        or 0x2060 <= code <= 0x206F
        or 0xFE00 <= code <= 0xFE0F
        or 0xE0000 <= code <= 0xE0FFF
    )


class _Recorder:
    """Collects HarfBuzz's drawing calls."""

    def __init__(self) -> None:
        self.verbs: list[int] = []
        self.points: list[float] = []

    def add(self, verb: int, *coordinates: float) -> None:
        self.verbs.append(verb)
        self.points.extend(coordinates)


def _draw_funcs() -> Any:
    funcs = hb.DrawFuncs()
    funcs.set_move_to_func(lambda x, y, to: to.add(MOVE, x, y))
    funcs.set_line_to_func(lambda x, y, to: to.add(LINE, x, y))
    funcs.set_quadratic_to_func(lambda a, b, x, y, to: to.add(QUADRATIC, a, b, x, y))
    funcs.set_cubic_to_func(lambda a, b, c, d, x, y, to: to.add(CUBIC, a, b, c, d, x, y))
    funcs.set_close_path_func(lambda to: to.add(CLOSE))
    return funcs


_FUNCS = _draw_funcs()


def _drawn(font: Any, glyph: int) -> GlyphOutline:
    recorder = _Recorder()
    font.draw_glyph(glyph, _FUNCS, recorder)
    points = np.array(recorder.points, dtype=np.float32).reshape(-1, 2)
    return GlyphOutline(np.array(recorder.verbs, dtype=np.uint8), points)
