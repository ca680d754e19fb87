"""A block of words: lines under each other around an origin."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from rovix.model import Text
from rovix.model.identity import IdentityCache
from rovix.text.breaking import Stretch, paragraphs, wrapped
from rovix.text.face import Face
from rovix.text.line import Line, columned, justified, shape_line, unit_advances
from rovix.text.segments import line_units
from rovix.text.setting import Setting, colours_of, settings_of

Box = tuple[float, float, float, float]


@dataclass(frozen=True, slots=True, eq=False)
class LineBox:
    """A line's place in the block: characters `start` to `end` (break not included), px.

    `cap` is the height of its largest capitals; `soft` when the box ended it, not a line feed.
    """

    start: int
    end: int
    left: float
    width: float
    baseline: float
    cap: float
    soft: bool = False


@dataclass(frozen=True, slots=True, eq=False, weakref_slot=True)
class Layout:
    """Shaped words, px, x right and y down.

    The origin is the block's anchor: across, the edge or middle that the words are aligned to (the
    middle where they are justified or in columns); down, midway from the top of the first line's
    capitals to the last baseline. Arrays run over glyphs, line after line, each from left to right;
    `cluster` counts characters of the whole text, `em` is each glyph's size in px, `tint` its number
    among the `colours`, -1 where the look's fill colours it.
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
    em: NDArray[np.float64]
    line: NDArray[np.int32]
    rising: NDArray[np.bool_]
    tint: NDArray[np.int32]
    colours: tuple[str, ...]
    ink: NDArray[np.float64]
    """(n, 4): left, top, right, bottom of each glyph's control points; NaN without ink."""
    cap_height: float

    @property
    def block(self) -> Box:
        """Left, top, right, bottom: from the capitals' top to the last baseline, widest line across."""
        left = min(line.left for line in self.lines)
        right = max(line.left + line.width for line in self.lines)
        return left, self.lines[0].baseline - self.lines[0].cap, right, self.lines[-1].baseline

    def ink_bounds(self) -> Box | None:
        """Left, top, right, bottom of all outline control points; None without ink."""
        if np.all(np.isnan(self.ink)):
            return None
        left, top = np.nanmin(self.ink[:, :2], axis=0)
        right, bottom = np.nanmax(self.ink[:, 2:], axis=0)
        return float(left), float(top), float(right), float(bottom)


_layouts: IdentityCache[Layout] = IdentityCache()


def lay_out(words: Text, ligatures: bool = True, broken_as: Text | None = None) -> Layout:
    """Shape and place a layer's words, kept for as long as the struct lives.

    `ligatures=False` is for letters that will move apart. With `broken_as`, lines part where they do
    in those words: the same text, set a little otherwise.
    """
    detail = (ligatures, id(broken_as))
    return _layouts.get(words, lambda: _laid_out(words, ligatures, broken_as or words), detail)


def _laid_out(words: Text, ligatures: bool, broken_as: Text) -> Layout:
    settings = settings_of(words, ligatures)
    parts = _line_parts(broken_as, settings if broken_as is words else settings_of(broken_as, ligatures))
    lines = [shape_line(words.content[p.start : p.end], settings[p.start :], words.case) for p in parts]
    if words.align == "justify":
        lines = _justified(words, parts, lines)
    lines, middles = _columned(words, parts, lines)
    own = settings[-1]
    boxes = _line_boxes(words, parts, lines, middles)
    faces = tuple(dict.fromkeys(face for line in lines for face in line.faces))
    columns = _columns(lines, boxes, faces)
    columns["ink"] = ink_of(faces, columns)
    return Layout(
        text=words.content,
        size=words.size,
        faces=faces,
        lines=boxes,
        cap_height=own.face.cap_height * words.size,
        **columns,
        **_tints(words, columns["cluster"]),
    )


def _line_parts(words: Text, settings: list[Setting]) -> list[Stretch]:
    """The characters of each line, at least one line."""
    parts = paragraphs(words.content)
    if words.wrap is None:
        return parts
    return [line for part in parts for line in _wrapped(words, part, settings)]


def _wrapped(words: Text, part: Stretch, settings: list[Setting]) -> list[Stretch]:
    text = words.content[part.start : part.end]
    # Unit by unit, as they are kept: of a long paragraph only the unit that was typed in is new.
    advances: list[float] = []
    for unit in line_units(text):
        advances += unit_advances(
            unit, settings[part.start + len(advances) : part.start + len(advances) + len(unit)], words.case
        )
    assert words.wrap is not None
    lines = wrapped(text, advances, words.wrap, words.balance)
    moved = [Stretch(p.start + part.start, p.end + part.start, p.next + part.start, p.soft) for p in lines]
    return [*moved[:-1], Stretch(moved[-1].start, moved[-1].end, part.next)]


def _justified(words: Text, parts: list[Stretch], lines: list[Line]) -> list[Line]:
    width = words.wrap or max(line.width for line in lines)
    return [
        justified(line, words.content[part.start : part.end], width) if part.soft else line
        for part, line in zip(parts, lines, strict=True)
    ]


def _columned(words: Text, parts: list[Stretch], lines: list[Line]) -> tuple[list[Line], list[float | None]]:
    """Lines in columns, and for each px from its left to the middle between them; None for other lines."""
    if words.align != "columns":
        return lines, [None] * len(lines)
    gap = words.column_gap * words.size
    found = [
        columned(line, words.content[part.start : part.end], gap)
        for part, line in zip(parts, lines, strict=True)
    ]
    return [line for line, _ in found], [middle for _, middle in found]


def _line_boxes(
    words: Text, parts: list[Stretch], lines: list[Line], middles: list[float | None]
) -> tuple[LineBox, ...]:
    steps = [words.leading * line.em for line in lines[1:]]
    feeds = [0.0 if part.soft else words.paragraph * words.size for part in parts[:-1]]
    falls = np.concatenate([[0.0], np.cumsum(np.add(steps, feeds))])
    first = lines[0].cap - (lines[0].cap + float(falls[-1])) / 2
    width = words.wrap or max(line.width for line in lines)
    found = []
    for part, line, fall, middle in zip(parts, lines, falls.tolist(), middles, strict=True):
        left = _left(words.align, line.width, width) if middle is None else -middle
        found.append(LineBox(part.start, part.end, left, line.width, first + fall, line.cap, part.soft))
    return tuple(found)


def _left(align: str, own: float, width: float) -> float:
    if align == "justify":
        return -width / 2
    return -{"left": 0.0, "centre": 0.5, "right": 1.0, "columns": 0.5}[align] * own


def _columns(lines: list[Line], boxes: tuple[LineBox, ...], faces: tuple[Face, ...]) -> dict[str, Any]:
    """The layout's arrays over the glyphs of all lines, but for the ink and the tints."""
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
        "em": np.concatenate([line.size for line in lines]),
        "line": np.repeat(np.arange(len(lines), dtype=np.int32), [len(line.glyph) for line in lines]),
        "rising": np.concatenate([line.rising for line in lines]),
    }


def _tints(words: Text, cluster: NDArray[np.int64]) -> dict[str, Any]:
    found = colours_of(words)
    colours = tuple(dict.fromkeys(colour for colour in found if colour is not None))
    numbers = np.array([-1 if c is None else colours.index(c) for c in found] or [-1], dtype=np.int32)
    return {"tint": numbers[cluster], "colours": colours}


def ink_of(faces: tuple[Face, ...], columns: dict[str, Any]) -> NDArray[np.float64]:
    """(n, 4) from the boxes of the glyphs, each kind of glyph looked at once."""
    face, glyph = columns["face"], columns["glyph"]
    kinds, which = np.unique(np.stack([face, glyph.astype(np.int64)], axis=1), axis=0, return_inverse=True)
    boxes = np.array([_em_box(faces[f], g) for f, g in kinds.tolist()]).reshape(-1, 4)
    left, bottom, right, top = (boxes[which.reshape(-1)] * columns["em"][:, None]).T
    x, y = columns["x"], columns["y"]
    return np.stack([x + left, y - top, x + right, y - bottom], axis=1)


def _em_box(face: Face, glyph: int) -> Sequence[float]:
    box = face.ink_box(glyph)
    return [np.nan] * 4 if box is None else [value / face.upem for value in box]
