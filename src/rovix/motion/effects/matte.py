"""A layer where another one is."""

from __future__ import annotations

from rovix.model.effects.matte import Matte
from rovix.motion.effects.affected import Affected, Planner
from rovix.motion.plan import LayerPlan, MattePlan


def _plan(layer: Affected, matte: Matte, at: float, count: int) -> LayerPlan | None:
    inner = layer.at(at, count)
    if inner is None or matte.through is None:
        return inner
    by = layer.other(matte.through.layer, at)
    if by is None:
        return inner if matte.hides else None
    light = matte.through.at == "light"
    return MattePlan(layer.clip.id, inner.bare(), by, light, matte.hides, opacity=inner.opacity)


PLANNER = Planner(Matte, _plan)
