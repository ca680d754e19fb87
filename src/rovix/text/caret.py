"""Where a caret stands in laid out words, and which letter a point is on."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from rovix.text.bidi import base_level
from rovix.text.layout import Layout, LineBox
from rovix.text.segments import graphemes, starts

Box = tuple[float, float, float, float]


@dataclass(frozen=True, slots=True)
class Cell:
    """A letter's stretch of its line: characters `start` to `end`, px `left` to `right`; `rising`
    when it runs left to right."""

    start: int
    end: int
    left: float
    right: float
    rising: bool

    def edge(self, index: int) -> float:
        """The px at its first or last character's edge."""
        leading = (index <= self.start) == self.rising
        return self.left if leading else self.right


def line_cells(layout: Layout, line: int) -> list[Cell]:
    """The letters of a line from left to right; a glyph that draws several is shared out evenly."""
    box = layout.lines[line]
    mine = np.flatnonzero(layout.line == line)
    bounds: dict[int, list[float]] = {}
    rising: dict[int, bool] = {}
    for glyph in mine.tolist():
        cluster = int(layout.cluster[glyph])
        left, right = float(layout.x[glyph]), float(layout.x[glyph] + layout.advance[glyph])
        low, high = bounds.setdefault(cluster, [left, right])
        bounds[cluster] = [min(low, left), max(high, right)]
        rising[cluster] = bool(layout.rising[glyph])
    following = sorted(bounds)
    cells: list[Cell] = []
    for at, cluster in enumerate(following):
        end = following[at + 1] if at + 1 < len(following) else box.end
        cells += _shared_out(layout.text, cluster, end, bounds[cluster], rising[cluster])
    return sorted(cells, key=lambda cell: cell.left)


def _shared_out(text: str, start: int, end: int, bounds: list[float], rising: bool) -> list[Cell]:
    parts = graphemes(text[start:end])
    width = (bounds[1] - bounds[0]) / max(1, len(parts))
    cells = []
    for number, (offset, part) in enumerate(zip(starts(parts), parts, strict=True)):
        place = number if rising else len(parts) - 1 - number
        left = bounds[0] + place * width
        cells.append(Cell(start + offset, start + offset + len(part), left, left + width, rising))
    return cells


def line_of(layout: Layout, index: int) -> int:
    """The line that a caret before character `index` stands on."""
    return max(number for number, line in enumerate(layout.lines) if line.start <= max(0, index))


def caret_at(layout: Layout, index: int) -> Box:
    """x, top, x, bottom of a caret before character `index` (0 to the text's length)."""
    number = line_of(layout, index)
    line = layout.lines[number]
    return _caret(layout, line, _caret_x(layout, number, line, index))


def _caret_x(layout: Layout, number: int, line: LineBox, index: int) -> float:
    cells = line_cells(layout, number)
    for cell in cells:
        if cell.start == index or (cell.start < index < cell.end):
            return cell.edge(index)
    ending = [cell for cell in cells if cell.end == index]
    return ending[0].edge(index) if ending else (line.left + line.width if cells else line.left)


def _caret(layout: Layout, line: LineBox, x: float) -> Box:
    middle = line.baseline - line.cap / 2
    half = line.cap * max(0.5, 0.55 * layout.size / max(1e-6, layout.cap_height))
    return x, middle - half, x, middle + half


def index_at(layout: Layout, x: float, y: float) -> int:
    """The character whose edge is nearest to a point in the layout's px."""
    number = int(np.argmin([abs(line.baseline - line.cap / 2 - y) for line in layout.lines]))
    line = layout.lines[number]
    edges = [
        (abs(cell.edge(i) - x), i) for cell in line_cells(layout, number) for i in (cell.start, cell.end)
    ]
    if not edges:
        return line.start
    # A line's end belongs to it, not to the next line; where the box broke it the caret stays before
    # the blank that hangs there.
    found = min(min(edges)[1], line.end)
    broken = line.soft and number + 1 < len(layout.lines) and found == layout.lines[number + 1].start
    return step(layout, found, -1) if broken else found


def selection_boxes(layout: Layout, start: int, end: int) -> list[Box]:
    """Left, top, right, bottom of what characters `start` to `end` cover, one box a letter."""
    boxes = []
    for number, line in enumerate(layout.lines):
        _, top, _, bottom = _caret(layout, line, 0.0)
        boxes += [
            (cell.left, top, cell.right, bottom)
            for cell in line_cells(layout, number)
            if start <= cell.start and cell.end <= end
        ]
    return boxes


def rises_at(layout: Layout, index: int) -> bool:
    """Whether the words at a character index run from left to right; an empty line runs as its text."""
    cells = line_cells(layout, line_of(layout, index))
    here = next((cell for cell in cells if cell.start <= index < cell.end), None)
    before = next((cell for cell in cells if cell.end == index), None)
    cell = here or before
    return cell.rising if cell is not None else base_level(layout.text) == 0


def step(layout: Layout, index: int, direction: int) -> int:
    """The next letter's edge before (-1) or after (1) a character index, in reading order."""
    edges = [*starts(graphemes(layout.text)), len(layout.text)]
    if direction > 0:
        return next((edge for edge in edges if edge > index), edges[-1])
    return next((edge for edge in reversed(edges) if edge < index), 0)


def step_line(layout: Layout, index: int, direction: int) -> int:
    """The index above (-1) or below (1), at about the same place across."""
    number = line_of(layout, index) + direction
    if not 0 <= number < len(layout.lines):
        return 0 if direction < 0 else len(layout.text)
    x = caret_at(layout, index)[0]
    line = layout.lines[number]
    return index_at(layout, x, line.baseline - line.cap / 2)
