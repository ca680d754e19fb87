"""When the shutter sees a layer: as many moments as its motion needs."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil

import numpy as np
from numpy.typing import NDArray

from rovix.model import PictureClip
from rovix.motion.at_frame import is_changing
from rovix.motion.layer import LayerState
from rovix.motion.offsets import offset_at
from rovix.motion.scene import Scene, world_of
from rovix.motion.subject import look_reach
from rovix.motion.transform import box_corners, mapped

Floats = NDArray[np.float64]
STEP = 2.0
"""px that anything of a layer moves between two moments at most, as long as there are enough."""
_PROBES = 5
_ALIKE = 0.2  # px that the ways of corners may differ by in a straight slide


@dataclass(frozen=True, slots=True)
class Exposure:
    """`moments` are frames of the tracks, whose mean the picture is. What lies between two of them is
    filled by a smear of so many px across and down, where the whole layer goes straight on."""

    moments: tuple[float, ...]
    smear: tuple[float, float] = (0.0, 0.0)


def exposure(scene: Scene, clip: PictureClip, at: float, world: Floats) -> Exposure | None:
    """How a layer is exposed at a frame of its tracks; None where it is still, or there is no blur.

    The moments stay within the clip; where a join shows it beyond its ends, no farther than the
    frame. `world` (4, 4) is what surrounds the layer.
    """
    asked = probes(scene, clip, at)
    if asked is None:
        return None
    return _exposure(scene, clip, at, _offset(scene, clip, asked) + _corners(scene, clip, asked, world))


def exposures(
    scene: Scene, clip: PictureClip, ats: list[float], probed: list[Floats], state: LayerState, world: Floats
) -> list[Exposure | None]:
    """:func:`exposure` at each of some frames, from the layer's `state` at all that is `probed` for them.

    Only for a layer that follows and fits none.
    """
    places, seen = _placed(scene, state, np.broadcast_to(world, (len(state.layer), 4, 4)))
    found, end = [], 0
    for at, asked in zip(ats, probed, strict=True):
        part = slice(end, end + len(asked))
        own = places[part][:, np.flatnonzero(seen[part].any(axis=0))]
        found.append(_exposure(scene, clip, at, _offset(scene, clip, asked) + own))
        end += len(asked)
    return found


def _exposure(scene: Scene, clip: PictureClip, at: float, corners: Floats) -> Exposure | None:
    """From corners (t, n, 4, 2) at the probed frames."""
    ways = np.diff(corners, axis=0)
    moved = float(np.nansum(np.hypot(ways[..., 0], ways[..., 1]), axis=0).max(initial=0.0))
    if moved <= 0:
        return None
    shutter = clip.shutter or scene.shutter
    start, span = at + shutter.phase / 360, shutter.angle / 360
    most = shutter.samples if scene.samples is None else min(shutter.samples, scene.samples)
    count = min(most, max(1, ceil(moved / STEP)))
    moments = _within(clip, at, start + (np.arange(count) + 0.5) / count * span)
    return Exposure(tuple(moments.tolist()), _smear(ways, count))


def _offset(scene: Scene, clip: PictureClip, frames: Floats) -> Floats:
    """(t, 1, 1, 2): how far the layer's wrap-around shifts it at frames of the tracks."""
    offsets = [offset_at(clip, frame - clip.start, scene.size) for frame in frames.tolist()]
    return np.stack(offsets)[:, None, None]


def probes(scene: Scene, clip: PictureClip, at: float) -> Floats | None:
    """(t,): the frames of the tracks at which it is looked how far a layer moves; None without a shutter."""
    shutter = clip.shutter or scene.shutter
    if not (scene.exposes and shutter.on):
        return None
    start, span = at + shutter.phase / 360, shutter.angle / 360
    return _within(clip, at, start + np.linspace(0.0, span, _PROBES))


def _smear(ways: Floats, count: int) -> tuple[float, float]:
    """(x, y) between two moments, where every corner goes the same way; else none."""
    whole = ways.sum(axis=0).reshape(-1, 2)
    mean = whole.mean(axis=0)
    if not np.all(np.abs(whole - mean) < _ALIKE):
        return 0.0, 0.0
    return float(mean[0]) / count, float(mean[1]) / count


def _within(clip: PictureClip, at: float, frames: Floats) -> Floats:
    return np.clip(frames, min(at, clip.start), max(at, clip.span.end - 1))


def _corners(scene: Scene, clip: PictureClip, frames: Floats, world: Floats) -> Floats:
    """(t, n, 4, 2): corners in the picture of the pieces with their outlines; NaN where not to be seen."""
    if is_changing(clip) and len(frames) > 1:
        return np.concatenate([_corners(scene, clip, frames[n : n + 1], world) for n in range(len(frames))])
    state = scene.state(clip, frames - clip.start)
    worlds = world @ np.stack([world_of(scene, clip, frame) for frame in frames.tolist()])
    places, seen = _placed(scene, state, worlds)
    return places[:, np.flatnonzero(seen.any(axis=0))]


def _placed(scene: Scene, state: LayerState, worlds: Floats) -> tuple[Floats, NDArray[np.bool_]]:
    """(t, n, 4, 2) corners in the picture of the pieces with their outlines, under worlds (t, 4, 4); and
    (t, n) whether they are seen."""
    reach = look_reach(state.content)
    boxes = box_corners(state.subject.ink + np.array([-reach, -reach, reach, reach]))
    matrices = scene.project(worlds[:, None] @ state.layer[:, None] @ state.local)
    offsets = np.stack([state.pieces["offset_x"], state.pieces["offset_y"]], axis=-1)
    return mapped(matrices, boxes) + offsets[:, :, None], state.opacity() > 0
