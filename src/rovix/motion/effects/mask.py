"""Masks that follow each other, as one step."""

from __future__ import annotations

import numpy as np

from rovix.model import PictureClip
from rovix.model.effects.mask import Mask
from rovix.motion.at_frame import at_frame
from rovix.motion.contours import flattened
from rovix.motion.effects.affected import Affected, Floats, Planner, rest_world, stepped
from rovix.motion.forms import form_polygon
from rovix.motion.plan import LayerPlan
from rovix.motion.scene import Scene, local_frame, world_of
from rovix.motion.steps import MaskPart, MasksStep
from rovix.motion.transform import seen_part, shifted, turned

_SIGMAS = 2.0
"""How many sigmas an edge that is soft to one side alone lies from its line: 98 % of it are on that side."""


def _plan(layer: Affected, mask: Mask, at: float, count: int) -> LayerPlan | None:
    following = layer.effects[count + 1 : count + 2]
    if following and isinstance(following[0], Mask):
        return layer.at(at, count)  # the last of a row does them all
    first = count
    while first > 0 and isinstance(layer.effects[first - 1], Mask):
        first -= 1
    inner = layer.at(at, first)
    if inner is None:
        return None
    frame = at - layer.clip.start
    masks = [at_frame(one, frame) for one in layer.effects[first : count + 1] if isinstance(one, Mask)]
    return stepped(layer.clip.id, inner, MasksStep(tuple(_part(layer, one, at) for one in masks)))


def _part(layer: Affected, mask: Mask, at: float) -> MaskPart:
    place = mask_place(layer.scene, layer.clip, layer.world, mask, at)
    found = (seen_part(place, polygon) for polygon in mask_polygons(mask))
    polygons = tuple(points for points in found if len(points))
    return MaskPart(polygons, mask.feather * layer.scale, mask.joins, mask.strength, mask.hides)


def mask_place(scene: Scene, clip: PictureClip, world: Floats, mask: Mask, at: float) -> Floats:
    """(3, 3): from a mask's own px, about its point, to px of the picture. The mask is as it is at that frame
    of the tracks; `world` (4, 4) is what stands around them."""
    own = shifted(mask.x, mask.y) @ turned(np.array(mask.angle))
    followed = None if mask.on is None else scene.layer(mask.on.layer)
    if followed is not None and mask.on is not None:
        return scene.project(_pinned_to(scene, followed, world, mask.on.at, at) @ own)
    if mask.pin == "frame":
        return scene.project(world @ own)
    rest = rest_world(scene, clip, world, at)
    return scene.project(rest @ shifted(*_middle(scene, clip, at - clip.start)) @ own)


def _pinned_to(scene: Scene, followed: PictureClip, world: Floats, how: str, at: float) -> Floats:
    """(4, 4): where another layer is; its middle alone, level and in the frame's own size, by its place."""
    frame = local_frame(followed, at)
    around = world_of(scene, followed, followed.start + frame)
    state = scene.state(followed, np.array([frame]))
    whole = around @ state.layer[0] @ shifted(*_middle(scene, followed, frame))
    if how == "whole":
        return world @ whole
    level = np.eye(4)
    level[:3, 3] = whole[:3, 3]
    return world @ level


def _middle(scene: Scene, clip: PictureClip, frame: float) -> tuple[float, float]:
    """The middle of a layer's block, in its own px."""
    left, top, right, bottom = scene.state(clip, np.array([frame])).subject.block
    return (left + right) / 2, (top + bottom) / 2


def mask_polygons(mask: Mask) -> list[Floats]:
    """Rings (k, 2) about a mask's point; it covers what they wind round."""
    way = {"both": 0.0, "in": -_SIGMAS, "out": _SIGMAS}[mask.soft] * mask.feather + mask.grown
    if mask.form == "drawn" and way:
        return _offset(flattened(mask.contour), way)
    radius = max(0.0, mask.radius + way) if mask.radius else 0.0
    ring = form_polygon(mask.form, mask.width + 2 * way, mask.height + 2 * way, radius, mask.contour)
    return [ring] if len(ring) else []


def _offset(line: Floats, way: float) -> list[Floats]:
    """What a closed line covers, px larger all round, or smaller; corners are rounded outwards."""
    # Most masks are not grown: the start does not wait for it.
    import shapely

    if len(line) < 3:
        return []
    covered = shapely.make_valid(shapely.Polygon(line)).buffer(way)
    parts = [part for part in shapely.get_parts(covered) if isinstance(part, shapely.Polygon)]
    whole = (part for part in shapely.orient_polygons(parts) if not part.is_empty)
    return [np.array(ring.coords)[:-1] for part in whole for ring in (part.exterior, *part.interiors)]


PLANNER = Planner(Mask, _plan)
