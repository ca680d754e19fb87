"""What a picture is drawn in."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]


@dataclass(frozen=True, slots=True, eq=False)
class Sight:
    """`view` (3, 3) takes px of the frame to a picture of `size`; `scale` is how many times as large
    they are there."""

    view: Floats
    size: tuple[int, int]

    @property
    def scale(self) -> float:
        return float(np.sqrt(abs(np.linalg.det(self.view[:2, :2]))))
