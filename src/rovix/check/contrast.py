"""How far colours stand apart, as WCAG 2.2 counts it."""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray

from rovix.curve.colour_spaces import contrast, luminance
from rovix.curve.transfer import srgb_to_light

Floats = NDArray[np.float64]
_LIGHT = srgb_to_light(np.arange(256) / 255.0)
"""Of each byte, so that pictures take no powers."""
_WEIGHTS = np.array([0.2126, 0.7152, 0.0722])


def relative_luminance(rgb: ArrayLike) -> Floats:
    """(...): 0 of black to 1 of white, of sRGB bytes (..., 3), red first (WCAG 2.2, 'relative luminance').

    ValueError for another last axis, and for values that are no numbers from 0 to 255.
    """
    values = np.asarray(rgb)
    if values.ndim == 0 or values.shape[-1] != 3:
        found = values.shape[-1] if values.ndim else "no axis"
        raise ValueError(f"colours have red, green and blue on their last axis; this one has {found}")
    if values.dtype == np.uint8:
        return np.asarray(_LIGHT[values] @ _WEIGHTS)
    if values.dtype.kind not in "uif" or (values.size and not bool(((values >= 0) & (values <= 255)).all())):
        raise ValueError("colours are numbers from 0 to 255")
    return luminance(values.astype(np.float64) / 255)


def contrast_ratio(a: ArrayLike, b: ArrayLike) -> Floats:
    """(...): 1 to 21 of two colours, or pictures of them, sRGB bytes (..., 3) that go together as NumPy
    broadcasts; whichever is first (WCAG 2.2, 'contrast ratio'). ValueError as of :func:`relative_luminance`.
    """
    return contrast(relative_luminance(a), relative_luminance(b))
