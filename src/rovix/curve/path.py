"""Paths of points: where they are at shares of a segment's length, and which way they go."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Point = tuple[float, float]
# Gauss-Legendre nodes over a segment's parts: lengths to 1e-9 of what they are, but at sharp cusps.
_PARTS = 16
_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(12)


class Curved:
    """Bezier segments from point to point, measured by their length.

    `points` (k, 2) with the tangents after and before each, from the point itself; None is straight
    at that end. Raises ValueError without a point.
    """

    def __init__(
        self, points: Sequence[Point], befores: Sequence[Point | None], afters: Sequence[Point | None]
    ) -> None:
        if not len(points):
            raise ValueError("A path needs at least one point.")
        place = np.array(points, dtype=np.float64)
        first = [after or (0.0, 0.0) for after in afters[:-1]]
        second = [before or (0.0, 0.0) for before in befores[1:]]
        self.points = place
        ends = place[:-1], place[1:]
        self._control = np.stack(
            [ends[0], ends[0] + np.reshape(first, (-1, 2)), ends[1] + np.reshape(second, (-1, 2)), ends[1]],
            axis=1,
        )
        straight = [not after and not before for after, before in zip(afters[:-1], befores[1:], strict=True)]
        # A straight segment is evenly spaced only with its handles at thirds.
        for number in np.flatnonzero(straight):
            self._control[number] = np.linspace(ends[0][number], ends[1][number], 4)
        self._grid = np.linspace(0.0, 1.0, _PARTS + 1)
        self._sums = self._summed()

    @property
    def lengths(self) -> Floats:
        """(k - 1,): px of each segment."""
        return self._sums[:, -1]

    def at(self, segment: NDArray[np.intp], share: Floats) -> Floats:
        """(n, 2): points at shares (n,) of the lengths of segments (n,); beyond 0 and 1 straight on."""
        inside = np.clip(share, 0.0, 1.0)
        t = self._parameter(segment, inside)
        control = self._control[segment]
        beyond = ((share - inside) * self.lengths[segment])[:, None]
        return _bezier(control, t) + beyond * self._way(control, t)

    def way(self, segment: NDArray[np.intp], share: Floats) -> Floats:
        """(n, 2): unit vectors along the path."""
        return self._way(self._control[segment], self._parameter(segment, np.clip(share, 0.0, 1.0)))

    def halves(self, number: int, share: float) -> tuple[Floats, Floats, Floats, Floats, Floats]:
        """A segment cut in two at a share of its length, by de Casteljau's construction: the handle
        after its start, those before and after the cut, the one before its end, and the cut."""
        segment = np.array([number])
        t = float(self._parameter(segment, np.array([share]))[0])
        a, b, c, d = self._control[number]
        first, middle, last = a + t * (b - a), b + t * (c - b), c + t * (d - c)
        low, high = first + t * (middle - first), middle + t * (last - middle)
        return first, low, high, last, low + t * (high - low)

    def _way(self, control: Floats, t: Floats) -> Floats:
        slope = _slope(control, t)
        size = np.hypot(*slope.T)
        # Where a handle has no length the way is that of a point a little farther on.
        near = np.where(t < 0.5, t + 1e-4, t - 1e-4)
        slope = np.where((size < 1e-9)[:, None], _slope(control, near), slope)
        size = np.hypot(*slope.T)
        return np.where(size[:, None] > 0, slope / np.where(size > 0, size, 1.0)[:, None], [1.0, 0.0])

    def _summed(self) -> Floats:
        """(k - 1, parts + 1): length from each segment's start to each part's end."""
        parts = [self._length(self._control, a, b) for a, b in zip(self._grid, self._grid[1:], strict=False)]
        sums = np.cumsum(np.stack(parts, axis=1), axis=1)
        return np.concatenate([np.zeros((len(sums), 1)), sums], axis=1)

    def _length(self, control: Floats, start: Floats | float, end: Floats | float) -> Floats:
        """(n,): length of segments between two parameters."""
        half = (np.asarray(end) - start) / 2
        middle = (np.asarray(end) + start) / 2
        speeds = [
            np.hypot(*_slope(control, np.broadcast_to(middle + half * n, len(control))).T) for n in _NODES
        ]
        return half * np.tensordot(_WEIGHTS, speeds, axes=1)

    def _parameter(self, segment: NDArray[np.intp], share: Floats) -> Floats:
        """(n,): parameters at which shares of the length are reached: Newton's steps in a bracket."""
        control, sums = self._control[segment], self._sums[segment]
        wanted = share * sums[:, -1]
        part = np.clip((sums <= wanted[:, None]).sum(axis=1) - 1, 0, _PARTS - 1)
        start, low, high = self._grid[part], self._grid[part], self._grid[part + 1]
        before = np.take_along_axis(sums, part[:, None], axis=1)[:, 0]
        t = (low + high) / 2
        for _ in range(40):
            error = before + self._length(control, start, t) - wanted
            if np.all(np.abs(error) <= 1e-12 * (1 + sums[:, -1])):
                break
            low, high = np.where(error < 0, t, low), np.where(error > 0, t, high)
            speed = np.hypot(*_slope(control, t).T)
            step = t - error / np.where(speed > 0, speed, 1.0)
            t = np.where((step > low) & (step < high) & (speed > 0), step, (low + high) / 2)
        return np.where(share <= 0, 0.0, np.where(share >= 1, 1.0, t))


def _bezier(control: Floats, t: Floats) -> Floats:
    back, at = (1.0 - t)[:, None], t[:, None]
    a, b, c, d = np.moveaxis(control, 1, 0)
    return back**3 * a + 3 * back**2 * at * b + 3 * back * at**2 * c + at**3 * d


def _slope(control: Floats, t: Floats) -> Floats:
    back, at = (1.0 - t)[:, None], t[:, None]
    a, b, c, d = np.moveaxis(control, 1, 0)
    return 3 * (back**2 * (b - a) + 2 * back * at * (c - b) + at**2 * (d - c))
