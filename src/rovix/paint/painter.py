"""From a picture plan to pixels; the same for viewer, still and export."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from functools import partial
from typing import Protocol

import numpy as np
import skia
from numpy.typing import NDArray

from rovix.model import Paper
from rovix.motion import (
    BackgroundPlan,
    EchoPlan,
    ExposurePlan,
    GlyphsPlan,
    GroupPlan,
    ImagePlan,
    LayerPlan,
    MattePlan,
    PicturePlan,
    ShapePlan,
    StepPlan,
    SweepPlan,
    TransitionPlan,
    plan_key,
)
from rovix.paint.backgrounds import paper_pixels
from rovix.paint.blend import blend
from rovix.paint.body import Body
from rovix.paint.cache import LayerCache, LayerPicture, around, cut
from rovix.paint.canvas import Canvas
from rovix.paint.effects.masks import coverage, mixed_by, multiplied, shown_by
from rovix.paint.exposed_words import exposed_words
from rovix.paint.exposure import Moment, Still, exposed
from rovix.paint.glyphs import body_of, draw_glyphs, glyphs_region
from rovix.paint.images import place_image, seen_size, upright_size
from rovix.paint.region import Region
from rovix.paint.shapes import around_origin, draw_filled, draw_shape, shape_path, shape_region
from rovix.paint.softness import Softness
from rovix.paint.stepping import stepped
from rovix.paint.transitions import mixed, shifts

Pixels = NDArray[np.uint8]
Floats = NDArray[np.float64]


class Pictures(Protocol):
    """Where the painter gets pictures of files from."""

    def picture(
        self, source: str, time: Fraction | None, shrunk: tuple[int, int] | None = None, about: bool = False
    ) -> Pixels:
        """Premultiplied BGRA of a still, or of a video at seconds. Not to be written to.

        A video may come averaged down to `shrunk` (width, height), the size it is laid down at; where
        that is only `about` so, as it lies on no whole px, it comes so where it is much smaller than its own.
        """


_COPIES = 256 << 20  # bytes of the copies of one echo that are kept where nothing else is


class Painter:
    """Paints plans. With a `cache`, layers that did not change are laid down again, not drawn."""

    def __init__(self, pictures: Pictures, cache: LayerCache | None = None) -> None:
        self._pictures = pictures
        self._cache = cache
        # By the kind of plan; a test compares with the kinds there are.
        self._painters: dict[type[LayerPlan], Callable[..., LayerPicture | None]] = {
            GlyphsPlan: _painted_words, ShapePlan: _painted_shape, BackgroundPlan: _painted_background,
            ImagePlan: self._image, GroupPlan: self._group, TransitionPlan: self._joined,
            StepPlan: self._stepped, EchoPlan: self._echoed, SweepPlan: self._swept,
            MattePlan: self._matted, ExposurePlan: self._exposed,
        }  # fmt: skip

    def paint(self, plan: PicturePlan, size: tuple[int, int] | None = None) -> Pixels:
        """(height, width, 4) uint8, premultiplied BGRA, at `size` (width, height) in px.

        The frame is fitted in whole; what a size of other proportions leaves over has the ground's
        colour.
        """
        size = size or plan.size
        canvas = Canvas(*size)
        canvas.fill(plan.background)
        self._paint_layers(canvas, plan.layers, fitted(plan.size, size))
        return canvas.pixels

    def _paint_layers(self, canvas: Canvas, layers: tuple[LayerPlan, ...], view: Floats) -> None:
        for layer in layers:
            if isinstance(layer, GroupPlan) and layer.is_plain:
                self._paint_layers(canvas, layer.layers, view)
                continue
            picture = self._layer(layer, view, (canvas.width, canvas.height))
            if picture is None:
                continue
            if picture.opaque and layer.opacity >= 1 and layer.blend == "normal":
                canvas.replace_pixels(picture.pixels, picture.left, picture.top)
            else:
                _lay(canvas, picture.pixels, picture.left, picture.top, layer.opacity, layer.blend)

    def _group(self, group: GroupPlan, view: Floats, size: tuple[int, int]) -> LayerPicture:
        inner = Canvas(*size)
        self._paint_layers(inner, group.layers, view)
        if group.frame is None or group.matrix is None:
            return LayerPicture(inner.pixels, 0, 0)
        cut = Canvas(*size)
        with cut.clipped(view @ group.matrix, inside=[_frame_path(group.frame)], outside=[]):
            cut.draw_pixels(inner.pixels, 0, 0)
        return LayerPicture(cut.pixels, 0, 0)

    def _joined(self, transition: TransitionPlan, view: Floats, size: tuple[int, int]) -> LayerPicture:
        moved = shifts(transition) if transition.kind == "slide" else ((0.0, 0.0), (0.0, 0.0))
        before, after = Canvas(*size), Canvas(*size)
        for part, layer, shift in (
            (before, transition.before, moved[0]),
            (after, transition.after, moved[1]),
        ):
            if layer is not None:
                self._paint_layers(part, (layer,), view @ _shift(*shift))
        mix = _beside if transition.kind == "slide" else mixed
        return LayerPicture(mix(transition, before.pixels, after.pixels, view), 0, 0)

    def _layer(self, layer: LayerPlan, view: Floats, size: tuple[int, int]) -> LayerPicture | None:
        if self._cache is None or not _is_kept(layer):
            return self._painted(layer, view, size)
        return self._kept(self._cache, layer, view, size)

    def _kept(
        self, cache: LayerCache, layer: LayerPlan, view: Floats, size: tuple[int, int]
    ) -> LayerPicture | None:
        key = plan_key(layer) + view.tobytes() + repr(size).encode()
        kept = cache.get(key)
        if kept is None:
            kept = self._painted(layer, view, size)
            if kept is not None:
                cache.put(key, kept)
        return kept

    def _painted(self, layer: LayerPlan, view: Floats, size: tuple[int, int]) -> LayerPicture | None:
        softness = Softness.of(layer.blur, view)
        picture = self._painters[type(layer)](layer, softness.view, softness.widened(size))
        return None if picture is None else softness.soft(picture, size)

    def _seen(self, layer: LayerPlan | None, view: Floats, size: tuple[int, int]) -> Moment | None:
        """One moment of an exposure with its opacity."""
        found = None if layer is None else self._painted(layer, view, size)
        return None if found is None or layer is None else (found, layer.opacity)

    def _echoed(self, plan: EchoPlan, view: Floats, size: tuple[int, int]) -> LayerPicture | None:
        """Copies over each other. Each is kept: what is a copy now was the layer itself a little before."""
        cache = LayerCache(_COPIES) if self._cache is None else self._cache
        pictures = ((self._kept(cache, copy, view, size), strength) for copy, strength in plan.copies)
        found = [(picture, strength) for picture, strength in pictures if picture is not None]
        region = around([picture for picture, _ in found])
        if region is None:
            return None
        canvas = Canvas(region.width, region.height, region.left, region.top)
        for picture, strength in found:
            _lay(canvas, picture.pixels, picture.left, picture.top, strength, plan.mode)
        return LayerPicture(canvas.pixels, region.left, region.top)

    def _swept(self, plan: SweepPlan, view: Floats, size: tuple[int, int]) -> LayerPicture | None:
        """One layer, and another of the same shape where polygons cover it."""
        under, over = (self._painted(part, view, size) for part in (plan.under, plan.over))
        if under is None or over is None:
            return under
        scale = float(np.sqrt(abs(np.linalg.det(view[:2, :2]))))
        mask = coverage(plan.polygons, under, view, plan.feather * scale)
        return mixed_by(under, over, mask)

    def _matted(self, plan: MattePlan, view: Floats, size: tuple[int, int]) -> LayerPicture | None:
        """A layer as far as another is opaque, or light."""
        inner = self._painted(plan.inner, view, size)
        if inner is None:
            return None
        by = self._seen(plan.by, view, size)
        mask = np.zeros(inner.pixels.shape[:2], np.uint8) if by is None else shown_by(*by, inner, plan.light)
        return multiplied(inner, 255 - mask if plan.hides else mask)

    def _exposed(self, plan: ExposurePlan, view: Floats, size: tuple[int, int]) -> LayerPicture | None:
        smear = plan.smear[0] * float(view[0, 0]), plan.smear[1] * float(view[1, 1])
        words = exposed_words(plan.moments, view, size)
        if words is None:
            return exposed([self._seen(moment, view, size) for moment in plan.moments], smear, size)
        resting = None if words.resting is None else self._layer(words.resting, view, size)
        still = None if resting is None else Still(resting, words.times, words.within)
        drawn = [(_painted_body(body, size), opacity) for body, opacity in words.moments]
        # Cut only now: Skia smooths the edges of what reaches beyond a canvas in another way.
        seen = [None if (part := cut(picture, words.within)) is None else (part, o) for picture, o in drawn]
        nothing = [None] * (len(plan.moments) - len(seen))
        return exposed([*seen, *nothing], smear, size, still)

    def _stepped(self, plan: StepPlan, view: Floats, size: tuple[int, int]) -> LayerPicture | None:
        return stepped(plan.step, partial(self._painted, plan.inner), view, size)

    def _image(self, plan: ImagePlan, view: Floats, size: tuple[int, int]) -> LayerPicture | None:
        # Video may come shrunk where it is only scaled; drawings are drawn as large as they are seen.
        exact = None if plan.time is None else upright_size(plan, view)
        wanted = exact or (seen_size(plan, view) if plan.crop == "none" or plan.time is None else None)
        about = plan.time is not None and exact is None
        pixels = self._pictures.picture(plan.source, plan.time, wanted, about)
        return place_image(pixels, plan, view, size, opaque=not plan.clear)


def _is_kept(plan: LayerPlan) -> bool:
    """Whether a layer's picture is worth keeping: footage changes at every frame, and would only push
    out what stays; what groups and joins are made of is kept by itself."""
    return not isinstance(plan, GroupPlan | TransitionPlan) and getattr(plan, "time", None) is None


def _painted_words(plan: GlyphsPlan, view: Floats, size: tuple[int, int]) -> LayerPicture | None:
    return _painted_body(body_of(plan, view), size)


def _painted_body(body: Body, size: tuple[int, int]) -> LayerPicture | None:
    return _painted_in(glyphs_region(body, size), lambda canvas: draw_glyphs(canvas, body, size))


def _painted_shape(plan: ShapePlan, view: Floats, size: tuple[int, int]) -> LayerPicture | None:
    return _painted_in(shape_region(plan, view, size), lambda canvas: draw_shape(canvas, plan, view))


def _lay(canvas: Canvas, pixels: Pixels, left: int, top: int, opacity: float, mode: str) -> None:
    """Lay a layer over what is on the canvas, by its blend; the opacity is the blend's strength."""
    if mode != "linear-burn":
        canvas.draw_pixels(pixels, left, top, opacity, mode)
        return
    bottom, right = top + pixels.shape[0], left + pixels.shape[1]
    below = canvas.pixels[top:bottom, left:right]
    source = pixels if opacity >= 1 else np.rint(pixels * np.float32(opacity)).astype(np.uint8)
    canvas.replace_pixels(blend(below, source, mode), left, top)


def _beside(transition: TransitionPlan, before: Pixels, after: Pixels, view: Floats) -> Pixels:
    """The two pictures of a slide, each cut to its own frame; where they share a px they add up."""
    canvas = Canvas(before.shape[1], before.shape[0])
    for pixels, shift in zip((before, after), shifts(transition), strict=True):
        with canvas.clipped(view @ _shift(*shift), inside=[_frame_path(transition.size)], outside=[]):
            canvas.draw_pixels(pixels, 0, 0, blend="plus-lighter")
    return canvas.pixels


def _frame_path(frame: tuple[int, int]) -> skia.Path:
    box = skia.Path()
    box.addRect(skia.Rect.MakeWH(*frame))
    return box


def _shift(x: float, y: float) -> Floats:
    return np.array([[1.0, 0.0, x], [0.0, 1.0, y], [0.0, 0.0, 1.0]])


def fitted(frame: tuple[int, int], size: tuple[int, int]) -> Floats:
    """(3, 3): the frame scaled as a whole into a picture of `size`, centred.

    A size of the frame's own proportions but for rounding is filled exactly, to its last px.
    """
    scale = min(size[0] / frame[0], size[1] / frame[1])
    if all(abs(size[axis] - scale * frame[axis]) < 1 for axis in (0, 1)):
        return np.diag([size[0] / frame[0], size[1] / frame[1], 1.0])
    left, top = ((size[axis] - scale * frame[axis]) / 2 for axis in (0, 1))
    return np.array([[scale, 0.0, left], [0.0, scale, top], [0.0, 0.0, 1.0]])


def _painted_in(region: Region | None, draw: Callable[[Canvas], None]) -> LayerPicture | None:
    if region is None:
        return None
    canvas = Canvas(region.width, region.height, region.left, region.top)
    draw(canvas)
    return LayerPicture(canvas.pixels, region.left, region.top)


def _painted_background(plan: BackgroundPlan, view: Floats, size: tuple[int, int]) -> LayerPicture | None:
    if isinstance(plan.fill, Paper):
        whole = max(1, round(plan.width)), max(1, round(plan.height))
        image = ImagePlan(plan.id, "", None, plan.width, plan.height, plan.matrix, "none")
        return place_image(paper_pixels(plan.fill, whole), image, view, size, opaque=True)
    canvas = Canvas(*size)
    path = shape_path("box", plan.width, plan.height, 0.0)
    draw_filled(canvas, path, view @ plan.matrix, plan.fill, around_origin(plan.width, plan.height), 1.0)
    return LayerPicture(canvas.pixels, 0, 0)
