"""Blending, by the formulas of W3C Compositing and Blending Level 1.

Linear burn, which is none of them, is backdrop plus source less 1 (common practice, no source).
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
from numpy.typing import NDArray

from rovix.model.blend import BLEND_MODES

Pixels = NDArray[Any]
Floats = NDArray[np.floating[Any]]
_LUMA = np.array([0.11, 0.59, 0.30], dtype=np.float32)  # of blue, green, red


def blend(backdrop: Pixels, source: Pixels, mode: str) -> Pixels:
    """The source laid over the backdrop.

    Both are (height, width, 4) premultiplied BGRA of one kind, uint8 0..255 or float 0..1; the
    result is of that kind. `mode` is one of :data:`rovix.model.blend.BLEND_MODES`; ValueError else,
    and for arrays that do not fit together.
    """
    _check(backdrop, source, mode)
    if backdrop.dtype == np.uint8:
        over = _blended(backdrop.astype(np.float32) / 255, source.astype(np.float32) / 255, mode)
        return np.rint(np.clip(over, 0.0, 1.0) * 255).astype(np.uint8)
    return _blended(backdrop, source, mode).astype(backdrop.dtype)


def _check(backdrop: Pixels, source: Pixels, mode: str) -> None:
    if mode not in BLEND_MODES:
        raise ValueError(f"'{mode}' is no blend mode. There are {', '.join(BLEND_MODES)}.")
    if backdrop.shape != source.shape or backdrop.shape[-1:] != (4,):
        raise ValueError(f"Pictures of shapes {backdrop.shape} and {source.shape} do not blend.")
    if backdrop.dtype != source.dtype or not (backdrop.dtype == np.uint8 or backdrop.dtype.kind == "f"):
        raise ValueError(f"Pictures of {backdrop.dtype} and {source.dtype} do not blend.")


def _blended(backdrop: Floats, source: Floats, mode: str) -> Floats:
    if mode == "plus-lighter":
        return np.minimum(backdrop + source, 1.0)
    below, above = backdrop[..., 3:], source[..., 3:]
    if mode == "normal":
        return source + backdrop * (1 - above)
    mixed = _MIXES[mode](_straight(backdrop), _straight(source))
    colour = source[..., :3] * (1 - below) + backdrop[..., :3] * (1 - above) + below * above * mixed
    return np.concatenate([colour, below + above - below * above], axis=-1)


def _straight(pixels: Floats) -> Floats:
    alpha = pixels[..., 3:]
    return np.clip(pixels[..., :3] / np.where(alpha > 0, alpha, 1), 0.0, 1.0)


def _screen(b: Floats, s: Floats) -> Floats:
    return b + s - b * s


def _hard_light(b: Floats, s: Floats) -> Floats:
    return np.where(s <= 0.5, b * 2 * s, _screen(b, 2 * s - 1))


def _color_dodge(b: Floats, s: Floats) -> Floats:
    return np.where(b == 0, 0.0, np.where(s == 1, 1.0, np.minimum(1, b / np.where(s == 1, 1, 1 - s))))


def _color_burn(b: Floats, s: Floats) -> Floats:
    return np.where(b == 1, 1.0, np.where(s == 0, 0.0, 1 - np.minimum(1, (1 - b) / np.where(s == 0, 1, s))))


def _soft_light(b: Floats, s: Floats) -> Floats:
    lifted = np.where(b <= 0.25, ((16 * b - 12) * b + 4) * b, np.sqrt(b))
    return np.where(s <= 0.5, b - (1 - 2 * s) * b * (1 - b), b + (2 * s - 1) * (lifted - b))


def _lum(colour: Floats) -> Floats:
    return (colour * _LUMA).sum(axis=-1, keepdims=True)


def _sat(colour: Floats) -> Floats:
    return colour.max(axis=-1, keepdims=True) - colour.min(axis=-1, keepdims=True)


def _set_lum(colour: Floats, lum: Floats) -> Floats:
    moved = colour + (lum - _lum(colour))
    low, high = moved.min(axis=-1, keepdims=True), moved.max(axis=-1, keepdims=True)
    mid = _lum(moved)
    with np.errstate(divide="ignore", invalid="ignore"):
        moved = np.where(low < 0, mid + (moved - mid) * mid / (mid - low), moved)
        return np.where(high > 1, mid + (moved - mid) * (1 - mid) / (high - mid), moved)


def _set_sat(colour: Floats, sat: Floats) -> Floats:
    low, spread = colour.min(axis=-1, keepdims=True), _sat(colour)
    return np.where(spread > 0, (colour - low) * sat / np.where(spread > 0, spread, 1), 0.0)


_MIXES: dict[str, Callable[[Floats, Floats], Floats]] = {
    "multiply": lambda b, s: b * s,
    "screen": _screen,
    "overlay": lambda b, s: _hard_light(s, b),
    "darken": np.minimum,
    "lighten": np.maximum,
    "color-dodge": _color_dodge,
    "color-burn": _color_burn,
    "hard-light": _hard_light,
    "soft-light": _soft_light,
    "difference": lambda b, s: np.abs(b - s),
    "exclusion": lambda b, s: b + s - 2 * b * s,
    "hue": lambda b, s: _set_lum(_set_sat(s, _sat(b)), _lum(b)),
    "saturation": lambda b, s: _set_lum(_set_sat(b, _sat(s)), _lum(b)),
    "color": lambda b, s: _set_lum(s, _lum(b)),
    "luminosity": lambda b, s: _set_lum(b, _lum(s)),
    "linear-burn": lambda b, s: np.maximum(0, b + s - 1),
}
