"""What of a text layer casts shadows and glows: its letters as they are drawn, and how large."""

from __future__ import annotations

from contextlib import AbstractContextManager
from copy import copy
from math import ceil, cos, log, radians, sin
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from rovix.motion import GlyphsPlan
from rovix.motion.plan import BoxPart, FillPart, GlowPart, GlyphsPart, LongShadowPart, ShadowPart, StrokePart
from rovix.motion.subject import OUTWARD, piece_ink
from rovix.motion.transform import box_corners, mapped
from rovix.paint.canvas import Canvas
from rovix.paint.glyph_paths import piece_paths
from rovix.paint.region import Region

Floats = NDArray[np.float64]
Mask = NDArray[np.uint8]
# Pieces whose scales are this near to each other are blurred together.
_ALIKE = 1.12
SIGMAS = 4  # how far a blur is drawn, beyond which nothing is left of 255


class Drawn(Protocol):
    """Draws the pieces of a plan."""

    def draw(self, canvas: Canvas, number: int) -> None: ...

    def draw_silhouette(self, canvas: Canvas, shifts: dict[int, Floats]) -> None: ...

    def windowed(
        self, canvas: Canvas, piece: int, shift: Floats | None = None
    ) -> AbstractContextManager[None]: ...


class Body:
    """The letters of a plan as one thing that stands in the light.

    `view` (3, 3) takes the frame to the picture. Sizes of shadows and glows go with the scale at
    which each piece is drawn.
    """

    def __init__(self, plan: GlyphsPlan, view: Floats, drawn: Drawn) -> None:
        self.plan, self.view, self.drawn = plan, view, drawn
        ink = piece_ink(plan.layout, plan.of_glyph, len(plan.opacities))
        self.pieces = np.flatnonzero((plan.opacities > 0) & np.isfinite(ink[:, 0]))
        matrices, boxes = view @ plan.matrices[self.pieces], ink[self.pieces]
        self.scales = _scales(matrices, boxes)
        self.reach = max((_reach(part) for part in plan.parts), default=0.0)
        self._placed = mapped(matrices, box_corners(boxes + _AROUND * self.reach))
        self._covered = _boxes_around(self._placed)
        self._masks: dict[tuple[object, ...], Mask] = {}

    @property
    def is_filled(self) -> bool:
        return any(isinstance(part, FillPart) for part in self.plan.parts)

    def alike(self, shares: Floats) -> list[tuple[float, float, list[int]]]:
        """The pieces in groups of about one scale and of one of the shares (n,) of all pieces above 0,
        each with its mean scale and its share."""
        groups: dict[tuple[int, float], list[int]] = {}
        own_shares = shares[self.pieces].tolist()
        for number, (scale, share) in enumerate(zip(self.scales.tolist(), own_shares, strict=True)):
            if scale > 1e-6 and share > 0:
                groups.setdefault((round(log(scale) / log(_ALIKE)), share), []).append(number)
        return [
            (float(self.scales[own].mean()), share, self.pieces[own].tolist())
            for (_, share), own in groups.items()
        ]

    def corners(self) -> Floats:
        """(m, 2): corners in the picture of the boxes of all pieces with their outlines."""
        if not len(self.pieces):
            return np.zeros((0, 2))
        return self._placed.reshape(-1, 2)

    def reaches(self, part: GlyphsPart) -> Floats:
        """(n, 4): left, top, right and bottom in the picture of how far a part of each piece reaches, the
        piece itself within; without end where some of it lies behind the viewer."""
        if isinstance(part, LongShadowPart):
            way = np.array([cos(radians(part.angle)), sin(radians(part.angle))]) * FAR
            return self._covered + _either_way(way)
        if isinstance(part, GlowPart):
            return self._covered + (SIGMAS * part.size * _AROUND) * self.scales[:, None]
        if isinstance(part, ShadowPart):
            soft = (SIGMAS * part.blur + max(0.0, part.spread)) * _AROUND
            return self._covered + (soft + _either_way(np.array([part.x, part.y]))) * self.scales[:, None]
        return self._covered

    def touched(self) -> Floats:
        """(n, 4): how far all parts of each piece together reach; boxes behind the words belong to none."""
        reached = np.stack([self._covered, *(self.reaches(part) for part in self.plan.parts)])
        return np.concatenate([reached[..., :2].min(axis=0), reached[..., 2:].max(axis=0)], axis=-1)

    def cast(self, part: ShadowPart | GlowPart, pieces: list[int]) -> Floats:
        """(m, 4): how far the shadow or glow of some pieces alone reaches."""
        return self.reaches(part)[np.searchsorted(self.pieces, pieces)]

    def only(self, chosen: NDArray[np.bool_], plan: GlyphsPlan, drawn: Drawn) -> Body:
        """The same with some of its pieces (n,) alone, as a plan has them and something draws them."""
        part = copy(self)
        part.plan, part.drawn, part._masks = plan, drawn, {}
        part.pieces, part.scales = self.pieces[chosen], self.scales[chosen]
        part._placed, part._covered = self._placed[chosen], self._covered[chosen]
        return part

    def mask(
        self,
        region: Region,
        pieces: list[int],
        shift: tuple[float, float] = (0.0, 0.0),
        spread: float = 0.0,
        factor: int = 1,
    ) -> Mask:
        """(height, width): how much the letters cover each px of a region, which may lie off the
        picture, moved and grown by px that go with each piece's scale. With a `factor` the region's px
        are so many times as large as the picture's."""
        key = (region, tuple(pieces), shift, spread, factor)
        if key not in self._masks:
            canvas = Canvas(region.width, region.height, region.left, region.top)
            shifts = dict(zip(pieces, self._shifts(pieces, shift, factor), strict=True))
            if spread:
                self._draw_grown(canvas, shifts, spread)
            else:
                self.drawn.draw_silhouette(canvas, shifts)
            self._masks[key] = np.ascontiguousarray(canvas.pixels[..., 3])
        return self._masks[key]

    def _draw_grown(self, canvas: Canvas, shifts: dict[int, Floats], spread: float) -> None:
        """The letters with their edge, or the outermost outline's, moved out by px or in."""
        paths = piece_paths(self.plan.layout, self.plan.of_glyph)
        for piece, shift in shifts.items():
            matrix = shift @ self.view @ self.plan.matrices[piece]
            opacity = float(self.plan.opacities[piece]) * self._strength(piece)
            with self.drawn.windowed(canvas, piece, shift):
                canvas.draw_grown(paths.fill(piece), matrix, self.reach + spread, self.is_filled, opacity)

    def _strength(self, piece: int) -> float:
        """How strongly a piece is drawn at most, by its fills and outlines."""
        drawn = (part for part in self.plan.parts if isinstance(part, FillPart | StrokePart))
        return max((float(part.shares[piece]) for part in drawn), default=0.0)

    def _shifts(self, pieces: list[int], shift: tuple[float, float], factor: int) -> Floats:
        """(n, 3, 3): moves pieces by px that go with their scales, then makes all so many times as small."""
        shifts = np.zeros((len(pieces), 3, 3))
        shifts[:, (0, 1), (0, 1)], shifts[:, 2, 2] = 1 / factor, 1.0
        scales = self.scales[np.searchsorted(self.pieces, pieces)]
        shifts[:, :2, 2] = scales[:, None] * (shift[0] / factor, shift[1] / factor)
        return shifts


FAR = 1e5
"""px that count as without end."""
_AROUND = np.array([-1.0, -1.0, 1.0, 1.0])


def _either_way(way: Floats) -> Floats:
    """(4,): how a box grows at its left, top, right and bottom when all that it holds casts one way too."""
    return np.concatenate([np.minimum(way, 0), np.maximum(way, 0)])


def _scales(matrices: Floats, boxes: Floats) -> Floats:
    """(n,): the root of how many times larger a piece's area is drawn at the middle of its box (n, 4)."""
    middles = (boxes[:, :2] + boxes[:, 2:]) / 2
    ways = np.array([[0.0, 0.0], [1.0, 0.0], [0.0, 1.0]])
    near = mapped(matrices, middles[:, None, :] + ways)
    across, down = near[:, 1] - near[:, 0], near[:, 2] - near[:, 0]
    area = np.abs(across[:, 0] * down[:, 1] - across[:, 1] * down[:, 0])
    return np.sqrt(np.where(np.isfinite(area), area, 0.0))


def _boxes_around(corners: Floats) -> Floats:
    """(n, 4): what corners (n, 4, 2) lie in; without end where one is not finite."""
    boxes = np.concatenate([corners.min(axis=1), corners.max(axis=1)], axis=-1)
    return np.where(np.isfinite(boxes).all(axis=1, keepdims=True), boxes, _AROUND * np.inf)


def _reach(part: GlyphsPart) -> float:
    if not isinstance(part, StrokePart):
        return 0.0
    # A miter's point goes farther than its line is wide.
    return OUTWARD[part.stroke.side] * part.stroke.width * (2 if part.stroke.join == "miter" else 1)


def box_points(part: BoxPart, view: Floats) -> Floats:
    """(m, 2): corners in the picture of the boxes that are to be seen."""
    return mapped(view @ part.matrices, box_corners(part.boxes))[part.opacities > 0].reshape(-1, 2)


def grown(region: Region, margin: float) -> Region:
    """A region with px around it."""
    more = ceil(margin)
    return Region(region.left - more, region.top - more, region.right + more, region.bottom + more)
