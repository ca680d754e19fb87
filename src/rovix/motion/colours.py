"""Colours over time, mixed where their keys say."""

from __future__ import annotations

import msgspec
import numpy as np
from numpy.typing import NDArray

from rovix.curve import Track
from rovix.curve.transfer import light_to_srgb, srgb_to_light
from rovix.model import ColourKeys, Linear, Radial, bgra
from rovix.model.identity import IdentityCache

Floats = NDArray[np.float64]
Bgra = tuple[int, int, int, int]
Paint = Bgra | Linear | Radial

_tracks: IdentityCache[tuple[Track, ...]] = IdentityCache()


def colours_at(keys: ColourKeys, frames: Floats) -> list[str]:
    """Colours as CSS text at frames of the clip.

    Mixed with alpha premultiplied, as CSS Color Level 4, section 12.3, says; what an easing takes
    beyond full scale is cut off.
    """
    tracks = _tracks.get(keys, lambda: _component_tracks(keys))
    *rgb, alpha = (track(frames) for track in tracks)
    alpha = np.clip(alpha, 0.0, 1.0)
    plain = [part / np.where(alpha > 0, alpha, 1.0) for part in rgb]
    shown = [np.clip(light_to_srgb(part) if keys.mix == "linear" else part, 0.0, 1.0) for part in plain]
    return [_text(*values) for values in zip(*shown, alpha, strict=True)]


def _component_tracks(keys: ColourKeys) -> tuple[Track, ...]:
    found = np.array([bgra(key.value) for key in keys.keys]) / 255.0
    rgb, alpha = found[:, 2::-1], found[:, 3:]
    light = srgb_to_light(rgb) if keys.mix == "linear" else rgb
    parts = np.concatenate([light * alpha, alpha], axis=1)
    return tuple(
        Track((key.frame, value, key.curve) for key, value in zip(keys.keys, column, strict=True))
        for column in parts.T.tolist()
    )


def _text(red: float, green: float, blue: float, alpha: float) -> str:
    parts = [round(255 * part) for part in (red, green, blue, alpha)]
    return "#" + "".join(f"{part:02x}" for part in (parts if parts[3] < 255 else parts[:3]))


def laid_over(paint: Paint, colour: Bgra, share: float, linear: bool) -> Paint:
    """A paint with a colour mixed in by a share 0 to 1, in light or in code values; gradients by stops."""
    if share <= 0:
        return paint
    if isinstance(paint, Linear | Radial):
        stops = tuple(
            msgspec.structs.replace(stop, colour=_css(_mixed(bgra(stop.colour), colour, share, linear)))
            for stop in paint.stops
        )
        return msgspec.structs.replace(paint, stops=stops)
    return _mixed(paint, colour, share, linear)


def _mixed(under: Bgra, over: Bgra, share: float, linear: bool) -> Bgra:
    """Premultiplied, as CSS Color Level 4, section 12.3, says."""
    ends = np.array([under, over]) / 255.0
    alphas = ends[:, 3] * np.array([1 - share, share])
    alpha = float(alphas.sum())
    if alpha == 0:
        return over[0], over[1], over[2], 0
    parts = srgb_to_light(ends[:, :3]) if linear else ends[:, :3]
    plain = alphas @ parts / alpha
    shown = np.append(light_to_srgb(plain) if linear else plain, alpha)
    blue, green, red, opaque = np.rint(255 * np.clip(shown, 0.0, 1.0)).astype(int).tolist()
    return blue, green, red, opaque


def _css(colour: Bgra) -> str:
    blue, green, red, alpha = (part / 255 for part in colour)
    return _text(red, green, blue, alpha)
