"""From a picture plan to pixels; the same for viewer, still and export."""

from __future__ import annotations

from fractions import Fraction
from typing import Protocol

import numpy as np
import skia
from numpy.typing import NDArray

from rovix.model import Paper
from rovix.motion import GlyphsPlan, GroundPlan, GroupPlan, ImagePlan, LayerPlan, PicturePlan, plan_key
from rovix.paint.cache import LayerCache, LayerPicture
from rovix.paint.canvas import Canvas
from rovix.paint.glyphs import draw_glyphs, glyphs_region
from rovix.paint.grounds import paper_pixels
from rovix.paint.images import place_image, upright_size

Pixels = NDArray[np.uint8]
Floats = NDArray[np.float64]


class Pictures(Protocol):
    """Where the painter gets pictures of files from."""

    def picture(self, source: str, time: Fraction | None, shrunk: tuple[int, int] | None = None) -> Pixels:
        """Premultiplied BGRA of a still, or of a video at seconds. Not to be written to.

        A video may come averaged down to `shrunk` (width, height), the size it is laid down at.
        """


class Painter:
    """Paints plans. With a `cache`, layers that did not change are laid down again, not drawn."""

    def __init__(self, pictures: Pictures, cache: LayerCache | None = None) -> None:
        self._pictures = pictures
        self._cache = cache

    def paint(self, plan: PicturePlan, size: tuple[int, int] | None = None) -> Pixels:
        """(height, width, 4) uint8, premultiplied BGRA, at `size` (width, height) in px.

        The frame is fitted in whole; what a size of other proportions leaves over has the ground's
        colour.
        """
        size = size or plan.size
        canvas = Canvas(*size)
        canvas.fill(plan.ground)
        self._paint_layers(canvas, plan.layers, plan.size, fitted(plan.size, size))
        return canvas.pixels

    def _paint_layers(
        self, canvas: Canvas, layers: tuple[LayerPlan, ...], frame: tuple[int, int], view: Floats
    ) -> None:
        for layer in layers:
            if isinstance(layer, GroupPlan):
                self._paint_group(canvas, layer, frame, view)
                continue
            picture = self._layer(layer, frame, view, (canvas.width, canvas.height))
            if picture is None:
                continue
            if picture.opaque and layer.opacity >= 1:
                canvas.replace_pixels(picture.pixels, picture.left, picture.top)
            else:
                canvas.draw_pixels(picture.pixels, picture.left, picture.top, layer.opacity)

    def _paint_group(self, canvas: Canvas, group: GroupPlan, frame: tuple[int, int], view: Floats) -> None:
        if group.opacity >= 1:
            self._paint_layers(canvas, group.layers, frame, view)
            return
        inner = Canvas(canvas.width, canvas.height)
        self._paint_layers(inner, group.layers, frame, view)
        canvas.draw_pixels(inner.pixels, 0, 0, group.opacity)

    def _layer(
        self, layer: LayerPlan, frame: tuple[int, int], view: Floats, size: tuple[int, int]
    ) -> LayerPicture | None:
        # Footage changes at every frame; keeping it would only push out what stays.
        if self._cache is None or (isinstance(layer, ImagePlan) and layer.time is not None):
            return self._painted(layer, frame, view, size)
        key = plan_key(layer) + view.tobytes() + repr(size).encode()
        kept = self._cache.get(key)
        if kept is None:
            kept = self._painted(layer, frame, view, size)
            if kept is not None:
                self._cache.put(key, kept)
        return kept

    def _painted(
        self, layer: LayerPlan, frame: tuple[int, int], view: Floats, size: tuple[int, int]
    ) -> LayerPicture | None:
        if isinstance(layer, GlyphsPlan):
            return _painted_glyphs(layer, view, size)
        if isinstance(layer, ImagePlan):
            pixels = self._pictures.picture(layer.source, layer.time, upright_size(layer, view))
            # Video has no transparency here; a still may have.
            return place_image(pixels, layer, view, size, opaque=layer.time is not None)
        if isinstance(layer, GroundPlan):
            return _painted_ground(layer, frame, view, size)
        raise TypeError(f"A {type(layer).__name__} is not painted as one layer.")


def fitted(frame: tuple[int, int], size: tuple[int, int]) -> Floats:
    """(3, 3): the frame scaled as a whole into a picture of `size`, centred.

    A size of the frame's own proportions but for rounding is filled exactly, to its last px.
    """
    scale = min(size[0] / frame[0], size[1] / frame[1])
    if all(abs(size[axis] - scale * frame[axis]) < 1 for axis in (0, 1)):
        return np.diag([size[0] / frame[0], size[1] / frame[1], 1.0])
    left, top = ((size[axis] - scale * frame[axis]) / 2 for axis in (0, 1))
    return np.array([[scale, 0.0, left], [0.0, scale, top], [0.0, 0.0, 1.0]])


def _painted_glyphs(plan: GlyphsPlan, view: Floats, size: tuple[int, int]) -> LayerPicture | None:
    region = glyphs_region(plan, view, size)
    if region is None:
        return None
    canvas = Canvas(region.width, region.height, region.left, region.top)
    draw_glyphs(canvas, plan, view)
    return LayerPicture(canvas.pixels, region.left, region.top)


def _painted_ground(
    plan: GroundPlan, frame: tuple[int, int], view: Floats, size: tuple[int, int]
) -> LayerPicture | None:
    if isinstance(plan.ground, Paper):
        pixels = paper_pixels(plan.ground, frame)
        image = ImagePlan(plan.id, "", None, *frame, plan.matrix, "none", plan.opacity)
        return place_image(pixels, image, view, size, opaque=True)
    canvas = Canvas(*size)
    rectangle = skia.Path()
    rectangle.addRect(skia.Rect.MakeXYWH(-frame[0] / 2, -frame[1] / 2, *frame))
    canvas.draw_path(rectangle, view @ plan.matrix, plan.ground)
    return LayerPicture(canvas.pixels, 0, 0)
