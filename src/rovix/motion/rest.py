"""Rest: what a layer's channels are before any move."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from rovix.curve import Curved, Key, Track
from rovix.model import Channel, Keys, MotionPath, Transform
from rovix.model.identity import IdentityCache
from rovix.model.transform_channels import RESTING
from rovix.motion.channels import CHANNELS

Floats = NDArray[np.float64]

_tracks: IdentityCache[Track] = IdentityCache()
_paths: IdentityCache[tuple[Curved, Track]] = IdentityCache()


def track_of(keys: Keys) -> Track:
    """The track of a channel's keys, over frames of the clip."""
    return _tracks.get(keys, lambda: Track(map(_key, keys.keys)))


def _key(key: object) -> Key:
    return Key(key.frame, key.value, key.curve, key.before, key.after)  # type: ignore[attr-defined]


def channel_at(channel: Channel, frames: Floats) -> Floats:
    """A channel's rest values at real frame numbers of the clip."""
    if isinstance(channel, Keys):
        return track_of(channel)(frames)
    return _constant(float(channel), frames.shape)


@lru_cache(maxsize=2048)
def _constant(value: float, shape: tuple[int, ...]) -> Floats:
    """Not to be written to: the very same array for the same number."""
    made = np.full(shape, value)
    made.setflags(write=False)
    return made


def path_of(path: MotionPath) -> tuple[Curved, Track]:
    """A path's curve, and a track of how many segments of it are behind the layer at a frame."""
    return _paths.get(path, lambda: _path(path))


def _path(path: MotionPath) -> tuple[Curved, Track]:
    keys = path.keys
    curved = Curved([(k.x, k.y) for k in keys], [k.before for k in keys], [k.after for k in keys])
    return curved, Track((key.frame, float(number), key.curve) for number, key in enumerate(keys))


def path_at(path: MotionPath, frames: Floats) -> tuple[Floats, Floats]:
    """(t, 2) px and (t, 2) unit vectors of the way at frames of the clip.

    A segment that overshoots goes straight on beyond its end.
    """
    curved, track = path_of(path)
    if len(path.keys) == 1:
        return np.repeat(curved.points, len(frames), axis=0), np.tile([1.0, 0.0], (len(frames), 1))
    starts = np.array([key.frame for key in path.keys])
    segment = np.clip(np.searchsorted(starts, frames, side="right") - 1, 0, len(starts) - 2)
    share = track(frames) - segment
    return curved.at(segment, share), curved.way(segment, share)


def rest_at(place: Transform, frames: Floats) -> dict[str, Floats]:
    """Rest values of every placed channel, (t,) each; opacity stays in 0..1, a blur is not below 0."""
    values = {name: channel_at(getattr(place, name), frames) for name in RESTING}
    if place.path is not None:
        points, ways = path_at(place.path, frames)
        values["x"], values["y"] = values["x"] + points[:, 0], values["y"] + points[:, 1]
        if place.path.along:
            values["rotation_z"] = values["rotation_z"] + np.degrees(np.arctan2(ways[:, 1], ways[:, 0]))
    for name in ("opacity", "blur_x", "blur_y"):
        if isinstance(getattr(place, name), Keys):  # curves overshoot; plain numbers are in their limits
            rule = CHANNELS[name]
            values[name] = np.clip(values[name], rule.low, rule.high)
    return values


def pivot_at(place: Transform, frames: Floats) -> Floats:
    """(t, 2): the pivot as shares of the layer's block."""
    return np.stack([channel_at(place.pivot_x, frames), channel_at(place.pivot_y, frames)], axis=1)
