"""Copies of a layer as it was a little earlier."""

from __future__ import annotations

import numpy as np

from rovix.model.effects.echo_trail import EchoTrail
from rovix.motion.effects.affected import Affected, Planner, stepped
from rovix.motion.effects.kept_plans import plan_at, prepare
from rovix.motion.motion_path import motion_path
from rovix.motion.offsets import offset_at
from rovix.motion.plan import EchoPlan, LayerPlan
from rovix.motion.steps import TurnStep

_BACK = 0.25  # frames between the points at which a layer's way back is measured


def _plan(layer: Affected, echo: EchoTrail, at: float, count: int) -> LayerPlan | None:
    """The layer and its copies; those from before its first frame do not exist."""
    own = plan_at(layer, at, count)
    if echo.copies == 0 or echo.strength <= 0:
        return own
    copies = [] if own is None else [(own, 1.0)]
    times = trail_times(layer, echo, at)
    prepare(layer, times, count)
    for number, back in enumerate(times, start=1):
        plan = plan_at(layer, back, count)
        if plan is not None:
            turned = echo.hue * number
            shown = stepped(layer.clip.id, plan, TurnStep(turned)) if turned % 360 else plan
            copies.append((shown, echo.strength**number))
    if not copies or (len(copies) == 1 and own is not None):
        return own
    # Behind: the farthest copy lowest; in front: it lies on top of all.
    ordered = copies if echo.front else list(reversed(copies))
    lowest = tuple((plan.bare(), strength * plan.opacity) for plan, strength in ordered)
    return EchoPlan(layer.clip.id, lowest, echo.blend)


def trail_times(layer: Affected, echo: EchoTrail, at: float) -> list[float]:
    """The frames of the tracks that the copies are of, none before the clip's first."""
    if echo.unit == "px":
        times = _times_by_way(layer, echo, at)
    else:
        gap = echo.gap if echo.unit == "frames" else float(layer.scene.rate.position(echo.gap))
        times = [at - number * gap for number in range(1, echo.copies + 1)] if gap > 0 else []
    return [time for time in times if time >= layer.clip.start - 1e-9]


def _times_by_way(layer: Affected, echo: EchoTrail, at: float) -> list[float]:
    """Going back along the layer's way until each copy is the gap's px behind the last."""
    clip, size = layer.clip, layer.scene.size
    back = np.arange(at - clip.start, -1e-9, -_BACK)
    points = motion_path(layer.scene, clip, back)
    points = points + np.stack([offset_at(clip, frame, size) for frame in back.tolist()])
    ways = np.concatenate([[0.0], np.cumsum(np.nan_to_num(np.hypot(*np.diff(points, axis=0).T)))])
    wanted = echo.gap * np.arange(1, echo.copies + 1)
    reached = wanted[wanted <= ways[-1]] if echo.gap > 0 else wanted[:0]
    # Where the layer stands still its way does not grow; the latest of such frames counts.
    return (clip.start + np.interp(reached, ways, back)).tolist() if len(reached) else []


PLANNER = Planner(EchoTrail, _plan)
