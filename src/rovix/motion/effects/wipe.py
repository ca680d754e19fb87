"""An uncovering edge, by itself or on another layer."""

from __future__ import annotations

import numpy as np

from rovix.model.effects.wipe import Wipe
from rovix.motion.effects.affected import Affected, Floats, stepping
from rovix.motion.effects.covering import covered
from rovix.motion.quads import LayerQuads, layer_quads
from rovix.motion.scene import local_frame, world_of
from rovix.motion.steps import MaskStep, Step
from rovix.motion.wipes import line_polygon

_SHORT = 1e-6  # px: an edge without a length has no way


def _steps(layer: Affected, wipe: Wipe, at: float) -> list[Step]:
    polygons = _followed(layer, wipe, at)
    if polygons is not None:
        return [MaskStep(polygons, wipe.feather * layer.scale, wipe.hides)]
    if wipe.share >= 1:
        return [MaskStep((), 0.0)] if wipe.hides else []
    if wipe.share <= 0:
        return [] if wipe.hides else [MaskStep((), 0.0)]
    return [MaskStep(covered(layer, wipe, at, wipe.pin), wipe.feather * layer.scale, wipe.hides)]


def _followed(layer: Affected, wipe: Wipe, at: float) -> tuple[Floats, ...] | None:
    """Everything behind the line through a point of the layer that the edge follows; None without one."""
    followed = None if wipe.follows is None else layer.scene.layer(wipe.follows.layer)
    if followed is None or wipe.follows is None:
        return None
    frame = local_frame(followed, at)
    around = layer.world @ world_of(layer.scene, followed, followed.start + frame)
    quads = layer_quads(layer.scene, followed, frame, around)
    if wipe.follows.at in _EDGES:
        return _edge_of(quads, wipe.follows.at, wipe.angle)
    corners = (quads.pieces if len(quads.pieces) else quads.rest[None]).reshape(-1, 2)
    corners = corners[np.isfinite(corners).all(axis=1)]
    if not len(corners):
        return None
    low, high = corners.min(axis=0), corners.max(axis=0)
    x, y = ((low + high) / 2).tolist()
    x = {"left": float(low[0]), "right": float(high[0])}.get(wipe.follows.at, x)
    y = {"top": float(low[1]), "bottom": float(high[1])}.get(wipe.follows.at, y)
    return (line_polygon((x, y), wipe.angle),)


_EDGES = {"left-edge": (0, 3), "right-edge": (1, 2), "top-edge": (0, 1), "bottom-edge": (3, 2)}
"""The corners of a layer that an edge goes through."""


def _edge_of(quads: LayerQuads, name: str, angle: float) -> tuple[Floats, ...] | None:
    """Everything behind the line along a layer's own edge; None where that is behind the viewer.

    Of a layer of several pieces it is the edge of the layer as a whole, without what they do by themselves.
    """
    corners = quads.pieces[0] if len(quads.pieces) == 1 else quads.rest
    start, end = corners[list(_EDGES[name])]
    if not np.isfinite(corners).all() or np.hypot(*(end - start)) < _SHORT:
        return None
    across = float(np.degrees(np.arctan2(*(end - start)[::-1]))) + 90.0
    # Of the two sides of the line the one that lies along the wipe's angle is in front.
    if np.cos(np.radians(across - angle)) < 0:
        across += 180.0
    return (line_polygon((float(start[0]), float(start[1])), across),)


PLANNER = stepping(Wipe, _steps)
