"""A block of words: lines under each other around an origin."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from rovix.model import Words
from rovix.model.identity import IdentityCache
from rovix.text.catalogue import match_face
from rovix.text.face import Face
from rovix.text.line import Line, Setting, shape_line

_BREAK = re.compile("\r\n|[\n\r\v\f\x85\u2028\u2029]")
Box = tuple[float, float, float, float]


@dataclass(frozen=True, slots=True, eq=False)
class LineBox:
    """A line's place in the block: characters `start` to `end` (break not included), px."""

    start: int
    end: int
    left: float
    width: float
    baseline: float


@dataclass(frozen=True, slots=True, eq=False, weakref_slot=True)
class Layout:
    """Shaped words, px, x right and y down.

    The origin is the block's anchor: across, the edge or middle that the words are aligned to;
    down, midway from the top of the first line's capitals to the last baseline. Arrays run over
    glyphs, line after line, each from left to right; `cluster` counts characters of the whole text.
    """

    text: str
    size: float
    faces: tuple[Face, ...]
    lines: tuple[LineBox, ...]
    face: NDArray[np.int32]
    glyph: NDArray[np.uint32]
    x: NDArray[np.float64]
    y: NDArray[np.float64]
    advance: NDArray[np.float64]
    cluster: NDArray[np.int64]
    line: NDArray[np.int32]
    rising: NDArray[np.bool_]
    ink: NDArray[np.float64]
    """(n, 4): left, top, right, bottom of each glyph's control points; NaN without ink."""
    cap_height: float

    @property
    def block(self) -> Box:
        """Left, top, right, bottom: from the capitals' top to the last baseline, widest line across."""
        left = min(line.left for line in self.lines)
        right = max(line.left + line.width for line in self.lines)
        return left, self.lines[0].baseline - self.cap_height, right, self.lines[-1].baseline

    def ink_bounds(self) -> Box | None:
        """Left, top, right, bottom of all outline control points; None without ink."""
        if np.all(np.isnan(self.ink)):
            return None
        left, top = np.nanmin(self.ink[:, :2], axis=0)
        right, bottom = np.nanmax(self.ink[:, 2:], axis=0)
        return float(left), float(top), float(right), float(bottom)


_layouts: IdentityCache[Layout] = IdentityCache()


def lay_out(words: Words, ligatures: bool = True) -> Layout:
    """Shape and place a layer's words, kept for as long as the struct lives.

    `ligatures=False` is for letters that will move apart.
    """
    return _layouts.get(words, lambda: _laid_out(words, ligatures), ligatures)


def _laid_out(words: Words, ligatures: bool) -> Layout:
    match = match_face(words.family, words.weight, words.italic)
    setting = Setting(match.face, words.weight, words.italic, words.size, words.tracking, ligatures)
    parts = _line_parts(words.text)
    lines = [shape_line(text, setting) for _, text in parts]
    cap_height = match.face.cap_height * words.size
    boxes = _line_boxes(words, parts, lines, cap_height)
    faces = tuple(dict.fromkeys(face for line in lines for face in line.faces))
    columns = _columns(lines, boxes, faces)
    columns["ink"] = _ink(faces, words.size, columns)
    return Layout(
        text=words.text, size=words.size, faces=faces, lines=boxes, cap_height=cap_height, **columns
    )


def _line_parts(text: str) -> list[tuple[int, str]]:
    """(start, characters) of each line, at least one line."""
    parts, start = [], 0
    for match in _BREAK.finditer(text):
        parts.append((start, text[start : match.start()]))
        start = match.end()
    return [*parts, (start, text[start:])]


def _line_boxes(
    words: Words, parts: list[tuple[int, str]], lines: list[Line], cap_height: float
) -> tuple[LineBox, ...]:
    step = words.leading * words.size
    first = cap_height - (cap_height + step * (len(lines) - 1)) / 2
    share = {"left": 0.0, "centre": 0.5, "right": 1.0}[words.align]
    return tuple(
        LineBox(start, start + len(text), -share * line.width, line.width, first + step * number)
        for number, ((start, text), line) in enumerate(zip(parts, lines, strict=True))
    )


def _columns(lines: list[Line], boxes: tuple[LineBox, ...], faces: tuple[Face, ...]) -> dict[str, Any]:
    """The layout's arrays over the glyphs of all lines, but for the ink."""
    index = {face: number for number, face in enumerate(faces)}
    tables = [np.array([index[face] for face in line.faces], dtype=np.int32) for line in lines]
    pairs = list(zip(lines, boxes, strict=True))
    return {
        "face": np.concatenate([table[line.face] for table, line in zip(tables, lines, strict=True)]),
        "glyph": np.concatenate([line.glyph for line in lines]),
        "x": np.concatenate([line.x + box.left for line, box in pairs]),
        "y": np.concatenate([line.y + box.baseline for line, box in pairs]),
        "advance": np.concatenate([line.advance for line in lines]),
        "cluster": np.concatenate([line.cluster + box.start for line, box in pairs]),
        "line": np.repeat(np.arange(len(lines), dtype=np.int32), [len(line.glyph) for line in lines]),
        "rising": np.concatenate([line.rising for line in lines]),
    }


def _ink(faces: tuple[Face, ...], size: float, columns: dict[str, Any]) -> NDArray[np.float64]:
    ink = np.full((len(columns["glyph"]), 4), np.nan)
    glyphs = zip(*(columns[name].tolist() for name in ("face", "glyph", "x", "y")), strict=True)
    for number, (face, glyph, x, y) in enumerate(glyphs):
        box = faces[face].outline(glyph).box
        if box is not None:
            left, bottom, right, top = (value * size / faces[face].upem for value in box)
            ink[number] = (x + left, y - top, x + right, y - bottom)
    return ink
