"""One face: a font file at one setting of its axes, read by HarfBuzz."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import Any

import numpy as np
import uharfbuzz as hb
from numpy.typing import NDArray

from rovix.text.font_changes import kept_while_fonts_stay

MOVE, LINE, QUADRATIC, CUBIC, CLOSE = range(5)
_POINTS = {MOVE: 1, LINE: 1, QUADRATIC: 2, CUBIC: 3, CLOSE: 0}
_AN_EMOJI = 0x1F600  # grinning face
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

    @cached_property
    def in_colour(self) -> bool:
        """Whether its glyphs are pictures in colours of their own."""
        face = self.hb_face
        return bool(face.has_color_layers or face.has_color_paint or face.has_color_png)

    @cached_property
    def shows_emoji(self) -> bool:
        """Whether it is made for emoji, in colour or as outlines."""
        return _AN_EMOJI in self.characters

    @cached_property
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

    def ink_box(self, glyph: int) -> tuple[float, float, float, float] | None:
        """Left, bottom, right, top in font units of what a glyph draws; None without ink."""
        if not self.in_colour:
            return self.outline(glyph).box
        layers = self.hb_face.get_glyph_color_layers(glyph) if self.hb_face.has_color_layers else []
        boxes = [self.outline(layer.glyph).box for layer in layers] or [self._extents(glyph)]
        known = [box for box in boxes if box is not None]
        if not known:
            return None
        left, bottom, right, top = zip(*known, strict=True)
        return min(left), min(bottom), max(right), max(top)

    def _extents(self, glyph: int) -> tuple[float, float, float, float] | None:
        found = self.hb_font.get_glyph_extents(glyph)
        if found is None or not found.width:
            return None
        left, top = found.x_bearing, found.y_bearing
        return float(left), float(top + found.height), float(left + found.width), float(top)


@dataclass(frozen=True, slots=True)
class AxisRange:
    """An axis of a variable font: its tag, its name, and the values it takes."""

    tag: str
    name: str
    low: float
    default: float
    high: float


def axis_ranges(path: str, index: int = 0) -> tuple[AxisRange, ...]:
    """The axes of a font file, hidden ones left out; none where it is not variable."""
    found: tuple[AxisRange, ...] = _axes(path, index)
    return found


@kept_while_fonts_stay(512)
def _axes(path: str, index: int) -> tuple[AxisRange, ...]:
    opened = hb.Face(hb.Blob.from_file_path(path), index)
    return tuple(
        AxisRange(
            axis.tag,
            opened.get_name(axis.name_id) or axis.tag,
            axis.min_value,
            axis.default_value,
            axis.max_value,
        )
        for axis in opened.axis_infos
        if not axis.flags & 1
    )


def face(key: FaceKey) -> Face:
    """The face of a key, opened once."""
    opened: Face = _face(key)
    return opened


@kept_while_fonts_stay(256)
def _face(key: FaceKey) -> Face:
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
