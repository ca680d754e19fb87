"""Masks that follow each other, as one step."""

from __future__ import annotations

import numpy as np

from rovix.model.effects.mask import Mask
from rovix.motion.at_frame import at_frame
from rovix.motion.effects.affected import Affected, Floats, Planner, stepped
from rovix.motion.plan import LayerPlan
from rovix.motion.steps import MaskPart, MasksStep
from rovix.motion.wipes import opening_polygon

_ROUND = 96
"""Corners of an ellipse: of one as wide as the frame none lies a third of a px inside."""


def _plan(layer: Affected, mask: Mask, at: float, count: int) -> LayerPlan | None:
    following = layer.effects[count + 1 : count + 2]
    if following and isinstance(following[0], Mask):
        return layer.at(at, count)  # the last of a row does them all
    first = count
    while first > 0 and isinstance(layer.effects[first - 1], Mask):
        first -= 1
    inner = layer.at(at, first)
    if inner is None:
        return None
    frame = at - layer.clip.start
    masks = [at_frame(one, frame) for one in layer.effects[first : count + 1] if isinstance(one, Mask)]
    return stepped(layer.clip.id, inner, MasksStep(tuple(_part(layer, one, at) for one in masks)))


def _part(layer: Affected, mask: Mask, at: float) -> MaskPart:
    width, height = mask.width + 2 * mask.grown, mask.height + 2 * mask.grown
    polygons: tuple[Floats, ...] = ()
    if width > 0 and height > 0:
        left, top, right, bottom = layer.box(mask.pin, at)
        middle = (left + right) / 2 + mask.x, (top + bottom) / 2 + mask.y
        polygons = layer.placed([_turned(_form(mask, width, height), mask.angle, middle)], mask.pin, at)
    return MaskPart(polygons, mask.feather * layer.scale, mask.joins, mask.strength, mask.hides)


def _form(mask: Mask, width: float, height: float) -> Floats:
    """(k, 2) around (0, 0)."""
    if mask.form == "box":
        box = (-width / 2, -height / 2, width / 2, height / 2)
        radius = max(0.0, mask.radius + mask.grown) if mask.radius else 0.0
        return opening_polygon(box, [0.0, 0.0, 0.0, 0.0], radius)
    around = np.arange(_ROUND) * (2 * np.pi / _ROUND)
    return np.stack([np.cos(around) * width / 2, np.sin(around) * height / 2], axis=1)


def _turned(points: Floats, degrees: float, to: tuple[float, float]) -> Floats:
    cosine, sine = np.cos(np.radians(degrees)), np.sin(np.radians(degrees))
    return points @ np.array([[cosine, sine], [-sine, cosine]]) + to


PLANNER = Planner(Mask, _plan)
