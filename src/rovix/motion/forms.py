"""Plain forms as polygons: boxes, rounded ones, ellipses, and lines that are drawn."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from rovix.model.contour import Contour
from rovix.motion.contours import flattened
from rovix.motion.wipes import opening_polygon

Floats = NDArray[np.float64]
_ROUND = 96
"""Corners of an ellipse: of one as wide as the frame none lies a third of a px inside."""


def form_polygon(form: str, width: float, height: float, radius: float, contour: Contour) -> Floats:
    """(k, 2) about (0, 0): a box with rounded corners, an ellipse, or the drawn contour; (0, 2) where a
    width or height is 0 or less."""
    if form == "drawn":
        return flattened(contour)
    if width <= 0 or height <= 0:
        return np.zeros((0, 2))
    if form == "box":
        box = (-width / 2, -height / 2, width / 2, height / 2)
        return opening_polygon(box, [0.0, 0.0, 0.0, 0.0], radius)
    around = np.arange(_ROUND) * (2 * np.pi / _ROUND)
    return np.stack([np.cos(around) * width / 2, np.sin(around) * height / 2], axis=1)
