"""The parts of a box that wipes, sweeps and openings leave to be seen, as polygons."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Box = tuple[float, float, float, float]
FAR = 1e5
"""px that count as without end."""
SIGMAS = 3.0
"""How many sigmas a feather reaches; a wipe begins and ends so far beyond the box."""
_CORNER = 12  # parts of a rounded corner


def wipe_polygons(
    way: str, box: Box, angle: float, share: float, feather: float = 0.0, count: int = 6
) -> list[Floats]:
    """Polygons (k, 2) that cover a share of a box, in its px; with `angle` in degrees clockwise.

    A straight wipe's polygon goes on beyond the box on the sides that the edge does not cross, and
    the edge runs from SIGMAS feathers before the box to as many behind it.
    """
    if way == "round":
        return _sector(box, angle, share)
    if way == "blocks":
        return _blocks(box, angle, share, count)
    low, high = _extent(box, angle)
    reach = SIGMAS * feather
    if way == "middle":
        middle, half = (low + high) / 2, ((high - low) / 2 + reach) * share
        return [_strip(angle, middle - half, middle + half)]
    if way == "blinds":
        width = (high - low) / count
        starts = [low + n * width for n in range(count)]
        # The strips' own edges are soft too, so they begin a feather early.
        return [_strip(angle, s - reach, s - reach + (width + reach) * share + reach * share) for s in starts]
    edge = low - reach + share * (high - low + 2 * reach)
    return [_strip(angle, -FAR, edge)]


def line_polygon(point: tuple[float, float], angle: float) -> Floats:
    """(4, 2): everything behind the line through a point, as seen along an angle."""
    along = np.array([np.cos(np.radians(angle)), np.sin(np.radians(angle))])
    return _strip(angle, -FAR, float(np.dot(along, point)))


def _extent(box: Box, angle: float) -> tuple[float, float]:
    """From where to where a box goes along an angle."""
    left, top, right, bottom = box
    corners = np.array([[left, top], [right, top], [right, bottom], [left, bottom]])
    along = corners @ np.array([np.cos(np.radians(angle)), np.sin(np.radians(angle))])
    return float(along.min()), float(along.max())


def _strip(angle: float, start: float, end: float) -> Floats:
    """(4, 2): what lies between two distances along an angle."""
    along = np.array([np.cos(np.radians(angle)), np.sin(np.radians(angle))])
    beside = np.array([-along[1], along[0]]) * FAR
    first, last = along * start, along * max(start, end)
    return np.array([first - beside, last - beside, last + beside, first + beside])


def _sector(box: Box, angle: float, share: float) -> list[Floats]:
    """A pie about the middle, clockwise from an angle."""
    middle = np.array([(box[0] + box[2]) / 2, (box[1] + box[3]) / 2])
    steps = np.radians(angle + np.linspace(0.0, 360.0 * share, 2 + int(16 * share)))
    rim = middle + FAR * np.stack([np.cos(steps), np.sin(steps)], axis=1)
    return [np.concatenate([middle[None], rim])]


def _blocks(box: Box, angle: float, share: float, count: int) -> list[Floats]:
    """Blocks that travel in along an angle one after another, the far end filled first."""
    low, high = _extent(box, angle)
    width = (high - low) / count
    found = []
    for number in range(count):
        come = min(max(share * count - number, 0.0), 1.0)
        if come > 0:
            place = high - (number + 1) * width
            start = low - width + come * (place - low + width)
            found.append(_strip(angle, start, start + width))
    return found


def opening_polygon(box: Box, edges: Sequence[float | None], radius: float = 0.0) -> Floats:
    """(k, 2): a box with its left, top, right, bottom edge moved inwards by px; None is no edge there.

    Corners where two edges meet are rounded; edges that have passed each other leave nothing.
    """
    signs = (1.0, 1.0, -1.0, -1.0)
    ends = [
        FAR * -sign if edge is None else side + sign * edge
        for side, edge, sign in zip(box, edges, signs, strict=True)
    ]
    left, top, right, bottom = ends
    if right <= left or bottom <= top:
        return np.zeros((0, 2))
    radius = min(radius, (right - left) / 2, (bottom - top) / 2)
    corners = [(left, top, 180.0), (right, top, 270.0), (right, bottom, 0.0), (left, bottom, 90.0)]
    return np.concatenate([_corner(x, y, start, radius, box_middle(ends)) for x, y, start in corners])


def box_middle(ends: Sequence[float]) -> tuple[float, float]:
    """The middle of left, top, right, bottom."""
    return (ends[0] + ends[2]) / 2, (ends[1] + ends[3]) / 2


def _corner(x: float, y: float, start: float, radius: float, middle: tuple[float, float]) -> Floats:
    if radius <= 0:
        return np.array([[x, y]])
    centre = np.array([x + np.copysign(radius, middle[0] - x), y + np.copysign(radius, middle[1] - y)])
    steps = np.radians(start + np.linspace(0.0, 90.0, _CORNER + 1))
    return centre + radius * np.stack([np.cos(steps), np.sin(steps)], axis=1)
