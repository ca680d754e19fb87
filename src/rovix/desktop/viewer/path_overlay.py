"""The motion path over the picture: a dot a frame, keys that can be dragged, tangents of a path."""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QPolygonF

from rovix.desktop.document import Document, Edit
from rovix.desktop.theme import colour
from rovix.desktop.viewer.geometry import GRAB, View
from rovix.edit.arrange import frame_to_place, move_in_frame
from rovix.edit.paths import ADDRESS, drag_way
from rovix.edit.tangents import SIDES
from rovix.edit.tree import clip_of
from rovix.model import PathKey, PictureClip, Project
from rovix.model.clip_kinds import is_layer
from rovix.motion import Scene
from rovix.motion.motion_path import motion_path, path_frames

_DOTS = 900  # frames beyond which a path is only a line
_END = 44.0  # px on screen of a tangent that is not there yet, to take hold of


@dataclass(frozen=True, slots=True)
class PathGrab:
    """A key of the path, or the end of one of its tangents (side before or after)."""

    frame: int
    side: str = ""


class PathPicture:
    """The path of the selected layer, kept until the project or the layer changes."""

    def __init__(self, document: Document) -> None:
        self._document = document
        self._kept: tuple[Project, str, np.ndarray] | None = None

    @property
    def layer(self) -> PictureClip | None:
        clip = self._document.clip
        return clip if is_layer(clip) else None

    def points(self) -> np.ndarray:
        """(t, 2): px of the frame, for each frame of the layer."""
        project, clip = self._document.picture_project, self.layer
        assert clip is not None
        if self._kept is None or self._kept[0] is not project or self._kept[1] != clip.id:
            self._kept = (project, clip.id, motion_path(Scene.of(project), clip))
        return self._kept[2]

    def moves(self) -> bool:
        """Whether the layer goes anywhere."""
        points = self.points()
        known = points[np.isfinite(points).all(axis=1)]
        return bool(len(known)) and float(np.ptp(known, axis=0).max()) > 0.5

    def paint(self, painter: QPainter, view: View) -> None:
        clip = self.layer
        if clip is None or not (self.moves() or clip.transform.path is not None):
            return
        points = self.points()
        shown = [view.to_view(*point) for point in points[np.isfinite(points).all(axis=1)].tolist()]
        painter.setPen(QPen(colour("accent", 0.7), 1.2))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolyline(QPolygonF(shown))
        if len(shown) <= _DOTS:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(colour("text"))
            for point in shown:
                painter.drawEllipse(point, 1.7, 1.7)
        self._paint_keys(painter, view, clip)

    def _paint_keys(self, painter: QPainter, view: View, clip: PictureClip) -> None:
        points, chosen = self.points(), self._document.keys.of(clip.id).get(ADDRESS, ())
        for frame, side, end in self._tangents(view, clip):
            start = view.to_view(*points[min(max(frame, 0), len(points) - 1)].tolist())
            faint = getattr(self._key(clip, frame), side) is None
            painter.setPen(QPen(colour("accent", 0.45 if faint else 1.0), 1.1))
            painter.drawLine(start, end)
            painter.setBrush(colour("panel"))
            painter.drawRect(QRectF(end.x() - 3.5, end.y() - 3.5, 7, 7))
        for frame in path_frames(clip):
            if 0 <= frame < len(points) and np.isfinite(points[frame]).all():
                painter.setPen(QPen(colour("accent"), 1.8))
                painter.setBrush(colour("accent" if frame in chosen else "panel"))
                painter.drawEllipse(view.to_view(*points[frame].tolist()), 5.0, 5.0)

    def _key(self, clip: PictureClip, frame: int) -> PathKey:
        assert clip.transform.path is not None
        return next(key for key in clip.transform.path.keys if key.frame == frame)

    def _tangents(self, view: View, clip: PictureClip) -> list[tuple[int, str, QPointF]]:
        """The ends of the tangents of selected points; a point without has short ones to pull."""
        if clip.transform.path is None:
            return []
        chosen, keys = self._document.keys.of(clip.id).get(ADDRESS, ()), clip.transform.path.keys
        found = []
        for number, key in enumerate(keys):
            ends = [s for s, n in zip(SIDES, (number - 1, number + 1), strict=True) if 0 <= n < len(keys)]
            for side in ends if key.frame in chosen else ():
                found.append((key.frame, side, self._end(view, clip, key, side)))
        return found

    def _end(self, view: View, clip: PictureClip, key: PathKey, side: str) -> QPointF:
        points = self.points()
        at = min(max(key.frame, 0), len(points) - 1)
        start = view.to_view(*points[at].tolist())
        way = getattr(key, side)
        if way is not None:
            return start + self._on_screen(view, clip, key.frame, way)
        near = points[min(max(at + (1 if side == "after" else -1), 0), len(points) - 1)]
        ahead = view.to_view(*near.tolist()) - start
        size = hypot(ahead.x(), ahead.y())
        return start + (ahead * (_END / size) if size > 0.1 else QPointF(_END, 0))

    def _on_screen(self, view: View, clip: PictureClip, frame: int, way: tuple[float, float]) -> QPointF:
        """A way in the layer's px as one of the viewer."""
        project, at = self._document.project, clip.start + frame
        across = frame_to_place(project, clip, at, 1.0, 0.0)
        down = frame_to_place(project, clip, at, 0.0, 1.0)
        matrix = np.array([across, down]).T
        x, y = np.linalg.solve(matrix, np.array(way)).tolist()
        return QPointF(x, y) * view.scale

    def grab(self, view: View, point: QPointF) -> PathGrab | None:
        """The key or tangent under a point of the viewer."""
        clip = self.layer
        if clip is None:
            return None
        points = self.points()
        for frame, side, end in self._tangents(view, clip):
            if _near(end, point):
                return PathGrab(frame, side)
        for frame in path_frames(clip):
            seen = 0 <= frame < len(points) and np.isfinite(points[frame]).all()
            if seen and _near(view.to_view(*points[frame].tolist()), point):
                return PathGrab(frame)
        return None

    def nearest_frame(self, view: View, point: QPointF) -> int | None:
        """The frame whose dot is under a point of the viewer."""
        ways = [hypot(*(p - np.array(view.to_frame(point))).tolist()) for p in self.points()]
        best = int(np.argmin(ways))
        return best if ways[best] * view.scale <= GRAB else None

    def begin(self, view: View, grab: PathGrab, start: QPointF) -> PathDrag:
        clip = self.layer
        assert clip is not None
        way = (0.0, 0.0)
        if grab.side:
            end = self._end(view, clip, self._key(clip, grab.frame), grab.side)
            origin = view.to_view(*self.points()[min(max(grab.frame, 0), clip.length - 1)].tolist())
            way = ((end - origin).x() / view.scale, (end - origin).y() / view.scale)
        return PathDrag(clip, view, grab, start, way)


@dataclass
class PathDrag:
    """From a press on the path to its release; `way` is the tangent's in px of the frame at the press."""

    clip: PictureClip
    view: View
    grab: PathGrab
    start: QPointF
    way: tuple[float, float]
    moved: bool = False

    @property
    def title(self) -> str:
        return "Bend the path" if self.grab.side else "Move a point of the path"

    def edit(self, point: QPointF, modifiers: Qt.KeyboardModifier) -> Edit:
        """The edit of a drag up to a point. Shift keeps to one axis; Alt breaks a tangent off."""
        way = (point - self.start) / self.view.scale
        dx, dy = way.x(), way.y()
        if modifiers & Qt.KeyboardModifier.ShiftModifier and not self.grab.side:
            dx, dy = (dx, 0.0) if abs(dx) >= abs(dy) else (0.0, dy)
        at = self.clip.start + self.grab.frame
        if not self.grab.side:
            return lambda project: move_in_frame(project, self.clip.id, at, dx, dy)
        apart = bool(modifiers & Qt.KeyboardModifier.AltModifier)
        wished = self.way[0] + dx, self.way[1] + dy

        def pull(project: Project) -> Project:
            clip = clip_of(project, self.clip.id)
            assert is_layer(clip)
            own = frame_to_place(project, clip, at, *wished)
            return drag_way(project, clip.id, self.grab.frame, self.grab.side, own, apart)

        return pull


def _near(one: QPointF, other: QPointF) -> bool:
    return hypot(one.x() - other.x(), one.y() - other.y()) <= GRAB
