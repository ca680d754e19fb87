"""Words: pieces as vector paths, filled and outlined."""

from __future__ import annotations

import weakref
from functools import lru_cache

import numpy as np
import skia
from numpy.typing import NDArray

from rovix.motion import GlyphsPlan
from rovix.motion.plan import Stroke
from rovix.motion.transform import mapped
from rovix.paint.canvas import Canvas
from rovix.paint.region import Region, region_of
from rovix.paint.shapes import band
from rovix.text import Face, Layout
from rovix.text.face import CUBIC, LINE, MOVE, QUADRATIC

Floats = NDArray[np.float64]


class PiecePaths:
    """The paths of one layout dealt out to pieces, in the layout's px; made when first asked for."""

    def __init__(self, layout: Layout, of_glyph: NDArray[np.int64]) -> None:
        self._layout = weakref.ref(layout)
        self._of_glyph = of_glyph
        self._fills: dict[int, skia.Path] = {}
        self._strokes: dict[tuple[int, Stroke], skia.Path] = {}

    def fill(self, piece: int) -> skia.Path:
        kept = self._fills.get(piece)
        if kept is None:
            kept = self._fills[piece] = self._joined(piece)
        return kept

    def stroke(self, piece: int, stroke: Stroke) -> skia.Path:
        """The band along the edges: the outline's width on each side it covers."""
        kept = self._strokes.get((piece, stroke))
        if kept is None:
            kept = self._strokes[(piece, stroke)] = band(self.fill(piece), stroke)
        return kept

    def _joined(self, piece: int) -> skia.Path:
        layout = self._layout()
        path = skia.Path()
        if layout is None:
            return path
        for glyph in np.flatnonzero(self._of_glyph == piece).tolist():
            face = layout.faces[layout.face[glyph]]
            scale = float(layout.em[glyph]) / face.upem
            place = skia.Matrix.MakeAll(
                scale, 0, float(layout.x[glyph]), 0, -scale, float(layout.y[glyph]), 0, 0, 1
            )
            path.addPath(_glyph_path(face, int(layout.glyph[glyph])), place)
        # Letters of variable fonts are drawn in overlapping parts; an outline must not show them.
        return _simplified(path)


_paths: weakref.WeakKeyDictionary[Layout, dict[bytes, PiecePaths]] = weakref.WeakKeyDictionary()


def piece_paths(layout: Layout, of_glyph: NDArray[np.int64]) -> PiecePaths:
    """The paths of a layout dealt out that way, kept as long as the layout lives."""
    dealt = _paths.setdefault(layout, {})
    return dealt.setdefault(of_glyph.tobytes(), PiecePaths(layout, of_glyph))


def glyphs_region(plan: GlyphsPlan, view: Floats, size: tuple[int, int]) -> Region | None:
    """The px that the pieces to be seen touch; `view` (3, 3) takes the frame to the picture."""
    reach = max((stroke.width for stroke in plan.strokes), default=0.0)
    points = [np.zeros((0, 2))]
    for piece in np.flatnonzero(plan.opacities > 0).tolist():
        boxes = plan.layout.ink[plan.of_glyph == piece]
        boxes = boxes[np.isfinite(boxes[:, 0])]
        if len(boxes):
            left, top = boxes[:, :2].min(axis=0) - reach
            right, bottom = boxes[:, 2:].max(axis=0) + reach
            corners = np.array([[left, top], [right, top], [right, bottom], [left, bottom]])
            points.append(mapped(view @ plan.matrices[piece], corners))
    return region_of(np.concatenate(points), size)


def draw_glyphs(canvas: Canvas, plan: GlyphsPlan, view: Floats) -> None:
    """Draw the pieces that are to be seen, without the layer's own opacity.

    Part by part over all pieces: the outlines from the farthest in, then the fills, then the
    outlines inside. So no letter's outline lies on its neighbour's fill.
    """
    dealt = _Dealt(plan, piece_paths(plan.layout, plan.of_glyph), view)
    around = [stroke for stroke in plan.strokes if stroke.side != "inside"]
    for number in reversed(range(len(around))):
        dealt.draw_around(canvas, around[number], around[:number])
    dealt.draw_fill(canvas)
    for stroke in plan.strokes:
        if stroke.side == "inside":
            dealt.draw_inside(canvas, stroke)


class _Dealt:
    """The pieces of a plan that are to be seen, ready to have one part drawn after the other."""

    def __init__(self, plan: GlyphsPlan, paths: PiecePaths, view: Floats) -> None:
        self.plan, self.paths = plan, paths
        self.matrices = {
            piece: view @ plan.matrices[piece] for piece in np.flatnonzero(plan.opacities > 0).tolist()
        }

    def draw_fill(self, canvas: Canvas) -> None:
        for piece, matrix in self.matrices.items():
            opacity = float(self.plan.opacities[piece] * self.plan.fill_opacities[piece])
            if opacity > 0:
                canvas.draw_path(self.paths.fill(piece), matrix, self.plan.fill, opacity)

    def draw_around(self, canvas: Canvas, stroke: Stroke, nearer: list[Stroke]) -> None:
        """An outline outside or on the edge, as the ring that it adds to the outlines nearer in."""
        for piece, matrix in self.matrices.items():
            opacity = self._opacity(piece, stroke)
            if opacity == 0:
                continue
            band = self.paths.stroke(piece, stroke)
            if self._covered(piece, nearer):
                # What comes on top hides the rest of the band; drawing it whole leaves no seam.
                canvas.draw_path(band, matrix, stroke.colour, opacity)
                continue
            taken = [self.paths.stroke(piece, other) for other in nearer]
            fill = [self.paths.fill(piece)] if stroke.side == "outside" else []
            with canvas.clipped(matrix, inside=[], outside=taken + fill):
                canvas.draw_path(band, matrix, stroke.colour, opacity)

    def draw_inside(self, canvas: Canvas, stroke: Stroke) -> None:
        for piece, matrix in self.matrices.items():
            opacity = self._opacity(piece, stroke)
            if opacity > 0:
                with canvas.clipped(matrix, inside=[self.paths.fill(piece)], outside=[]):
                    canvas.draw_path(self.paths.stroke(piece, stroke), matrix, stroke.colour, opacity)

    def _opacity(self, piece: int, stroke: Stroke) -> float:
        return float(self.plan.opacities[piece] * self.plan.outline_opacities[piece]) * stroke.opacity

    def _covered(self, piece: int, nearer: list[Stroke]) -> bool:
        fill = self.plan.opacities[piece] * self.plan.fill_opacities[piece] * self.plan.fill[3]
        hiding = (self._opacity(piece, other) * other.colour[3] >= 255 for other in nearer)
        return bool(fill >= 255) and all(hiding)


def _simplified(path: skia.Path) -> skia.Path:
    simple = skia.Simplify(path)
    # Skia's path operations fail on rare outlines; the plain path then only shows its overlaps.
    return simple if simple is not None and not simple.isEmpty() else path


@lru_cache(maxsize=8192)
def _glyph_path(face: Face, glyph: int) -> skia.Path:
    path = skia.Path()
    draw = {MOVE: path.moveTo, LINE: path.lineTo, QUADRATIC: path.quadTo, CUBIC: path.cubicTo}
    for verb, coordinates in face.outline(glyph).segments():
        draw.get(verb, path.close)(*coordinates)
    return path
