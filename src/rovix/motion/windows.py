"""What wipes and openings of moves leave of pieces to be seen."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from rovix.motion.wipes import opening_polygon, wipe_polygons

Floats = NDArray[np.float64]
Array = TypeVar("Array", Floats, NDArray[np.bool_])


def times_of(values: Array, part: slice) -> Array:
    """An array (t, ...) at some of its times, not copied; one (1, ...) is the same at all of them."""
    return values[part] if len(values) > 1 else values


@dataclass(frozen=True, slots=True, eq=False)
class WipeWindow:
    """A straight wipe of each piece, which goes where the piece goes.

    `shares` (t, n), 1 all of it; `boxes` (n, 4) in the layer's px are what it runs over.
    """

    shares: Floats
    angle: float
    boxes: Floats

    def part(self, part: slice) -> WipeWindow:
        """At some of the moments alone."""
        return WipeWindow(times_of(self.shares, part), self.angle, self.boxes)

    def polygon(self, moment: int, piece: int) -> Floats | None:
        """(4, 2) in the layer's px before the piece moves; None where all of it is to be seen."""
        share = float(self.shares[moment, piece])
        left, top, right, bottom = self.boxes[piece].tolist()
        return (
            None
            if share >= 1
            else wipe_polygons("straight", (left, top, right, bottom), self.angle, share)[0]
        )


@dataclass(frozen=True, slots=True, eq=False)
class OpeningWindow:
    """Edges that stay where the layer rests while the pieces move within.

    `edges` by side (left, top, right, bottom) are px (t, n) in from that side of the `boxes`, None
    without an edge there; they count where pieces are `moving` (t, n).
    """

    edges: tuple[Floats | None, Floats | None, Floats | None, Floats | None]
    moving: NDArray[np.bool_]
    boxes: Floats

    def part(self, part: slice) -> OpeningWindow:
        """At some of the moments alone."""
        left, top, right, bottom = (None if e is None else times_of(e, part) for e in self.edges)
        return OpeningWindow((left, top, right, bottom), times_of(self.moving, part), self.boxes)

    def polygon(self, moment: int, piece: int) -> Floats | None:
        """(k, 2) in the layer's px at rest, none of them where it is shut; None without an edge."""
        if not self.moving[moment, piece]:
            return None
        left, top, right, bottom = self.boxes[piece].tolist()
        sides = [None if edge is None else float(edge[moment, piece]) for edge in self.edges]
        return opening_polygon((left, top, right, bottom), sides)


Window = WipeWindow | OpeningWindow
