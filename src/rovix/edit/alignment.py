"""Boxes caught on lines: what a dragged layer snaps to in the picture. Px of the frame from its top left."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field

Box = tuple[float, float, float, float]
"""Left, top, right, bottom."""
_NONE = 1e-6


@dataclass(frozen=True, slots=True)
class Line:
    """A line that edges and middles are caught on: its px, and what it is."""

    at: float
    kind: str


@dataclass(frozen=True, slots=True)
class Targets:
    """Lines across (x) and down (y) that a box may be caught on, and the boxes of other layers."""

    x: tuple[Line, ...] = ()
    y: tuple[Line, ...] = ()
    boxes: tuple[Box, ...] = ()


@dataclass(frozen=True, slots=True)
class Gap:
    """An empty stretch from `start` to `end` along an axis, at `level` on the other."""

    axis: int
    start: float
    end: float
    level: float


@dataclass(frozen=True, slots=True)
class Caught:
    """How far a box is moved by what it was caught on; the lines and gaps to show."""

    dx: float = 0.0
    dy: float = 0.0
    lines: tuple[tuple[int, Line], ...] = ()
    gaps: tuple[Gap, ...] = field(default=())


def targets(
    size: tuple[int, int],
    safe: Iterable[Box],
    guides: tuple[Iterable[float], Iterable[float]],
    boxes: Iterable[Box],
) -> Targets:
    """The frame's edges, middle and thirds, safe areas, guides (x, y), and other layers' boxes."""
    others = tuple(boxes)
    lines = []
    for axis in (0, 1):
        side = float(size[axis])
        found = [Line(side / 2, "middle"), Line(0.0, "edge"), Line(side, "edge")]
        found += [Line(at, "guide") for at in guides[axis]]
        found += [Line(side / 3, "third"), Line(side * 2 / 3, "third")]
        found += [Line(box[end], "safe area") for box in safe for end in (axis, axis + 2)]
        found += [Line(at, "layer") for box in others for at in _marks(box, axis)]
        lines.append(tuple(found))
    return Targets(lines[0], lines[1], others)


def caught(box: Box, around: Targets, within: float) -> Caught:
    """Catch a box's edges or middle on the nearest line of each axis at most `within` px away.

    Where no line is so near, gaps to its neighbours that become equal catch it.
    """
    moves, lines, gaps = [0.0, 0.0], [], []
    for axis, candidates in ((0, around.x), (1, around.y)):
        near = [(abs(line.at - mark), line.at - mark) for line in candidates for mark in _marks(box, axis)]
        best = min(near, default=(within + 1, 0.0), key=lambda found: found[0])
        if best[0] <= within:
            moves[axis] = best[1]
            lines += [(axis, line) for line in _met(box, axis, best[1], candidates)]
            continue
        moved, shown = _equal_gaps(box, axis, around.boxes, within)
        moves[axis] = moved
        gaps += shown
    return Caught(moves[0], moves[1], tuple(lines), tuple(gaps))


def _met(box: Box, axis: int, move: float, candidates: tuple[Line, ...]) -> list[Line]:
    marks = [mark + move for mark in _marks(box, axis)]
    met = [line for line in candidates if any(abs(line.at - mark) < _NONE for mark in marks)]
    return list({line.at: line for line in reversed(met)}.values())


def _marks(box: Box, axis: int) -> tuple[float, float, float]:
    low, high = box[axis], box[axis + 2]
    return (low + high) / 2, low, high


def _equal_gaps(box: Box, axis: int, boxes: tuple[Box, ...], within: float) -> tuple[float, list[Gap]]:
    """The move that makes gaps equal: between two neighbours, or beyond two that stand apart."""
    row = [other for other in boxes if _overlap(box, other, 1 - axis)]
    before = sorted((o for o in row if o[axis + 2] <= box[axis] + within), key=lambda o: o[axis + 2])
    after = sorted((o for o in row if o[axis] >= box[axis + 2] - within), key=lambda o: o[axis])
    length = box[axis + 2] - box[axis]
    spots = []
    if before and after:
        spots.append((before[-1][axis + 2] + after[0][axis] - length) / 2)
    if len(before) > 1:
        spots.append(before[-1][axis + 2] + (before[-1][axis] - before[-2][axis + 2]))
    if len(after) > 1:
        spots.append(after[0][axis] - (after[1][axis] - after[0][axis + 2]) - length)
    moves = [spot - box[axis] for spot in spots if abs(spot - box[axis]) <= within]
    if not moves:
        return 0.0, []
    move = min(moves, key=abs)
    return move, _gaps(box, axis, move, before, after)


def _gaps(box: Box, axis: int, move: float, before: list[Box], after: list[Box]) -> list[Gap]:
    level = (box[1 - axis] + box[3 - axis]) / 2
    moved_low, moved_high = box[axis] + move, box[axis + 2] + move
    found = []
    if before:
        found.append(Gap(axis, before[-1][axis + 2], moved_low, level))
    if after:
        found.append(Gap(axis, moved_high, after[0][axis], level))
    if len(before) > 1:
        found.append(Gap(axis, before[-2][axis + 2], before[-1][axis], level))
    if len(after) > 1:
        found.append(Gap(axis, after[0][axis + 2], after[1][axis], level))
    lengths = [gap.end - gap.start for gap in found]
    # Only those that are as long as another one say why it was caught.
    return [gap for gap, length in zip(found, lengths, strict=True) if _how_many(lengths, length) > 1]


def _how_many(lengths: list[float], length: float) -> int:
    return sum(abs(other - length) < 0.01 for other in lengths)


def _overlap(box: Box, other: Box, axis: int) -> bool:
    return box[axis] < other[axis + 2] and other[axis] < box[axis + 2]


def alignments(boxes: list[Box], side: str, to: Box) -> list[tuple[float, float]]:
    """(dx, dy) for each box so that it lies at a side of another: left, centre, right, top, middle or
    bottom."""
    axis = 0 if side in ("left", "centre", "right") else 1
    share = {"left": 0.0, "top": 0.0, "centre": 0.5, "middle": 0.5, "right": 1.0, "bottom": 1.0}[side]
    moves = []
    for box in boxes:
        room = (to[axis + 2] - to[axis]) - (box[axis + 2] - box[axis])
        move = to[axis] + share * room - box[axis]
        moves.append((move, 0.0) if axis == 0 else (0.0, move))
    return moves


def distributions(boxes: list[Box], axis: int, by: str) -> list[tuple[float, float]]:
    """(dx, dy) for each box so that the `middles`, or the `gaps`, are even between the outermost two."""
    order = sorted(range(len(boxes)), key=lambda n: _marks(boxes[n], axis)[0])
    moves = [(0.0, 0.0)] * len(boxes)
    if len(order) < 3:
        return moves
    first, last = boxes[order[0]], boxes[order[-1]]
    lengths = [boxes[n][axis + 2] - boxes[n][axis] for n in order]
    gap = (last[axis + 2] - first[axis] - sum(lengths)) / (len(order) - 1)
    at = first[axis]
    for place, n in enumerate(order):
        if by == "gaps":
            target = at
            at += lengths[place] + gap
        else:
            low, high = _marks(first, axis)[0], _marks(last, axis)[0]
            target = low + (high - low) * place / (len(order) - 1) - lengths[place] / 2
        move = target - boxes[n][axis]
        moves[n] = (move, 0.0) if axis == 0 else (0.0, move)
    return moves


def around(boxes: list[Box]) -> Box:
    """The box round all of them."""
    return (
        min(box[0] for box in boxes), min(box[1] for box in boxes),
        max(box[2] for box in boxes), max(box[3] for box in boxes),
    )  # fmt: skip
