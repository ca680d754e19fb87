"""Two pictures mixed into one, as a join goes along."""

from __future__ import annotations

from math import cos, radians, sin

import cv2
import numpy as np
from numpy.typing import NDArray

from rovix.motion import TransitionPlan

Pixels = NDArray[np.uint8]
Floats = NDArray[np.float64]
_SHARPEST = 1.0  # px over which even a hard edge goes from one picture to the other


def shifts(plan: TransitionPlan) -> tuple[tuple[float, float], tuple[float, float]]:
    """How far in px of the frame a slide has moved the picture before and the one after."""
    across, down = cos(radians(plan.angle)), sin(radians(plan.angle))
    width, height = plan.size
    # Far enough along its way that the one just leaves the frame as the other fills it.
    reach = min(
        width / abs(across) if abs(across) > 1e-9 else np.inf,
        height / abs(down) if abs(down) > 1e-9 else np.inf,
    )
    x, y = across * reach, down * reach
    away = plan.share - 1.0
    return (x * plan.share, y * plan.share), (x * away, y * away)


def mixed(plan: TransitionPlan, before: Pixels, after: Pixels, view: Floats) -> Pixels:
    """Premultiplied pixels of a join; `view` (3, 3) takes the frame to the picture."""
    if plan.kind == "dissolve":
        return cv2.addWeighted(before, 1.0 - plan.share, after, plan.share, 0.0)
    if plan.kind == "dip":
        return _dipped(plan, before, after)
    cover = edge_cover(plan, (before.shape[1], before.shape[0]), view)
    return cv2.blendLinear(before, after, 1.0 - cover, cover)


def _dipped(plan: TransitionPlan, before: Pixels, after: Pixels) -> Pixels:
    depth = 1.0 - abs(2.0 * plan.share - 1.0)
    blue, green, red, alpha = plan.colour
    plate = np.empty_like(before)
    plate[:] = [*(round(channel * alpha / 255) for channel in (blue, green, red)), alpha]
    return cv2.addWeighted(before if plan.share < 0.5 else after, 1.0 - depth, plate, depth, 0.0)


def edge_cover(plan: TransitionPlan, size: tuple[int, int], view: Floats) -> NDArray[np.float32]:
    """(height, width) 0..1: how far a wipe has uncovered each px of a picture of `size`.

    The edge travels from before the frame's first corner to behind its last, feather and all.
    """
    across, down = cos(radians(plan.angle)), sin(radians(plan.angle))
    scale = float(np.sqrt(abs(np.linalg.det(view[:2, :2]))))
    feather = max(_SHARPEST / scale, plan.feather)
    half = (abs(plan.size[0] * across) + abs(plan.size[1] * down) + feather) / 2
    edge = -half + 2 * half * plan.share
    back = np.linalg.inv(view)
    x = back[0, 0] * (np.arange(size[0]) + 0.5) + back[0, 2] - plan.size[0] / 2
    y = back[1, 1] * (np.arange(size[1]) + 0.5) + back[1, 2] - plan.size[1] / 2
    way = (across * x)[None, :] + (down * y)[:, None]
    return np.clip((edge - way) / feather + 0.5, 0.0, 1.0).astype(np.float32)
