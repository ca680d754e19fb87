"""A layer and its effects at a moment: what they do, one after the other."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from rovix.model import PictureClip
from rovix.model.effects import Effect
from rovix.motion.at_frame import at_frame
from rovix.motion.plan import LayerPlan, StepPlan
from rovix.motion.scene import Scene, world_of
from rovix.motion.steps import EffectStep, Step
from rovix.motion.transform import seen_part

Floats = NDArray[np.float64]
Box = tuple[float, float, float, float]
Unaffected = Callable[[float], LayerPlan | None]
Other = Callable[[str, float], LayerPlan | None]


class Affected:
    """A layer with its effects; `plain` gives its plan without them at a frame of the tracks, `other` that of
    another layer, by its id, None where it is not there."""

    def __init__(
        self,
        scene: Scene,
        clip: PictureClip,
        world: Floats,
        plain: Unaffected,
        planners: Mapping[type[Effect], Planner],
        other: Other,
    ) -> None:
        self.scene, self.clip, self.world, self.plain = scene, clip, world, plain
        self.other = other
        self.effects = [effect for effect in clip.effects if effect.shown]
        self.scale = scene.scale
        self._planners = planners

    def at(self, at: float, count: int | None = None) -> LayerPlan | None:
        """The plan at a frame of the tracks, after the first `count` effects, or all."""
        count = len(self.effects) if count is None else count
        if count == 0:
            return self.plain(at)
        frame = at - self.clip.start
        effect = at_frame(self.effects[count - 1], frame)
        planner = self._planners.get(type(effect))
        if planner is not None:
            return planner.plan(self, effect, at, count - 1)
        inner = self.at(at, count - 1)
        if inner is None or effect.is_neutral:
            return inner
        return stepped(self.clip.id, inner, EffectStep(effect, self.scale, effect.draw_at(frame)))

    def box(self, pin: str, at: float) -> Box:
        """The layer's block in its own px, or the frame in px from its centre."""
        if pin == "frame":
            across, down = self.scene.size
            return -across / 2, -down / 2, across / 2, down / 2
        state = self.scene.state(self.clip, np.array([at - self.clip.start]))
        return state.subject.block

    def placed(self, polygons: list[Floats], pin: str, at: float) -> tuple[Floats, ...]:
        """Polygons in px of the picture, cut where they come close to the viewer."""
        matrix = self.scene.project(self.world if pin == "frame" else self.rest(at))
        found = (seen_part(matrix, polygon) for polygon in polygons if len(polygon))
        return tuple(points for points in found if len(points))

    def rest(self, at: float) -> Floats:
        """(4, 4): the layer where it rests, its keys included, its moves not."""
        return rest_world(self.scene, self.clip, self.world, at)


def rest_world(scene: Scene, clip: PictureClip, world: Floats, at: float) -> Floats:
    """(4, 4): a layer where it rests at a frame of the tracks, its keys included, its moves not."""
    state = scene.state(clip, np.array([at - clip.start]))
    return world @ world_of(scene, clip, at) @ state.layer[0]


@dataclass(frozen=True, slots=True)
class Planner:
    """What an effect of a kind does: its plan at a frame, on top of the first `count` effects."""

    kind: type[Effect]
    plan: Callable[[Affected, Any, float, int], LayerPlan | None]


def stepping(kind: type[Effect], steps: Callable[[Affected, Any, float], list[Step]]) -> Planner:
    """Of an effect that does steps to the picture before it, or none where it is neutral."""

    def plan(layer: Affected, effect: Any, at: float, count: int) -> LayerPlan | None:
        inner = layer.at(at, count)
        if inner is not None:
            for step in steps(layer, effect, at):
                inner = stepped(layer.clip.id, inner, step)
        return inner

    return Planner(kind, plan)


def stepped(identity: str, inner: LayerPlan, step: Step) -> LayerPlan:
    """A plan with a step done to its picture."""
    return StepPlan(identity, inner.bare(), step, opacity=inner.opacity)
