"""What effects that ask for rest, other layers or other times do to a layer's plan.

Each module that holds a `PLANNER` is found by being here. An effect without one is done to the
pixels as it is set.
"""

from __future__ import annotations

from importlib import import_module
from pkgutil import iter_modules

from rovix.model import PictureClip
from rovix.motion.effects.affected import Affected, Floats, Other, Planner, Unaffected
from rovix.motion.scene import Scene


def _found() -> list[Planner]:
    modules = (import_module(f"{__name__}.{module.name}") for module in iter_modules(__path__))
    return [module.PLANNER for module in modules if hasattr(module, "PLANNER")]


PLANNERS = {planner.kind: planner for planner in _found()}


def affected(scene: Scene, clip: PictureClip, world: Floats, plain: Unaffected, other: Other) -> Affected:
    """A layer with its effects; `plain` gives its plan without them at a frame of the tracks, `other` that of
    another layer."""
    return Affected(scene, clip, world, plain, PLANNERS, other)


__all__ = ["PLANNERS", "Affected", "affected"]
