"""Contours over time, and the lines that they are."""

from __future__ import annotations

from itertools import chain

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


def flattened(contour: Contour, step: float = _STEP, least: int = 2) -> Floats:
    """(k, 2): a contour as a polygon, curved pieces in parts of `step` px, `least` of them or more."""
    numbers = chain.from_iterable(contour)
    points = np.fromiter(numbers, dtype=np.float64, count=6 * len(contour)).reshape(-1, 6)
    following = np.concatenate([points[1:], points[:1]])
    place, end = points[:, :2], following[:, :2]
    after, before = place + points[:, 4:], end + following[:, 2:4]
    curved = points[:, 4:].any(axis=1) | following[:, 2:4].any(axis=1)
    ways = np.stack([after - place, before - after, end - before])
    lengths = np.hypot(ways[..., 0], ways[..., 1]).sum(axis=0)
    counts = np.where(curved, np.clip(np.ceil(lengths / step), least, _MOST), 1).astype(int)
    # All pieces at once: each corner by its piece and its share of that.
    first = np.cumsum(counts) - counts
    share = (np.arange(counts.sum()) - np.repeat(first, counts)) / np.repeat(counts, counts)
    back = 1 - share
    shares = np.stack([back**3, 3 * back * back * share, 3 * back * share * share, share**3])
    parts = np.repeat(np.stack([place, after, before, end]), counts, axis=1) * shares[:, :, None]
    made: Floats = parts[0] + parts[1] + parts[2] + parts[3]
    return made
