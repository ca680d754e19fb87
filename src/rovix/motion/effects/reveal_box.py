"""Straight edges that a layer shows through."""

from __future__ import annotations

from rovix.model.effects.reveal_box import RevealBox
from rovix.motion.effects.affected import Affected, stepping
from rovix.motion.steps import MaskStep, Step
from rovix.motion.wipes import opening_polygon


def _steps(layer: Affected, box: RevealBox, at: float) -> list[Step]:
    edges = [box.left, box.top, box.right, box.bottom]
    if all(edge is None for edge in edges):
        return []
    polygon = opening_polygon(layer.box(box.pin, at), edges, box.radius)
    return [MaskStep(layer.placed([polygon], box.pin, at), box.feather * layer.scale)]


PLANNER = stepping(RevealBox, _steps)
