"""Plans of layers at moments, kept while frames are asked for in a row: what is a copy in an echo trail now
was the layer itself a little before."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, fields
from typing import get_args

import numpy as np

from rovix.model.identity import IdentityCache
from rovix.motion.effects.affected import Affected
from rovix.motion.plan import GlyphsPart, LayerPlan

_MOST = 16 << 20  # bytes of plans
_OTHERS = 100  # bytes of a plan beside its arrays
_MADE_OF = (LayerPlan, *get_args(GlyphsPart))


@dataclass(frozen=True, slots=True, eq=False)
class _Kept:
    """A plan; `known_by` are the things whose identities it is known by, which so stay their own."""

    plan: LayerPlan | None
    known_by: tuple[object, ...]

    @property
    def nbytes(self) -> int:
        """About how many bytes it holds."""
        return _weight(self.plan)


_plans: IdentityCache[_Kept] = IdentityCache(_MOST)


def plan_at(layer: Affected, at: float, count: int) -> LayerPlan | None:
    """The plan of a layer at a frame of its tracks after its first `count` effects: the kept one, else a new
    one, which is kept where frames are asked for in a row."""
    scene = layer.scene
    if scene.run < 2:
        return layer.at(at, count)
    return _plans.get(
        scene.whole, lambda: _Kept(layer.at(at, count), _known_by(layer)), _key(layer, at, count)
    ).plan


def prepare(layer: Affected, times: Iterable[float], count: int) -> None:
    """Evaluate a layer at those frames of its tracks that it has no kept plan of, all of them at once."""
    scene = layer.scene
    missing = [at for at in times if scene.run < 2 or not _plans.has(scene.whole, _key(layer, at, count))]
    scene.prepare(layer.clip, [at - layer.clip.start for at in missing])


def _key(layer: Affected, at: float, count: int) -> tuple[object, ...]:
    """What a plan depends on beside the project: which layer where, and how it is looked at."""
    scene = layer.scene
    outward = None if scene.outward is None else scene.outward.tobytes()
    asked = at, count, scene.size, scene.rate, scene.exposes, scene.samples, scene.mattes
    return *map(id, _known_by(layer)), *asked, layer.world.tobytes(), outward


def _known_by(layer: Affected) -> tuple[object, ...]:
    """What is told apart by its identity."""
    return layer.clip, layer.scene.tracks, layer.scene.shutter


def _weight(value: object) -> int:
    if isinstance(value, np.ndarray):
        return value.nbytes
    if isinstance(value, tuple):
        return sum(map(_weight, value))
    if isinstance(value, _MADE_OF):
        return _OTHERS + sum(_weight(getattr(value, field.name)) for field in fields(value))
    return 0
