"""Px cut off each side."""

from __future__ import annotations

from rovix.model.effects.crop import Crop
from rovix.motion.effects.affected import Affected, stepping
from rovix.motion.steps import MaskStep, Step
from rovix.motion.wipes import opening_polygon


def _steps(layer: Affected, crop: Crop, at: float) -> list[Step]:
    sides = (crop.left, crop.top, crop.right, crop.bottom)
    edges = [side if side > 0 else None for side in sides]
    if all(edge is None for edge in edges):
        return []
    polygon = opening_polygon(layer.box("words", at), edges, 0.0)
    return [MaskStep(layer.placed([polygon], "words", at))]


PLANNER = stepping(Crop, _steps)
