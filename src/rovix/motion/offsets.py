"""How far a layer's wrap-around offsets shift it."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from rovix.model import PictureClip
from rovix.model.treatment import Wrap
from rovix.motion.settle import settled

Floats = NDArray[np.float64]


def offset_at(clip: PictureClip, frame: float, size: tuple[int, int]) -> Floats:
    """(2,): px that a layer's offsets shift it by at a frame of it, all turns round counted."""
    total = np.zeros(2)
    for treatment in clip.treatments:
        if isinstance(treatment, Wrap) and treatment.shown:
            now = settled(treatment, frame)
            side = np.array(size) if now.unit == "frame" else np.ones(2)
            total += np.array([now.x, now.y]) * side
    return total
