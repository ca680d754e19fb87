"""A closed line drawn and edited in the picture."""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QLineF, QPointF, QRectF, Qt
from PySide6.QtGui import QKeyEvent, QPainter, QPen, QPolygonF

from rovix.desktop.document import Document
from rovix.desktop.theme import colour
from rovix.desktop.viewer.geometry import GRAB, View, polygon_of
from rovix.desktop.viewer.hand import Hand, Modifiers
from rovix.desktop.viewer.lined import Lined
from rovix.edit.contours import (
    LEAST,
    Point,
    add_to_line,
    cornered,
    is_smooth,
    moved,
    pulled,
    set_line,
    smoothed,
    take_from_line,
)
from rovix.model import Project
from rovix.model.contour import Contour
from rovix.motion.contours import flattened
from rovix.motion.transform import mapped, seen_part

Floats = NDArray[np.float64]
_Found = tuple[Contour | None, Floats | None]
_MANY = 60  # points from which they are shown small
_FINE = 4.0  # px of the viewer from corner to corner of the line as it is shown
_PENS = ((3.4, "ground", 0.7), (1.5, "text", 1.0))
_PLAIN = ((1.0, "text", 1.0),)
_SHIFT, _ALT = Modifiers.ShiftModifier, Modifiers.AltModifier
_ARROWS = {
    Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1),
}  # fmt: skip
_DRAWING = "Click points; drag for a curve. Enter, a double-click or the first point closes the line."
_EDITING = "Drag points or the inside. Double-click: one more, or a point rounder. Del removes. Enter ends."


@dataclass
class _Drag:
    """From a press to its release: of points, of one's handle `side`, or of a point just set down."""

    kind: str
    number: int
    side: str
    start: tuple[float, float]
    line: Contour
    moved: bool = False
    line_now: Contour | None = None


@dataclass(frozen=True, slots=True)
class _Known:
    """The line and where it lies, in one state of the project on one frame of the sequence."""

    project: Project
    frame: int
    found: _Found


class LineHand(Hand):
    """Draws a line that is taken when it is closed (`fresh`), or edits the one that there is."""

    def __init__(self, document: Document, clip: str, lined: Lined, fresh: bool = False) -> None:
        self._document, self._clip, self.lined = document, clip, lined
        self._new: list[Point] | None = [] if fresh else None
        self._chosen: set[int] = set()
        self._drag: _Drag | None = None
        self._over: tuple[float, float] | None = None
        self._known: _Known | None = None

    @property
    def hint(self) -> str:
        return _DRAWING if self._new is not None else _EDITING

    # What it is about

    @property
    def _frame(self) -> int:
        return self._document.clip_frame

    @property
    def line(self) -> Contour:
        """The points as they are at the playhead; those set down so far of a new one."""
        if self._new is not None:
            return tuple(self._new)
        return self._now()[0] or ()

    def _now(self) -> _Found:
        """The line and where it lies, found once for each state of the project and each frame."""
        project, frame, drag, known = (
            self._document.picture_project, self._document.playhead, self._drag, self._known
        )  # fmt: skip
        if known is None or known.project is not project or known.frame != frame:
            if known is not None and drag is not None and drag.line_now is not None:
                # While points are dragged the line is what the hand makes it, where its layer is.
                found: _Found = drag.line_now, known.found[1]
            else:
                found = self.lined.line(), self.lined.place()
            self._known = known = _Known(project, frame, found)
        return known.found

    def is_over(self) -> bool:
        return self._now()[0] is None

    def _place(self) -> Floats | None:
        return self._now()[1]

    def _to_line(self, view: View, point: QPointF) -> tuple[float, float] | None:
        place = self._place()
        if place is None or abs(np.linalg.det(place)) < 1e-12:
            return None
        found = mapped(
            np.asarray(np.linalg.inv(place), dtype=np.float64),
            np.array([view.to_frame(point)], dtype=np.float64),
        )[0]
        return (float(found[0]), float(found[1])) if np.isfinite(found).all() else None

    def _to_view(self, view: View, points: NDArray[Any]) -> list[QPointF]:
        """Points (n, 2) of the line in the viewer; far away where they are behind it."""
        place = self._place()
        if place is None or not len(points):
            return []
        found = np.nan_to_num(mapped(place, np.asarray(points, dtype=np.float64)), nan=-1e6)
        return [QPointF(x, y) for x, y in (found * view.scale + (view.left, view.top)).tolist()]

    # The mouse

    def press(self, view: View, point: QPointF, modifiers: Modifiers) -> None:
        spot = self._to_line(view, point)
        if spot is None or self._document.is_locked:
            if self._document.is_locked:
                self._document.problem.emit("The layer's track is locked; unlock it first.")
            return
        if self._new is not None:
            self._set_down(view, point, spot)
            return
        side = self._handle_under(view, point)
        number = self._point_under(view, point)
        if side is not None:
            self._drag = _Drag("handle", side[0], side[1], spot, self.line)
        elif number is not None:
            self._choose(number, bool(modifiers & _SHIFT))
            self._drag = _Drag("points", number, "", spot, self.line)
        elif self._is_inside(view, point):
            if not modifiers & _SHIFT:
                self._chosen = set()
            self._drag = _Drag("all", -1, "", spot, self.line)
        else:
            self._chosen = set()

    def _choose(self, number: int, more: bool) -> None:
        if more:
            self._chosen ^= {number}
        elif number not in self._chosen:
            self._chosen = {number}

    def _set_down(self, view: View, point: QPointF, spot: tuple[float, float]) -> None:
        assert self._new is not None
        if len(self._new) > LEAST and self._point_under(view, point) == 0:
            self._close()
            return
        self._new.append((round(spot[0], 4), round(spot[1], 4), 0.0, 0.0, 0.0, 0.0))
        self._drag = _Drag("new", len(self._new) - 1, "after", spot, ())

    def move(self, view: View, point: QPointF, modifiers: Modifiers, held: bool) -> None:
        spot = self._to_line(view, point)
        self._over = spot
        drag = self._drag
        if not held or drag is None or spot is None:
            return
        if not drag.moved and hypot(spot[0] - drag.start[0], spot[1] - drag.start[1]) * view.scale < 3:
            return
        drag.moved = True
        if drag.kind == "new":
            self._pull_new(drag, spot)
            return
        line = self._dragged(drag, spot, modifiers)
        drag.line_now = line
        self._document.try_on(self._setting(line))

    def _pull_new(self, drag: _Drag, spot: tuple[float, float]) -> None:
        assert self._new is not None
        x, y = self._new[drag.number][:2]
        dx, dy = round(spot[0] - x, 4), round(spot[1] - y, 4)
        self._new[drag.number] = (x, y, -dx, -dy, dx, dy)

    def _dragged(self, drag: _Drag, spot: tuple[float, float], modifiers: Modifiers) -> Contour:
        dx, dy = spot[0] - drag.start[0], spot[1] - drag.start[1]
        if drag.kind == "handle":
            x, y = drag.line[drag.number][:2]
            way = (spot[0] - x, spot[1] - y)
            return pulled(drag.line, drag.number, drag.side, way, bool(modifiers & _ALT))
        if modifiers & _SHIFT:
            dx, dy = (dx, 0.0) if abs(dx) >= abs(dy) else (0.0, dy)
        numbers = self._chosen if drag.kind == "points" else range(len(drag.line))
        return moved(drag.line, numbers, dx, dy)

    def release(self, view: View, point: QPointF, modifiers: Modifiers) -> None:
        drag, self._drag = self._drag, None
        if drag is not None and drag.moved and drag.kind != "new":
            said = {"handle": f"Bend {self.lined.said}'s line", "all": f"Move {self.lined.said}'s line"}
            self._document.keep(said.get(drag.kind, f"Move points of {self.lined.said}'s line"))

    def double(self, view: View, point: QPointF, modifiers: Modifiers) -> None:
        if self._new is not None:
            # The first click of the two has set a point down; the second has none of its own.
            self._close()
            return
        if self._document.is_locked:
            return
        number = self._point_under(view, point)
        if number is not None:
            change = cornered if is_smooth(self.line[number]) else smoothed
            self._document.do(
                f"Round a point of {self.lined.said}'s line", self._setting(change(self.line, number))
            )
            return
        found = self._nearest(view, point)
        if found is not None:
            at, share = found
            clip, address = self._clip, self.lined.address
            self._document.do(
                f"Add a point to {self.lined.said}'s line", lambda p: add_to_line(p, clip, address, at, share)
            )
            self._chosen = {at + 1}

    def _close(self) -> None:
        """Make what is drawn the mask's line."""
        line = tuple(self._new or ())
        if len(line) < 3 and not (len(line) == LEAST and any(any(point[2:]) for point in line)):
            self._document.problem.emit("A line needs three points, or two with a curve between them.")
            return
        self._drag, self._chosen = None, set()
        if self._document.do(f"Draw {self.lined.said}", self.lined.drawn(line)):
            self._new = None

    # The keys

    def key(self, event: QKeyEvent) -> bool:
        key = event.key()
        if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            if self._new is None:
                return False
            self._close()
            return True
        if key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self._remove()
            return True
        if key == Qt.Key.Key_A and event.modifiers() & Modifiers.ControlModifier and self._new is None:
            self._chosen = set(range(len(self.line)))
            return True
        if key in _ARROWS and self._chosen and event.modifiers() & _ALT:
            step = 10 if event.modifiers() & _SHIFT else 1
            dx, dy = _ARROWS[Qt.Key(key)]
            line = moved(self.line, self._chosen, dx * step, dy * step)
            self._document.do(f"Move points of {self.lined.said}'s line", self._setting(line))
            return True
        return False

    def owns(self, event: QKeyEvent) -> bool:
        alone = event.key() in _ARROWS and bool(self._chosen) and bool(event.modifiers() & _ALT)
        every = event.key() == Qt.Key.Key_A and event.modifiers() == Modifiers.ControlModifier
        return super().owns(event) or alone or every

    def _remove(self) -> None:
        if self._new is not None:
            if self._new:
                self._new.pop()
        elif self._chosen:
            gone, clip, address = tuple(self._chosen), self._clip, self.lined.address
            if self._document.do(
                f"Remove points of {self.lined.said}'s line", lambda p: take_from_line(p, clip, address, gone)
            ):
                self._chosen = set()

    def escape(self) -> bool:
        if self._drag is not None and self._drag.kind != "new":
            self._drag = None
            self._document.drop()
            return True
        if self._new:
            self._new, self._drag = [], None
            return True
        return False

    def _setting(self, line: Contour):  # type: ignore[no-untyped-def]
        clip, address, frame = self._clip, self.lined.address, self._frame
        return lambda project: set_line(project, clip, address, frame, line)

    # What is under the mouse

    def _point_under(self, view: View, point: QPointF) -> int | None:
        spots = self._to_view(view, np.array([p[:2] for p in self.line]).reshape(-1, 2))
        near = [(_way(spot, point), number) for number, spot in enumerate(spots)]
        distance, number = min(near, default=(GRAB + 1, 0))
        return number if distance <= GRAB else None

    def _handles(self) -> list[tuple[int, str, Floats]]:
        """The handles of chosen points: number, side, and end (2,)."""
        found = []
        for number in sorted(self._chosen):
            if number < len(self.line):
                x, y, *ways = self.line[number]
                for side, at in (("before", 0), ("after", 2)):
                    if any(ways[at : at + 2]):
                        found.append((number, side, np.array([x + ways[at], y + ways[at + 1]])))
        return found

    def _handle_under(self, view: View, point: QPointF) -> tuple[int, str] | None:
        handles = self._handles()
        ends = self._to_view(view, np.array([end for _, _, end in handles]).reshape(-1, 2))
        near = [(_way(end, point), n) for n, end in enumerate(ends)]
        distance, which = min(near, default=(GRAB + 1, 0))
        return handles[which][:2] if distance <= GRAB else None

    def _nearest(self, view: View, point: QPointF) -> tuple[int, float] | None:
        """The piece of the line under the mouse and the share of it; None where there is none."""
        line = self.line
        best: tuple[float, int, float] = (GRAB + 1, 0, 0.0)
        shares = np.linspace(0.0, 1.0, 65)
        for number in range(len(line)):
            spots = self._to_view(view, _along(line, number, shares))
            near = [(_way(spot, point), n) for n, spot in enumerate(spots)]
            distance, which = min(near, default=(GRAB + 1, 0))
            if distance < best[0]:
                best = distance, number, float(shares[which])
        return (best[1], min(max(best[2], 0.02), 0.98)) if best[0] <= GRAB else None

    def _is_inside(self, view: View, point: QPointF) -> bool:
        return self._polygon(view).containsPoint(point, Qt.FillRule.WindingFill)

    def _polygon(self, view: View) -> QPolygonF:
        """The closed line in the viewer, cut where it comes close to it."""
        place, line = self._place(), self.line
        if place is None or len(line) < LEAST:
            return QPolygonF()
        fine, least = (2 * _FINE, 1) if self._is_hurried(line) else (_FINE, 2)
        spots = seen_part(place, flattened(line, fine / view.scale, least))
        return polygon_of(spots * view.scale + (view.left, view.top))

    # What is seen

    def _is_hurried(self, line: Contour) -> bool:
        """Whether a long line is dragged: what it looks like then may be plainer for a while."""
        return self._drag is not None and self._drag.moved and len(line) > _MANY

    def paint(self, painter: QPainter, view: View) -> None:
        painter.setBrush(Qt.BrushStyle.NoBrush)
        polygon = self._polygon(view) if self._new is None else QPolygonF()
        hurried = self._is_hurried(self.line)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, not hurried)
        for width, role, share in _PLAIN if hurried else _PENS:
            painter.setPen(QPen(colour(role, share), width))
            if self._new is None:
                painter.drawPolygon(polygon)
            else:
                self._paint_open(painter, view)
        for number, _, end in self._handles():
            ends = self._to_view(view, np.array([self.line[number][:2], end]))
            if len(ends) == 2:
                painter.setPen(QPen(colour("accent"), 1.2))
                painter.drawLine(QLineF(*ends))
                painter.setBrush(colour("panel"))
                painter.drawRect(QRectF(ends[1].x() - 3.5, ends[1].y() - 3.5, 7, 7))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._paint_points(painter, view)

    def _paint_open(self, painter: QPainter, view: View) -> None:
        """What is drawn so far, and dashed on to the mouse."""
        line = self.line
        shares = np.linspace(0.0, 1.0, 25)
        for number in range(len(line) - 1):
            painter.drawPolyline(QPolygonF(self._to_view(view, _along(line, number, shares))))
        if self._over is not None and line:
            ends = self._to_view(view, np.array([line[-1][:2], self._over]))
            pen = QPen(painter.pen())
            painter.setPen(QPen(pen.color(), pen.widthF(), Qt.PenStyle.DashLine))
            painter.drawLine(QLineF(*ends))
            painter.setPen(pen)

    def _paint_points(self, painter: QPainter, view: View) -> None:
        """Squares for corners, rounds for smooth points; all of a kind in one go, and hundreds of them small
        and plain."""
        line = self.line
        kinds: dict[tuple[bool, bool], list[QPointF]] = {}
        many = len(line) > _MANY
        shown = sorted(self._chosen) if self._is_hurried(line) else range(len(line))
        places = np.array([line[number][:2] for number in shown]).reshape(-1, 2)
        for number, spot in zip(shown, self._to_view(view, places), strict=True):
            # Of hundreds of small ones nobody sees which are round.
            kinds.setdefault((number in self._chosen, many or is_smooth(line[number])), []).append(spot)
        for (chosen, smooth), spots in kinds.items():
            face = "accent" if chosen else "text"
            for wide, role in ((6.0, face),) if many else ((10.5, "ground"), (8.5, face)):
                pen = QPen(colour(role), wide - (0 if smooth else 1))
                pen.setCapStyle(Qt.PenCapStyle.RoundCap if smooth else Qt.PenCapStyle.SquareCap)
                painter.setPen(pen)
                painter.drawPoints(QPolygonF(spots))


def _along(line: Contour, number: int, shares: Floats) -> Floats:
    """(n, 2): points at shares of the piece after a point."""
    here, there = np.array(line[number]), np.array(line[(number + 1) % len(line)])
    a, b, c, d = here[:2], here[:2] + here[4:], there[:2] + there[2:4], there[:2]
    t = shares[:, None]
    back = 1 - t
    if not here[4:].any() and not there[2:4].any():
        return a + t * (d - a)
    return back**3 * a + 3 * back * back * t * b + 3 * back * t * t * c + t**3 * d


def _way(one: QPointF, other: QPointF) -> float:
    return hypot(one.x() - other.x(), one.y() - other.y())
