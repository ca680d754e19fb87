"""What moves do to the plan of a layer that is one piece: footage, stills, shapes, grounds, groups."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from rovix.model import bgra
from rovix.motion.layer import LayerState
from rovix.motion.offsets import wrapped_plan
from rovix.motion.plan import LayerPlan, ShapePlan, StepPlan
from rovix.motion.scene import Scene
from rovix.motion.steps import MaskStep, MixStep
from rovix.motion.words_plan import window_polygons

Floats = NDArray[np.float64]


def moved_plan(scene: Scene, state: LayerState, plan: LayerPlan, flat: Floats, rest: Floats) -> LayerPlan:
    """A plan with its moves' colours, windows, blur and offset; `flat` (1, 3, 3) is where it is drawn."""
    # A shape's outline keeps its colour, so its fill has them already.
    for mix in () if isinstance(plan, ShapePlan) else state.mixes:
        share = float(mix.shares[0, 0])
        if share > 0:
            step = MixStep(bgra(mix.colour), share, mix.mix == "linear")
            plan = StepPlan(plan.id, plan.bare(), step, opacity=plan.opacity)
    polygons = window_polygons(scene, state, flat, rest)[0]
    for polygon in polygons[0] if polygons else ():
        plan = StepPlan(plan.id, plan.bare(), MaskStep((polygon,)), opacity=plan.opacity)
    names = ("blur_x", "blur_y")
    across, down = (float(np.hypot(state.rest[n][0], state.pieces[n][0, 0])) * scene.scale for n in names)
    if across or down:
        plan = replace(plan, blur=(across, down))
    way = np.array([state.pieces[name][0, 0] for name in ("offset_x", "offset_y")])
    return wrapped_plan(plan, way, scene.size, scene.outward)
