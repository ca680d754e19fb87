"""An offset that wraps round the frame."""

from __future__ import annotations

import numpy as np

from rovix.model.effects.wrap_around import WrapAround
from rovix.motion.effects.affected import Affected, stepping
from rovix.motion.offsets import wrap_step
from rovix.motion.steps import Step


def _steps(layer: Affected, wrap: WrapAround, _at: float) -> list[Step]:
    size = layer.scene.size
    way = np.array([wrap.x, wrap.y]) * (np.array(size) if wrap.unit == "frame" else 1.0)
    step = wrap_step(way, size, layer.scene.outward)
    return [] if step is None else [step]


PLANNER = stepping(WrapAround, _steps)
