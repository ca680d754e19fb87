"""When the shutter sees a layer: as many moments as its motion needs."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil

import numpy as np
from numpy.typing import NDArray

from rovix.model import PictureClip
from rovix.motion.at_frame import is_changing
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
    shutter = clip.shutter or scene.shutter
    if not (scene.exposes and shutter.on):
        return None
    start, span = at + shutter.phase / 360, shutter.angle / 360
    probes = _within(clip, at, start + np.linspace(0.0, span, _PROBES))
    offsets = np.stack([offset_at(clip, frame - clip.start, scene.size) for frame in probes.tolist()])
    ways = np.diff(_corners(scene, clip, probes, world) + offsets[:, None, None], axis=0)
    moved = float(np.nansum(np.hypot(ways[..., 0], ways[..., 1]), axis=0).max(initial=0.0))
    if moved <= 0:
        return None
    count = min(shutter.samples, max(1, ceil(moved / STEP)))
    moments = _within(clip, at, start + (np.arange(count) + 0.5) / count * span)
    return Exposure(tuple(moments.tolist()), _smear(ways, count))


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
    reach = look_reach(state.content)
    boxes = box_corners(state.subject.ink + np.array([-reach, -reach, reach, reach]))
    matrices = scene.project(worlds[:, None] @ state.layer[:, None] @ state.local)
    seen = np.flatnonzero((state.opacity() > 0).any(axis=0))
    offsets = np.stack([state.pieces["offset_x"], state.pieces["offset_y"]], axis=-1)
    return mapped(matrices[:, seen], boxes[seen]) + offsets[:, seen, None]
