"""How a layer is laid over what is below it."""

from __future__ import annotations

from typing import Literal, get_args

BlendMode = Literal[
    "normal",
    "multiply",
    "screen",
    "overlay",
    "darken",
    "lighten",
    "color-dodge",
    "color-burn",
    "hard-light",
    "soft-light",
    "difference",
    "exclusion",
    "hue",
    "saturation",
    "color",
    "luminosity",
    "plus-lighter",
    "linear-burn",
]
"""The names of W3C Compositing and Blending Level 1, its plus-lighter, and linear burn."""

BLEND_MODES: tuple[str, ...] = get_args(BlendMode)
