"""A second paint that runs over a layer."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from rovix.model.effects.fill_sweep import FillSweep
from rovix.motion.effects.affected import Affected, Planner, stepped
from rovix.motion.effects.covering import covered
from rovix.motion.look_plan import paint_of
from rovix.motion.plan import (
    FillPart,
    GlyphsPlan,
    LayerPlan,
    ShapePlan,
    SweepPlan,
)
from rovix.motion.steps import PaintStep


def _plan(layer: Affected, sweep: FillSweep, at: float, count: int) -> LayerPlan | None:
    inner = layer.at(at, count)
    if inner is None or sweep.share <= 0:
        return inner
    step = PaintStep(paint_of(sweep.paint), layer.box("words", at), layer.scene.project(layer.rest(at)))
    over = _recoloured(inner, step)
    if sweep.share >= 1:
        return over
    polygons = covered(layer, sweep, at, "words")
    feather = sweep.feather * layer.scale
    return SweepPlan(layer.clip.id, inner.bare(), over.bare(), polygons, feather, opacity=inner.opacity)


def _recoloured(plan: LayerPlan, step: PaintStep) -> LayerPlan:
    """A layer with another fill: words and shapes keep their outlines, pictures only how opaque they are."""
    if isinstance(plan, GlyphsPlan):
        fills = (replace(p, paint=step.paint, mixes=()) if isinstance(p, FillPart) else p for p in plan.parts)
        parts = tuple(fills)
        plain = replace(plan.layout, tint=np.full_like(plan.layout.tint, -1), colours=())
        return replace(plan, parts=parts, layout=plain)
    if isinstance(plan, ShapePlan):
        return replace(plan, fill=step.paint) if plan.fill is not None else plan
    inside = plan.inside()
    if inside and all(part.id == plan.id for part in inside):
        # One layer's pieces, copies or steps, each drawn alone.
        return plan.with_inside(tuple(_recoloured(part, step) for part in inside))
    return stepped("", plan, step)


PLANNER = Planner(FillSweep, _plan)
