"""Which of several layers is nearer to the viewer."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from rovix.model import BackgroundClip, FootageClip, PictureClip
from rovix.motion.plan import LayerPlan
from rovix.motion.scene import Scene, world_of

Floats = NDArray[np.float64]
Found = list[tuple[PictureClip | None, LayerPlan]]


def depth_of(scene: Scene, clip: PictureClip, frame: float, world: Floats) -> float:
    """px towards the viewer of a layer's middle, its pieces' moves counted in the mean."""
    state = scene.state(clip, np.array([frame - clip.start]))
    left, top, right, bottom = state.subject.block
    middle = np.array([(left + right) / 2, (top + bottom) / 2, 0.0, 1.0])
    matrices = world @ world_of(scene, clip, frame) @ state.layer[0] @ state.local[0]
    return float((matrices @ middle)[:, 2].mean())


def nearest_last(found: Found, depth: Callable[[PictureClip], float]) -> Found:
    """Layers, the lowest first, each over those that are farther off; as their tracks have them where they
    are as far. Footage, grounds and what gives way to something else stay where they are, and so do the
    layers on either side of them."""
    made: Found = []
    between: Found = []
    for clip, plan in found:
        if clip is None or isinstance(clip, FootageClip | BackgroundClip):
            made += [*_sorted(between, depth), (clip, plan)]
            between = []
        else:
            between.append((clip, plan))
    return [*made, *_sorted(between, depth)]


def _sorted(found: Found, depth: Callable[[PictureClip], float]) -> Found:
    return sorted(found, key=lambda one: 0.0 if one[0] is None else round(depth(one[0]), 6))
