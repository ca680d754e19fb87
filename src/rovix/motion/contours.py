"""Contours over time, and the lines that they are."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from rovix.curve import TANGENTS, easing
from rovix.curve.smooth import LOOSE, SMOOTH, hermite, loose_slopes, monotone_slopes
from rovix.model.contour import Contour, ContourKey, ContourKeys
from rovix.model.identity import IdentityCache

Floats = NDArray[np.float64]
_STEP = 3.0
"""px that a curved piece goes at most from one corner of its polygon to the next, where it is small."""
_MOST = 48
_SLOPES = {SMOOTH: monotone_slopes, LOOSE: loose_slopes}


_arrays: IdentityCache[Floats] = IdentityCache()
_times: IdentityCache[Floats] = IdentityCache()


def contour_at(keys: ContourKeys, frame: float) -> Contour:
    """The points at a frame of the clip."""
    return tuple(map(tuple, contours_at(keys, np.array([float(frame)]))[0].tolist()))


def contours_at(keys: ContourKeys, frames: Floats) -> Floats:
    """(t, n, 6): the points at frames (t,) of the clip, held before the first key and after the last.

    Smooth ways take their slopes from the neighbouring keys, number by number, as those of channels do.
    """
    times = _times.get(keys, lambda: np.array([key.frame for key in keys.keys], dtype=np.float64))
    if len(times) == 1:
        return np.repeat(_points(keys.keys[0])[None], len(frames), axis=0)
    inside = np.clip(frames, times[0], times[-1])
    segments = np.clip(np.searchsorted(times, inside, side="right") - 1, 0, len(times) - 2)
    found = np.empty((len(frames), *_points(keys.keys[0]).shape))
    for segment in np.unique(segments):
        chosen = segments == segment
        found[chosen] = _between(keys, times, int(segment), inside[chosen])
    # The last key's own points, whatever an easing ends on.
    found[frames >= times[-1]] = _points(keys.keys[-1])
    return found


def _points(key: ContourKey) -> Floats:
    """(n, 6); kept with the key, so that an edit of one makes no other anew."""
    return _arrays.get(key, lambda: np.array(key.value, dtype=np.float64))


def _between(keys: ContourKeys, times: Floats, segment: int, frames: Floats) -> Floats:
    start, end = times[segment : segment + 2]
    low, high = (_points(key) for key in keys.keys[segment : segment + 2])
    share = ((frames - start) / (end - start))[:, None, None]
    curve = keys.keys[segment].curve
    if curve in _SLOPES:
        # Slopes at two keys depend on these and on one key more on either side.
        first, last = max(0, segment - 1), segment + 3
        near = np.stack([_points(key) for key in keys.keys[first:last]])
        slopes = _SLOPES[curve](times[first:last], near)
        rise, fall = slopes[segment - first : segment - first + 2] * (end - start)
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


def flattened(contour: Contour, step: float = _STEP) -> Floats:
    """(k, 2): a contour as a polygon, curved pieces in parts of `step` px."""
    points = np.array(contour, dtype=np.float64)
    place, after = points[:, :2], points[:, :2] + points[:, 4:]
    end = np.roll(place, -1, axis=0)
    before = end + np.roll(points[:, 2:4], -1, axis=0)
    curved = np.any(points[:, 4:] != 0, axis=1) | np.any(np.roll(points[:, 2:4], -1, axis=0) != 0, axis=1)
    lengths = sum(np.linalg.norm(b - a, axis=1) for a, b in ((place, after), (after, before), (before, end)))
    counts = np.where(curved, np.clip(np.ceil(np.asarray(lengths) / step), 2, _MOST), 1).astype(int)
    # All pieces at once: each corner by its piece and its share of that.
    piece = np.repeat(np.arange(len(counts)), counts)
    part = (np.arange(len(piece)) - np.repeat(np.cumsum(counts) - counts, counts)) / counts[piece]
    s, back = part[:, None], 1 - part[:, None]
    made: Floats = (
        back**3 * place[piece] + 3 * back * back * s * after[piece]
        + 3 * back * s * s * before[piece] + s**3 * end[piece]
    )  # fmt: skip
    return made
