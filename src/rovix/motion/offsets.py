"""How far a layer's wrap-around offsets shift it, and how it is drawn then."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from rovix.model import PictureClip
from rovix.model.effects.wrap_around import WrapAround
from rovix.motion.at_frame import at_frame
from rovix.motion.plan import LayerPlan, StepPlan
from rovix.motion.steps import WrapStep
from rovix.motion.transform import box_corners, mapped

Floats = NDArray[np.float64]


def offset_at(clip: PictureClip, frame: float, size: tuple[int, int]) -> Floats:
    """(2,): px that a layer's offsets shift it by at a frame of it, all turns round counted."""
    total = np.zeros(2)
    for effect in clip.effects:
        if isinstance(effect, WrapAround) and effect.shown:
            now = at_frame(effect, frame)
            side = np.array(size) if now.unit == "frame" else np.ones(2)
            total += np.array([now.x, now.y]) * side
    return total


def wrap_step(way: Floats, size: tuple[int, int], outward: Floats | None) -> WrapStep | None:
    """What shifts a layer by px (2,) that wrap round a frame; None where that brings it back.

    `outward` (3, 3) takes px of that frame to the picture's, where they differ.
    """
    frame = np.array(size, dtype=np.float64)
    inside = np.mod(way, frame)
    if not inside.any():
        return None
    options = [[part, part - side] if part else [0.0] for part, side in zip(inside, frame, strict=True)]
    shifts = np.array([[x, y] for x in options[0] for y in options[1]])
    corners = box_corners(np.array([[0.0, 0.0, *frame]]))[0]
    if outward is not None:
        corners, shifts = mapped(outward, corners), shifts @ outward[:2, :2].T
    return WrapStep(shifts, corners)


def wrapped_plan(plan: LayerPlan, way: Floats, size: tuple[int, int], outward: Floats | None) -> LayerPlan:
    """A layer's plan shifted by px that wrap round the frame."""
    step = wrap_step(way, size, outward) if way.any() else None
    return plan if step is None else StepPlan(plan.id, plan.bare(), step, opacity=plan.opacity)
