"""From px of the frame to px of the viewer and back; what a pointer grabs."""

from __future__ import annotations

from dataclasses import dataclass
from math import atan2, degrees, hypot
from struct import pack

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QByteArray, QDataStream, QPointF, QRectF
from PySide6.QtGui import QPolygonF

from rovix.motion.quads import LayerQuads

MARGIN = 12  # px of apron round the picture at least
GRAB = 9.0
STALK = 26.0
APART = 40.0
"""px of the viewer that corner handles are apart at least."""


@dataclass(frozen=True, slots=True)
class View:
    """The frame of `size` px drawn at `scale` with its top left corner at (left, top)."""

    size: tuple[int, int]
    scale: float
    left: float
    top: float

    def to_view(self, x: float, y: float) -> QPointF:
        return QPointF(self.left + x * self.scale, self.top + y * self.scale)

    def to_frame(self, point: QPointF) -> tuple[float, float]:
        return (point.x() - self.left) / self.scale, (point.y() - self.top) / self.scale

    @property
    def frame(self) -> QRectF:
        return QRectF(self.left, self.top, self.size[0] * self.scale, self.size[1] * self.scale)


def polygon_of(points: NDArray[np.float64]) -> QPolygonF:
    """Points (n, 2) as Qt has them, all at once: one by one, hundreds take a millisecond."""
    packed = pack(">I", len(points)) + np.asarray(points, dtype=">f8").tobytes()
    made = QPolygonF()
    QDataStream(QByteArray(packed)) >> made
    return made


def fitted_view(size: tuple[int, int], width: int, height: int) -> View:
    """The whole frame in the middle of a viewer, with some apron around it."""
    scale = max(0.02, min((width - 2 * MARGIN) / size[0], (height - 2 * MARGIN) / size[1]))
    return View(size, scale, (width - size[0] * scale) / 2, (height - size[1] * scale) / 2)


@dataclass(frozen=True, slots=True)
class Grab:
    """What is grabbed: `kind` is move, scale, turn, tip, swing, pivot or guide."""

    kind: str
    corner: int = -1
    guide: str = ""


# The side of the box that each handle stands beyond, by its corners.
_STALKS = {"rotation_z": (0, 1), "rotation_y": (1, 2), "rotation_x": (2, 3)}


def stalk_handles(view: View, quads: LayerQuads) -> dict[str, tuple[QPointF, QPointF]]:
    """For turn, tip and swing the middle of a side, and the handle that stands beyond it.

    None where the box lies behind the viewer.
    """
    if not np.all(np.isfinite(quads.rest)):
        return {}
    corners = handle_corners(view, quads)
    middle = (corners[0] + corners[1] + corners[2] + corners[3]) / 4
    found = {}
    for kind, (first, second) in _STALKS.items():
        foot = (corners[first] + corners[second]) / 2
        way = foot - middle
        length = hypot(way.x(), way.y())
        found[kind] = (foot, foot + way * (STALK / length) if length > 1 else foot - QPointF(0, STALK))
    return found


def handle_corners(view: View, quads: LayerQuads) -> list[QPointF]:
    """Where a layer's corner handles are: at its corners, or so far beyond them that small words stay in view
    and leave room to be taken between their handles."""
    corners = [view.to_view(*corner) for corner in quads.rest.tolist()]
    out = [QPointF(corner) for corner in corners]
    for first, second, third, fourth in ((0, 1, 3, 2), (0, 3, 1, 2)):
        way = (corners[second] - corners[first] + corners[fourth] - corners[third]) / 2
        length = hypot(way.x(), way.y())
        if length >= APART:
            continue
        upright = QPointF(1, 0) if (first, second) == (0, 1) else QPointF(0, 1)
        by = (way / length if length > 1 else upright) * ((APART - length) / 2)
        for number in (first, third):
            out[number] -= by
        for number in (second, fourth):
            out[number] += by
    return out


def grab_at(view: View, quads: LayerQuads, point: QPointF, pivots: bool = False) -> Grab | None:
    """What of a selected layer lies under a point of the viewer; its pivot only if `pivots`."""
    handles = stalk_handles(view, quads)
    if not handles:
        return None
    if pivots and _near(view.to_view(*quads.pivot.tolist()), point):
        return Grab("pivot")
    for kind, (_, handle) in handles.items():
        if _near(handle, point):
            return Grab(kind)
    for number, corner in enumerate(handle_corners(view, quads)):
        if _near(corner, point):
            return Grab("scale", number)
    return None


def _near(one: QPointF, other: QPointF) -> bool:
    return hypot(one.x() - other.x(), one.y() - other.y()) <= GRAB


def turned_by(pivot: QPointF, start: QPointF, now: QPointF) -> float:
    """Degrees clockwise that the pointer went round a pivot, within half a turn."""
    before, after = start - pivot, now - pivot
    angle = degrees(atan2(after.y(), after.x()) - atan2(before.y(), before.x()))
    return (angle + 180) % 360 - 180


def scaled_by(pivot: QPointF, start: QPointF, now: QPointF) -> float:
    """How many times farther from a pivot the pointer is now."""
    before, after = start - pivot, now - pivot
    return hypot(after.x(), after.y()) / max(4.0, hypot(before.x(), before.y()))
