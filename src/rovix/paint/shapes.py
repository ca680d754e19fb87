"""Boxes, lines and ellipses: filled and outlined. And the bands that outlines are made of."""

from __future__ import annotations

import numpy as np
import skia
from numpy.typing import NDArray

from rovix.model import Linear, Radial
from rovix.motion import ShapePlan
from rovix.motion.plan import Fill, Stroke
from rovix.motion.transform import mapped
from rovix.paint.canvas import Canvas
from rovix.paint.fills import gradient
from rovix.paint.region import Region, region_of

Floats = NDArray[np.float64]
Box = tuple[float, float, float, float]
_JOINS = {
    "round": skia.Paint.kRound_Join,
    "miter": skia.Paint.kMiter_Join,
    "bevel": skia.Paint.kBevel_Join,
}


def band(path: skia.Path, stroke: Stroke) -> skia.Path:
    """The band along a path's edges: the outline's width on each side that it covers."""
    width = stroke.width if stroke.side == "centre" else 2 * stroke.width
    paint = skia.Paint(Style=skia.Paint.kStroke_Style, StrokeWidth=width, StrokeJoin=_JOINS[stroke.join])
    made = skia.Path()
    paint.getFillPath(path, made)
    return made


def shape_path(form: str, width: float, height: float, radius: float) -> skia.Path:
    """A form around the origin, in px; a radius above half a side is that half."""
    path = skia.Path()
    box = skia.Rect.MakeXYWH(-width / 2, -height / 2, width, height)
    radius = min(radius, width / 2, height / 2)
    if form == "ellipse":
        path.addOval(box)
    elif radius > 0:
        path.addRoundRect(box, radius, radius)
    else:
        path.addRect(box)
    return path


def around_origin(width: float, height: float) -> Box:
    """The box of that size whose middle is the origin."""
    return -width / 2, -height / 2, width / 2, height / 2


def box_path(box: Box, radius: float) -> skia.Path:
    """A box from left, top, right, bottom in px, its corners rounded by at most half a side."""
    left, top, right, bottom = box
    radius = min(radius, (right - left) / 2, (bottom - top) / 2)
    path = skia.Path()
    path.addRoundRect(skia.Rect.MakeLTRB(left, top, right, bottom), radius, radius)
    return path


def polygon_path(points: Floats) -> skia.Path:
    """A closed polygon through points (k, 2)."""
    path = skia.Path()
    path.addPoly([skia.Point(*point) for point in points.tolist()], True)
    return path


def shape_region(plan: ShapePlan, view: Floats, size: tuple[int, int]) -> Region | None:
    """The px that a shape touches; `view` (3, 3) takes the frame to the picture."""
    reach = plan.stroke.width * (2 if plan.stroke.join == "miter" else 1) if plan.stroke else 0.0
    across, down = plan.width / 2 + reach, plan.height / 2 + reach
    corners = np.array([[-across, -down], [across, -down], [across, down], [-across, down]])
    return region_of(mapped(view @ plan.matrix, corners), size)


def draw_shape(canvas: Canvas, plan: ShapePlan, view: Floats) -> None:
    """Draw a shape without the layer's own opacity; an outline never shows through its fill."""
    matrix = view @ plan.matrix
    path = shape_path(plan.form, plan.width, plan.height, plan.radius)
    stroke = plan.stroke
    if stroke is not None and stroke.side == "outside":
        with canvas.clipped(matrix, inside=[], outside=[] if _hides(plan) else [path]):
            _draw_band(canvas, plan, path, matrix)
    if plan.fill is not None:
        draw_filled(
            canvas, path, matrix, plan.fill, around_origin(plan.width, plan.height), plan.fill_opacity
        )
    if stroke is not None and stroke.side != "outside":
        with canvas.clipped(matrix, inside=[path] if stroke.side == "inside" else [], outside=[]):
            _draw_band(canvas, plan, path, matrix)


def draw_filled(
    canvas: Canvas, path: skia.Path, matrix: Floats, fill: Fill, box: Box, opacity: float
) -> None:
    """Fill a path with a colour, or with a gradient over a box: left, top, right, bottom in px."""
    if isinstance(fill, Linear | Radial):
        canvas.draw_shaded(path, matrix, gradient(fill, box), opacity)
    elif isinstance(fill, tuple):
        canvas.draw_path(path, matrix, fill, opacity)
    else:
        raise TypeError(f"A path is not filled with {type(fill).__name__}.")


def _draw_band(canvas: Canvas, plan: ShapePlan, path: skia.Path, matrix: Floats) -> None:
    assert plan.stroke is not None
    opacity = plan.stroke.opacity * plan.outline_opacity
    canvas.draw_path(band(path, plan.stroke), matrix, plan.stroke.colour, opacity)


def _hides(plan: ShapePlan) -> bool:
    """Whether the fill hides all that lies under it."""
    opaque = isinstance(plan.fill, tuple) and plan.fill[3] == 255
    return opaque and plan.fill_opacity >= 1
