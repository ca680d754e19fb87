"""Closed lines of masks: their points moved, added, taken away, in every key alike."""

from __future__ import annotations

from collections.abc import Callable, Iterable

from rovix.edit.address import held_at, put_held
from rovix.edit.channels import value_at, with_key
from rovix.edit.tree import clip_of, replace
from rovix.edit.values import set_channels
from rovix.errors import RovixError
from rovix.model import ContourKeys, Project
from rovix.model.contour import Contour

Point = tuple[float, float, float, float, float, float]
LEAST = 2
"""Points of a line; two cover something where it is curved."""
_ROUND = 0.35
"""Of the way from neighbour to neighbour: how far the handles of a smoothed point go, in proportion."""


def set_line(project: Project, identity: str, address: str, frame: int, line: Contour) -> Project:
    """Set the points, with a key at a frame of the clip where they have keys.

    A line of another number of points takes the place of all keys.
    """
    held = held_at(clip_of(project, identity), address)
    if isinstance(held, ContourKeys) and len(held.keys[0].value) != len(line):
        return put_held(project, identity, {address: line})
    return set_channels(project, identity, frame, {address: line})


def moved(line: Contour, numbers: Iterable[int], dx: float, dy: float) -> Contour:
    """Points moved by px, their handles with them."""
    chosen = set(numbers)
    return tuple(
        (round(p[0] + dx, 4), round(p[1] + dy, 4), *p[2:]) if n in chosen else p for n, p in enumerate(line)
    )


def pulled(line: Contour, number: int, side: str, way: tuple[float, float], apart: bool = False) -> Contour:
    """The handle before or after a point at px from it; the other turns along, unless they are pulled `apart`
    or were a corner's."""
    x, y, *ways = line[number]
    at = 0 if side == "before" else 2
    was_smooth = is_smooth(line[number])
    ways[at : at + 2] = [round(way[0], 4), round(way[1], 4)]
    other = 2 - at
    size, along = _size(way), _size((ways[other], ways[other + 1]))
    if was_smooth and not apart and size > 0 and along > 0:
        ways[other : other + 2] = [round(-way[0] / size * along, 4), round(-way[1] / size * along, 4)]
    return (*line[:number], (x, y, ways[0], ways[1], ways[2], ways[3]), *line[number + 1 :])


def is_smooth(point: Point) -> bool:
    """Whether a line goes on straight through a point, along its two handles."""
    _, _, ax, ay, bx, by = point
    sizes = _size((ax, ay)) * _size((bx, by))
    return sizes > 0 and ax * bx + ay * by <= -0.9995 * sizes


def smoothed(line: Contour, number: int) -> Contour:
    """A point with handles along the way from the one before it to the one after it."""
    before, here, after = line[number - 1], line[number], line[(number + 1) % len(line)]
    way = after[0] - before[0], after[1] - before[1]
    size = _size(way) or 1.0
    ends = [
        sign * _ROUND * _size((other[0] - here[0], other[1] - here[1])) / size
        for sign, other in ((-1, before), (1, after))
    ]
    made = (here[0], here[1], way[0] * ends[0], way[1] * ends[0], way[0] * ends[1], way[1] * ends[1])
    return (*line[:number], made, *line[number + 1 :])


def cornered(line: Contour, number: int) -> Contour:
    """A point without handles."""
    x, y = line[number][:2]
    return (*line[:number], (x, y, 0.0, 0.0, 0.0, 0.0), *line[number + 1 :])


def split(line: Contour, number: int, share: float) -> Contour:
    """One more point at a share of the Bezier piece after a point, by de Casteljau; the line stays."""
    here, there = line[number], line[(number + 1) % len(line)]
    a, d = here[:2], there[:2]
    b, c = (a[0] + here[4], a[1] + here[5]), (d[0] + there[2], d[1] + there[3])
    straight = here[4:] == (0.0, 0.0) and there[2:4] == (0.0, 0.0)
    if straight:
        made = (*_mixed(a, d, share), 0.0, 0.0, 0.0, 0.0)
        return (*line[: number + 1], made, *line[number + 1 :])
    ab, bc, cd = _mixed(a, b, share), _mixed(b, c, share), _mixed(c, d, share)
    first, second = _mixed(ab, bc, share), _mixed(bc, cd, share)
    x, y = _mixed(first, second, share)
    fresh = (x, y, first[0] - x, first[1] - y, second[0] - x, second[1] - y)
    made_line = list(line)
    made_line[number] = (*here[:4], ab[0] - a[0], ab[1] - a[1])
    after = (number + 1) % len(line)
    kept = made_line[after]
    made_line[after] = (kept[0], kept[1], cd[0] - d[0], cd[1] - d[1], kept[4], kept[5])
    return (*made_line[: number + 1], fresh, *made_line[number + 1 :])


def key_line(project: Project, identity: str, address: str, frame: int) -> Project:
    """Give the line a key at a frame of the clip, as it is there."""
    held = held_at(clip_of(project, identity), address)
    return put_held(project, identity, {address: with_key(held, frame, value_at(held, frame))})


def add_to_line(project: Project, identity: str, address: str, number: int, share: float) -> Project:
    """One more point after a point, in every key on that key's own line, so that nothing twists."""
    return _in_every_key(project, identity, address, lambda line: split(line, number, share))


def take_from_line(project: Project, identity: str, address: str, numbers: Iterable[int]) -> Project:
    """Points taken away, in every key; RovixError where fewer than two would be left."""
    gone = set(numbers)

    def without(line: Contour) -> Contour:
        kept = tuple(point for n, point in enumerate(line) if n not in gone)
        if len(kept) < LEAST:
            raise RovixError("A line keeps at least two points; remove the mask, or draw another line.")
        return kept

    return _in_every_key(project, identity, address, without)


def _in_every_key(
    project: Project, identity: str, address: str, change: Callable[[Contour], Contour]
) -> Project:
    held = held_at(clip_of(project, identity), address)
    if isinstance(held, ContourKeys):
        keys = tuple(replace(key, value=change(key.value)) for key in held.keys)
        return put_held(project, identity, {address: replace(held, keys=keys)})
    return put_held(project, identity, {address: change(held)})  # type: ignore[arg-type]


def _mixed(a: tuple[float, ...], b: tuple[float, ...], share: float) -> tuple[float, float]:
    return a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share


def _size(way: tuple[float, float]) -> float:
    return float((way[0] ** 2 + way[1] ** 2) ** 0.5)
