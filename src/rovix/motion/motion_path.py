"""The way that a layer takes through the picture, frame by frame."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from rovix.model import Keys, PictureClip
from rovix.motion.scene import Scene, world_of
from rovix.motion.subject import block_pivots
from rovix.motion.transform import mapped

Floats = NDArray[np.float64]


def motion_path(scene: Scene, clip: PictureClip, frames: Floats | None = None) -> Floats:
    """(t, 2): where the layer's pivot is at frames of the clip, all by default; px from the top left.

    With its keys and path, what it follows, its moves where they move it as a whole, and their
    offsets, all turns round counted; NaN where it lies behind the viewer.
    """
    frames = np.arange(float(clip.length)) if frames is None else frames
    state = scene.state(clip, frames)
    matrices = state.layer if len(state.subject) > 1 else state.layer @ state.local[:, 0]
    if clip.parent is not None or getattr(clip, "fits", None) is not None:
        worlds = np.stack([world_of(scene, clip, clip.start + frame) for frame in frames.tolist()])
        matrices = worlds @ matrices
    pivots = block_pivots(state.subject, clip.transform, frames)
    offsets = np.stack([state.pieces["offset_x"], state.pieces["offset_y"]], axis=-1)
    return mapped(scene.project(matrices), pivots[:, None])[:, 0] + offsets.mean(axis=1)


def path_frames(clip: PictureClip) -> tuple[int, ...]:
    """The frames on which keys of its position lie: those of its path, or of x and y."""
    place = clip.transform
    if place.path is not None:
        return tuple(key.frame for key in place.path.keys)
    channels = [channel for channel in (place.x, place.y) if isinstance(channel, Keys)]
    return tuple(sorted({key.frame for channel in channels for key in channel.keys}))
