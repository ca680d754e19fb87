"""Paths of a layer's position: made of keys and back, their points and tangents."""

from __future__ import annotations

import numpy as np

from rovix.edit.address import put_held
from rovix.edit.channels import channel_value, value_at
from rovix.edit.transform import layer_transform
from rovix.edit.tree import clip_of, replace
from rovix.edit.values import set_channels
from rovix.errors import RovixError
from rovix.model import Key, Keys, MotionPath, PathKey, Project, Transform
from rovix.model.motion_path import Way
from rovix.motion.rest import path_at, path_of

ADDRESS = "transform.path"
_NEW = 400.0  # px that a new path goes to the right
_SHARE = 1 / 3


def make_path(project: Project, identity: str) -> Project:
    """Let a layer's position run on a path: through its keys of x and y, or a new one to the right."""
    clip = clip_of(project, identity)
    place = layer_transform(clip)
    if place.path is not None:
        raise RovixError("It runs on a path already; drag its points in the picture.")
    path = MotionPath(keys=_points(place, clip.length))
    return put_held(project, identity, {ADDRESS: path, "transform.x": 0.0, "transform.y": 0.0})


def _points(place: Transform, length: int) -> tuple[PathKey, ...]:
    found: dict[int, str] = {}
    for channel in (place.y, place.x):
        if isinstance(channel, Keys):
            found |= {key.frame: key.curve for key in channel.keys}
    if len(found) < 2:
        x, y = channel_value(place.x, 0), channel_value(place.y, 0)
        last = max(1, length - 1)
        return PathKey(frame=0, x=x, y=y), PathKey(frame=last, x=x + _NEW, y=y)
    return tuple(
        PathKey(frame=f, x=channel_value(place.x, f), y=channel_value(place.y, f), curve=found[f])
        for f in sorted(found)
    )


def path_to_keys(project: Project, identity: str) -> Project:
    """Write a path out as keys of x and y: at its points where it is straight, else one a frame."""
    path = _path(project, identity)
    place = layer_transform(clip_of(project, identity))
    if isinstance(place.x, Keys) or isinstance(place.y, Keys):
        raise RovixError("Its x or y has keys beside the path; take those away first.")
    straight = all(key.before is None and key.after is None for key in path.keys)
    first, last = path.keys[0].frame, path.keys[-1].frame
    if straight:
        made = [[(k.frame, value, k.curve) for k in path.keys for value in (getattr(k, n),)] for n in "xy"]
    else:
        frames = np.arange(first, last + 1)
        points = path_at(path, frames.astype(np.float64))[0].T
        pairs = [zip(frames.tolist(), column.tolist(), strict=True) for column in points]
        made = [[(frame, value, "linear") for frame, value in pair] for pair in pairs]
    keys = [Keys(keys=tuple(Key(frame=f, value=v, curve=c) for f, v, c in own)) for own in made]
    shifted = [
        replace(held, keys=tuple(replace(key, value=key.value + own) for key in held.keys))
        for held, own in zip(keys, (place.x, place.y), strict=True)
    ]
    return put_held(project, identity, {ADDRESS: None, "transform.x": shifted[0], "transform.y": shifted[1]})


def remove_path(project: Project, identity: str, frame: int) -> Project:
    """Take a path away; the layer rests where it is at a frame."""
    path, place = _path(project, identity), layer_transform(clip_of(project, identity))
    x, y = value_at(path, frame)
    if isinstance(place.x, Keys) or isinstance(place.y, Keys):
        return put_held(project, identity, {ADDRESS: None})
    return put_held(
        project, identity, {ADDRESS: None, "transform.x": place.x + x, "transform.y": place.y + y}
    )


def add_point(project: Project, identity: str, frame: int) -> Project:
    """Put a point where the path is at a frame; its shape stays, its speed on either side too if even."""
    path = _path(project, identity)
    keys = list(path.keys)
    number = max((n for n, key in enumerate(keys) if key.frame < frame), default=-1)
    if any(key.frame == frame for key in keys):
        raise RovixError(f"The path has a point on frame {frame} already.")
    if number < 0 or number + 1 >= len(keys):
        x, y = value_at(path, frame)
        keys.insert(number + 1, PathKey(frame=frame, x=x, y=y))
    else:
        keys[number : number + 2] = _split(path, number, frame)
    return put_held(project, identity, {ADDRESS: replace(path, keys=tuple(keys))})


def _split(path: MotionPath, number: int, frame: int) -> list[PathKey]:
    """A segment's two points with one more between, by de Casteljau's construction."""
    first, second = path.keys[number], path.keys[number + 1]
    curved, track = path_of(path)
    share = float(track(frame)) - number
    if first.after is None and second.before is None:
        x, y = value_at(path, frame)
        return [first, PathKey(frame=frame, x=x, y=y, curve=first.curve), second]
    a, b, c, d, point = curved.halves(number, min(max(share, 0.0), 1.0))
    x, y = point.tolist()
    return [
        replace(first, after=tuple((a - [first.x, first.y]).tolist())),
        PathKey(frame=frame, x=x, y=y, curve=first.curve, before=tuple((b - point).tolist()),
                after=tuple((c - point).tolist())),
        replace(second, before=tuple((d - [second.x, second.y]).tolist())),
    ]  # fmt: skip


def set_along(project: Project, identity: str, along: bool) -> Project:
    """Turn the layer with its path, or not."""
    return put_held(project, identity, {ADDRESS: replace(_path(project, identity), along=along)})


def move_on_path(project: Project, identity: str, frame: int, dx: float, dy: float) -> Project:
    """Move where a layer is at a frame by px of its own: the point there, or a new one."""
    x, y = value_at(_path(project, identity), frame)
    return set_channels(project, identity, frame, {ADDRESS: (round(x + dx, 4), round(y + dy, 4))})


def drag_way(
    project: Project, identity: str, frame: int, side: str, way: Way, apart: bool = False
) -> Project:
    """Pull a point's tangent (before or after) to px from the point; joined, the other turns along."""
    other = "after" if side == "before" else "before"

    def change(key: PathKey) -> PathKey:
        changed = replace(key, **{side: way}, joined=key.joined and not apart)
        opposite = getattr(key, other)
        size = float(np.hypot(*way))
        if not changed.joined or opposite is None or size == 0:
            return changed
        scale = -float(np.hypot(*opposite)) / size
        return replace(changed, **{other: (way[0] * scale, way[1] * scale)})

    return _changed(project, identity, frame, change)


def bend(project: Project, identity: str, frames: tuple[int, ...]) -> Project:
    """Give points tangents along the way from the point before to the point after: a smooth path."""
    path = _path(project, identity)
    keys = list(path.keys)
    for number, key in enumerate(path.keys):
        if key.frame in frames:
            keys[number] = _bent(path.keys, number)
    return put_held(project, identity, {ADDRESS: replace(path, keys=tuple(keys))})


def _bent(keys: tuple[PathKey, ...], number: int) -> PathKey:
    here = keys[number]
    before, after = keys[max(0, number - 1)], keys[min(len(keys) - 1, number + 1)]
    way = np.array([after.x - before.x, after.y - before.y])
    size = float(np.hypot(*way)) or 1.0
    lengths = [float(np.hypot(k.x - here.x, k.y - here.y)) * _SHARE / size for k in (before, after)]
    ends = [tuple((sign * way * length).tolist()) for sign, length in zip((-1, 1), lengths, strict=True)]
    return replace(
        here,
        before=ends[0] if number else None,
        after=ends[1] if number + 1 < len(keys) else None,
        joined=True,
    )


def straighten(project: Project, identity: str, frames: tuple[int, ...]) -> Project:
    """Take the tangents off points."""
    path = _path(project, identity)
    keys = (replace(k, before=None, after=None) if k.frame in frames else k for k in path.keys)
    return put_held(project, identity, {ADDRESS: replace(path, keys=tuple(keys))})


def _changed(project: Project, identity: str, frame: int, change) -> Project:  # type: ignore[no-untyped-def]
    path = _path(project, identity)
    if all(key.frame != frame for key in path.keys):
        raise RovixError(f"The path has no point on frame {frame} any more.")
    keys = tuple(change(key) if key.frame == frame else key for key in path.keys)
    return put_held(project, identity, {ADDRESS: replace(path, keys=keys)})


def _path(project: Project, identity: str) -> MotionPath:
    path = layer_transform(clip_of(project, identity)).path
    if path is None:
        raise RovixError("Its position runs on no path: choose Move along a path first.")
    return path
