"""Words: pieces as vector paths, part by part of their look."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import replace
from functools import cached_property

import numpy as np
import skia
from numpy.typing import NDArray

from rovix.model import Linear, Radial, bgra
from rovix.motion import GlyphsPlan
from rovix.motion.colours import laid_over
from rovix.motion.plan import (
    BoxPart,
    FillPart,
    GlowPart,
    LongShadowPart,
    Paint,
    ShadowPart,
    Stroke,
    StrokePart,
)
from rovix.paint.body import Body, box_points
from rovix.paint.canvas import Canvas, Ink
from rovix.paint.fills import gradient
from rovix.paint.glyph_paths import piece_paths
from rovix.paint.region import Region, region_of
from rovix.paint.shades import draw_glow, draw_long_shadow, draw_shadow
from rovix.paint.shapes import box_path, draw_filled, polygon_path

Floats = NDArray[np.float64]
Numbers = NDArray[np.int64]


def body_of(plan: GlyphsPlan, view: Floats) -> Body:
    """The letters of a plan, ready to be drawn; `view` (3, 3) takes the frame to the picture."""
    return Body(plan, view, _Drawing(plan, view))


def glyphs_region(body: Body, size: tuple[int, int]) -> Region | None:
    """The px of a picture of `size` that the pieces to be seen touch with their look."""
    boxes = [box_points(part, body.view) for part in body.plan.parts if isinstance(part, BoxPart)]
    return region_of(np.concatenate([body.touched().reshape(-1, 2), *boxes]), size)


def some_of(body: Body, chosen: NDArray[np.bool_]) -> Body:
    """The same with some of its pieces (n,) alone."""
    opacities = np.zeros_like(body.plan.opacities)
    own = body.pieces[chosen]
    opacities[own] = body.plan.opacities[own]
    plan = replace(body.plan, opacities=opacities)
    return body.only(chosen, plan, _Drawing(plan, body.view))


def draw_glyphs(canvas: Canvas, body: Body, size: tuple[int, int]) -> None:
    """Draw the pieces that are to be seen, without the layer's own opacity, in a picture of `size`.

    Part by part over all pieces, the lowest first. So no letter's outline lies on its neighbour's
    fill.
    """
    for number, part in enumerate(body.plan.parts):
        if isinstance(part, FillPart | StrokePart):
            body.drawn.draw(canvas, number)
        elif isinstance(part, ShadowPart):
            draw_shadow(canvas, part, body)
        elif isinstance(part, GlowPart):
            draw_glow(canvas, part, body)
        elif isinstance(part, LongShadowPart):
            draw_long_shadow(canvas, part, body, size)
        else:
            _draw_boxes(canvas, part, body.view)


def _draw_boxes(canvas: Canvas, part: BoxPart, view: Floats) -> None:
    for box, matrix, opacity in zip(part.boxes, part.matrices, part.opacities.tolist(), strict=True):
        left, top, right, bottom = box.tolist()
        if opacity > 0 and right > left and bottom > top:
            path = box_path((left, top, right, bottom), part.radius)
            draw_filled(canvas, path, view @ matrix, part.paint, (left, top, right, bottom), opacity)


def _paint_of(part: FillPart, own: Paint | None, piece: int) -> Paint:
    """What a piece's letters are filled with: their own colour or the part's, and what is mixed in."""
    paint = part.paint if own is None else own
    for mixed in part.mixes:
        paint = laid_over(paint, mixed.colour, float(mixed.shares[piece]), mixed.linear)
    return paint


def _hides(paint: Paint) -> bool:
    """Whether nothing shines through a paint."""
    return paint[3] == 255 if isinstance(paint, tuple) else all(bgra(s.colour)[3] == 255 for s in paint.stops)


_STILL = np.eye(3)
_BLACK = (0, 0, 0, 255)


class _Drawing:
    """Draws the letters themselves: fills and outlines of the pieces that are to be seen."""

    def __init__(self, plan: GlyphsPlan, view: Floats) -> None:
        self.plan, self.view = plan, view
        self.paths = piece_paths(plan.layout, plan.of_glyph)
        self.seen = np.flatnonzero(plan.opacities > 0)
        self.stacked = view @ plan.matrices[self.seen]
        self.matrices = dict(zip(self.seen.tolist(), self.stacked, strict=True))

    def draw(self, canvas: Canvas, number: int, shifts: dict[int, Floats] | None = None) -> None:
        """Draw the fill or outline of that number, of all pieces or moved by (3, 3) shifts."""
        if self.plan.windows:
            self._draw_windowed(canvas, number, shifts or dict.fromkeys(self.matrices, _STILL))
            return
        matrices = self.matrices if shifts is None else {p: s @ self.matrices[p] for p, s in shifts.items()}
        self._draw_part(canvas, number, matrices)

    def draw_silhouette(self, canvas: Canvas, shifts: dict[int, Floats]) -> None:
        """Draw what pieces moved by (3, 3) shifts cover with fill and outlines, in black."""
        if self.plan.windows or self._outlines is None:
            for number, part in enumerate(self.plan.parts):
                if isinstance(part, FillPart | StrokePart):
                    self.draw(canvas, number, shifts)
            return
        pieces = list(shifts)
        paths = [self.paths.silhouette(piece, self._outlines) for piece in pieces]
        matrices = np.stack([*shifts.values()]) @ self.stacked[np.searchsorted(self.seen, pieces)]
        canvas.draw_paths(paths, matrices, _BLACK, self.plan.opacities[pieces])

    @cached_property
    def _outlines(self) -> tuple[Stroke, ...] | None:
        """The outlines that make letters larger, where all that is drawn of them hides what is under it;
        None where something shines through, and what they cover is not the same all over."""
        drawn = [part for part in self.plan.parts if isinstance(part, FillPart | StrokePart)]
        fills = [part for part in drawn if isinstance(part, FillPart)]
        strokes = [part.stroke for part in drawn if isinstance(part, StrokePart)]
        layout = self.plan.layout
        colours = [bgra(colour)[3] for colour in layout.colours]
        mixes = [mixed.colour[3] for part in fills for mixed in part.mixes]
        hides = (
            bool(fills)
            and all(_hides(part.paint) for part in fills)
            and all(stroke.opacity * stroke.colour[3] >= 255 for stroke in strokes)
            and min([*colours, *mixes], default=255) == 255
            and not any(face.in_colour for face in layout.faces)
            and all(np.all(part.shares == 1) for part in drawn)
        )
        return tuple(stroke for stroke in strokes if stroke.side != "inside") if hides else None

    def _draw_windowed(self, canvas: Canvas, number: int, shifts: dict[int, Floats]) -> None:
        """Piece by piece, each within its window."""
        for piece, shift in shifts.items():
            with self.windowed(canvas, piece, shift):
                self._draw_part(canvas, number, {piece: shift @ self.matrices[piece]})

    @contextmanager
    def windowed(self, canvas: Canvas, piece: int, shift: Floats | None = None) -> Iterator[None]:
        """What is drawn meanwhile stays within a piece's window, moved by a shift (3, 3)."""
        polygons = self.plan.windows[piece] if self.plan.windows else ()
        if not polygons:
            yield
            return
        matrix = self.view if shift is None else shift @ self.view
        with canvas.clipped(matrix, inside=[polygon_path(polygon) for polygon in polygons], outside=[]):
            yield

    def _draw_part(self, canvas: Canvas, number: int, matrices: dict[int, Floats]) -> None:
        part = self.plan.parts[number]
        if isinstance(part, FillPart):
            self._draw_fill(canvas, part, matrices)
        elif isinstance(part, StrokePart) and part.stroke.side == "inside":
            self._draw_inside(canvas, part, matrices)
        elif isinstance(part, StrokePart):
            self._draw_around(canvas, number, part, matrices)

    def _draw_fill(self, canvas: Canvas, part: FillPart, matrices: dict[int, Floats]) -> None:
        ink = self._one_ink(part)
        if ink is not None:
            pieces = np.fromiter(matrices, dtype=np.int64, count=len(matrices))
            opacities = self.plan.opacities[pieces] * part.shares[pieces]
            self._draw_alike(canvas, self.paths.fill, matrices, ink, opacities)
            return
        by_letter = part.over == "letter" and not isinstance(part.paint, tuple)
        block = self.plan.layout.block
        for piece, matrix in matrices.items():
            opacity = float(self.plan.opacities[piece] * part.shares[piece])
            if opacity <= 0:
                continue
            for letter in self.paths.letters(piece, by_letter):
                paint = _paint_of(part, letter.colour, piece)
                draw_filled(canvas, letter.path, matrix, paint, letter.box if by_letter else block, opacity)
            for glyph in self.paths.pictures(piece):
                canvas.draw_colour_glyph(
                    glyph.typeface, glyph.number, glyph.size, glyph.place, matrix, opacity
                )

    def _one_ink(self, part: FillPart) -> Ink | None:
        """What all letters are filled with: a colour, or a gradient over the block; None where it differs."""
        if part.mixes or self._has_own_colours:
            return None
        if isinstance(part.paint, Linear | Radial):
            return gradient(part.paint, self.plan.layout.block) if part.over != "letter" else None
        return part.paint if isinstance(part.paint, tuple) else None

    @cached_property
    def _has_own_colours(self) -> bool:
        """Whether any letter may have another colour than its part's."""
        layout = self.plan.layout
        return bool(layout.colours) or any(face.in_colour for face in layout.faces)

    def _draw_alike(
        self,
        canvas: Canvas,
        path_of: Callable[[int], skia.Path],
        matrices: dict[int, Floats],
        ink: Ink,
        opacities: Floats,
    ) -> None:
        """A path of each piece in one go: of thousands, what is done for each is most of the cost."""
        drawn = np.flatnonzero(opacities > 0)
        if len(drawn):
            pieces = list(matrices)
            paths = [path_of(pieces[number]) for number in drawn.tolist()]
            stacked = self.stacked if matrices is self.matrices else np.stack([*matrices.values()])
            canvas.draw_paths(paths, stacked[drawn], ink, opacities[drawn])

    def _draw_around(
        self, canvas: Canvas, number: int, part: StrokePart, matrices: dict[int, Floats]
    ) -> None:
        """An outline outside or on the edge, as the ring that it adds to the outlines above it."""
        pieces = np.fromiter(matrices, dtype=np.int64, count=len(matrices))
        opacities, covered = self._opacities(pieces, part), self._covered(pieces, number)

        def band_of(piece: int) -> skia.Path:
            return self.paths.stroke(piece, part.stroke)

        if covered.all():
            # What comes on top hides the rest of the bands; drawing them whole leaves no seam.
            self._draw_alike(canvas, band_of, matrices, part.stroke.colour, opacities)
            return
        nearer = self._around(number)
        for (piece, matrix), opacity, whole in zip(
            matrices.items(), opacities.tolist(), covered.tolist(), strict=True
        ):
            taken = [] if whole else [self.paths.stroke(piece, other.stroke) for other in nearer]
            fill = [self.paths.fill(piece)] if part.stroke.side == "outside" and not whole else []
            if opacity > 0:
                with canvas.clipped(matrix, inside=[], outside=taken + fill):
                    canvas.draw_path(band_of(piece), matrix, part.stroke.colour, opacity)

    def _draw_inside(self, canvas: Canvas, part: StrokePart, matrices: dict[int, Floats]) -> None:
        pieces = np.fromiter(matrices, dtype=np.int64, count=len(matrices))
        opacities = self._opacities(pieces, part).tolist()
        for (piece, matrix), opacity in zip(matrices.items(), opacities, strict=True):
            if opacity > 0:
                with canvas.clipped(matrix, inside=[self.paths.fill(piece)], outside=[]):
                    canvas.draw_path(
                        self.paths.stroke(piece, part.stroke), matrix, part.stroke.colour, opacity
                    )

    def _opacities(self, pieces: Numbers, part: StrokePart) -> Floats:
        return self.plan.opacities[pieces] * part.shares[pieces] * part.stroke.opacity

    def _covered(self, pieces: Numbers, number: int) -> NDArray[np.bool_]:
        """Of which pieces an opaque fill and opaque outlines lie over all of an outline but its own ring."""
        filled = np.zeros(len(pieces), dtype=np.bool_)
        for part in self.plan.parts[number + 1 :]:
            # Of plain colours alone: over graded ones pictures that are known would change at their edges.
            if isinstance(part, FillPart) and isinstance(part.paint, tuple) and part.paint[3] == 255:
                filled |= self.plan.opacities[pieces] * part.shares[pieces] >= 1
        if filled.any():
            filled &= self._are_opaque(pieces)
        for ring in self._around(number):
            filled &= self._opacities(pieces, ring) * ring.stroke.colour[3] >= 255
        return filled

    def _around(self, number: int) -> list[StrokePart]:
        """The outlines outside or on the edge that lie above a part."""
        above = self.plan.parts[number + 1 :]
        return [p for p in above if isinstance(p, StrokePart) and p.stroke.side != "inside"]

    def _are_opaque(self, pieces: Numbers) -> NDArray[np.bool_]:
        """Whose letters have no colours of their own, nor any mixed in, that let something shine through."""
        opaque = np.ones(len(pieces), dtype=np.bool_)
        for part in self.plan.parts:
            for mixed in part.mixes if isinstance(part, FillPart) else ():
                if mixed.colour[3] < 255:
                    opaque &= mixed.shares[pieces] <= 0
        if self._has_own_colours:
            opaque &= np.array([self._own_colours_hide(piece) for piece in pieces.tolist()])
        return opaque

    def _own_colours_hide(self, piece: int) -> bool:
        colours = [letter.colour for letter in self.paths.letters(piece, False)]
        return not self.paths.pictures(piece) and all(c is None or c[3] == 255 for c in colours)
