"""Blurs, which may go along the layer's way and about a point of the frame."""

from __future__ import annotations

from math import atan2, degrees

import numpy as np

from rovix.model.effects.blur import Blur
from rovix.motion.effects.affected import Affected, Floats, stepping
from rovix.motion.motion_path import motion_path
from rovix.motion.offsets import offset_at
from rovix.motion.steps import RoundStep, SoftStep, Step
from rovix.motion.transform import mapped


def _steps(layer: Affected, blur: Blur, at: float) -> list[Step]:
    steps: list[Step] = []
    if blur.x or blur.y or blur.along:
        way = _way(layer, at) if blur.along else np.zeros(2)
        angle = degrees(atan2(way[1], way[0])) if way.any() else 0.0
        across, down, along = (s * layer.scale for s in (blur.x, blur.y, blur.along))
        steps.append(SoftStep(across, down, along, angle))
    if blur.spin or blur.zoom:
        size, outward = layer.scene.size, layer.scene.outward
        point = np.array([[blur.point_x * size[0], blur.point_y * size[1]]])
        x, y = (point if outward is None else mapped(outward, point))[0].tolist()
        steps.append(RoundStep(x, y, blur.spin, blur.zoom))
    return steps


def _way(layer: Affected, at: float) -> Floats:
    """(2,): where the layer is going at a frame, its offsets included; px over a frame about it."""
    clip, size = layer.clip, layer.scene.size
    frames = np.clip(at - clip.start + np.array([-0.5, 0.5]), 0, clip.length - 1)
    points = motion_path(layer.scene, clip, frames)
    shifts = offset_at(clip, float(frames[1]), size) - offset_at(clip, float(frames[0]), size)
    return np.nan_to_num(points[1] - points[0]) + shifts


PLANNER = stepping(Blur, _steps)
