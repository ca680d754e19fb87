"""Contours over time, and the lines that they are."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rovix.curve import TANGENTS, easing
from rovix.curve.smooth import LOOSE, SMOOTH, hermite, loose_slopes, monotone_slopes
from rovix.model.contour import Contour, ContourKeys
from rovix.model.identity import IdentityCache

Floats = NDArray[np.float64]
_STEP = 3.0
"""px that a curved piece goes at most from one corner of its polygon to the next, where it is small."""
_MOST = 48
_SLOPES = {SMOOTH: monotone_slopes, LOOSE: loose_slopes}


@dataclass(frozen=True, slots=True, eq=False)
class _Keyed:
    """Times (k,) and points (k, n, 6) of keys, the curve of each, and the slopes of smooth ways."""

    times: Floats
    points: Floats
    curves: tuple[str, ...]
    slopes: dict[str, Floats]


_keyed: IdentityCache[_Keyed] = IdentityCache()


def contour_at(keys: ContourKeys, frame: float) -> Contour:
    """The points at a frame of the clip."""
    return tuple(map(tuple, contours_at(keys, np.array([float(frame)]))[0].tolist()))


def contours_at(keys: ContourKeys, frames: Floats) -> Floats:
    """(t, n, 6): the points at frames (t,) of the clip, held before the first key and after the last.

    Smooth ways take their slopes from the neighbouring keys, number by number, as those of channels do.
    """
    keyed = _keyed.get(keys, lambda: _of(keys))
    if len(keyed.times) == 1:
        return np.repeat(keyed.points, len(frames), axis=0)
    found = np.empty((len(frames), *keyed.points.shape[1:]))
    inside = np.clip(frames, keyed.times[0], keyed.times[-1])
    segments = np.clip(np.searchsorted(keyed.times, inside, side="right") - 1, 0, len(keyed.times) - 2)
    for segment in np.unique(segments):
        chosen = segments == segment
        found[chosen] = _between(keyed, int(segment), inside[chosen])
    # The last key's own points, whatever an easing ends on.
    found[frames >= keyed.times[-1]] = keyed.points[-1]
    return found


def _of(keys: ContourKeys) -> _Keyed:
    times = np.array([key.frame for key in keys.keys], dtype=np.float64)
    points = np.array([key.value for key in keys.keys], dtype=np.float64)
    curves = tuple(key.curve for key in keys.keys)
    several = len(times) > 1
    slopes = {name: slope(times, points) for name, slope in _SLOPES.items() if name in curves and several}
    return _Keyed(times, points, curves, slopes)


def _between(keyed: _Keyed, segment: int, frames: Floats) -> Floats:
    start, end = keyed.times[segment : segment + 2]
    low, high = keyed.points[segment : segment + 2]
    share = ((frames - start) / (end - start))[:, None, None]
    curve = keyed.curves[segment]
    if curve in keyed.slopes:
        rise, fall = keyed.slopes[curve][segment : segment + 2] * (end - start)
        return hermite(share, low, high, rise, fall)
    # Points have no tangents in time of their own: level ones, a third of the way long, are these.
    eased = share * share * (3 - 2 * share) if curve == TANGENTS else easing(curve)(share)
    return low + eased * (high - low)


def travelled(keys: ContourKeys, frames: Floats) -> Floats:
    """(t,): how many px the points have gone in the mean since the first key, at rising frames (t,)."""
    known = np.array([key.frame for key in keys.keys], dtype=np.float64)
    whole = np.union1d(np.arange(known[0], known[-1] + 1), known)
    places = contours_at(keys, whole)[..., :2]
    ways = np.linalg.norm(np.diff(places, axis=0), axis=2).mean(axis=1)
    return np.interp(frames, whole, np.concatenate([[0.0], np.cumsum(ways)]))


def flattened(contour: Contour) -> Floats:
    """(k, 2): a contour as a polygon, curved pieces in parts of a few px."""
    points = np.array(contour, dtype=np.float64)
    place, after = points[:, :2], points[:, :2] + points[:, 4:]
    end = np.roll(place, -1, axis=0)
    before = end + np.roll(points[:, 2:4], -1, axis=0)
    curved = np.any(points[:, 4:] != 0, axis=1) | np.any(np.roll(points[:, 2:4], -1, axis=0) != 0, axis=1)
    lengths = sum(np.linalg.norm(b - a, axis=1) for a, b in ((place, after), (after, before), (before, end)))
    counts = np.where(curved, np.clip(np.ceil(np.asarray(lengths) / _STEP), 2, _MOST), 1).astype(int)
    return np.concatenate([
        _piece(place[n], after[n], before[n], end[n], int(count)) for n, count in enumerate(counts)
    ])  # fmt: skip


def _piece(a: Floats, b: Floats, c: Floats, d: Floats, count: int) -> Floats:
    """(count, 2): a cubic Bezier from its start on, without its end."""
    t = (np.arange(count) / count)[:, None]
    back = 1 - t
    return back**3 * a + 3 * back * back * t * b + 3 * back * t * t * c + t**3 * d
