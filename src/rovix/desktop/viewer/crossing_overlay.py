"""The way of a crawl or roll over the picture, with a grip at each end."""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QPolygonF

from rovix.desktop.document import Document, Edit
from rovix.desktop.theme import colour
from rovix.desktop.viewer.geometry import GRAB, View
from rovix.edit.arrange import frame_to_place
from rovix.edit.crossing import end_at, start_at
from rovix.edit.tree import replace
from rovix.model import PictureClip, Project
from rovix.model.clip_kinds import is_layer
from rovix.motion import Scene
from rovix.motion.motion_path import motion_path

_MARGIN = 14.0  # px from the viewer's edge at which a grip stands whose end is beyond it
_SIZE = 6.0


class CrossingPicture:
    """Where the selected layer's crawl or roll begins and ends."""

    def __init__(self, document: Document) -> None:
        self._document = document

    @property
    def layer(self) -> PictureClip | None:
        """The selected layer, where it crawls or rolls."""
        clip = self._document.clip
        return clip if is_layer(clip) and clip.crossing is not None else None

    def ends(self, view: View, room: QRectF) -> dict[str, QPointF]:
        """The grips in px of the viewer, kept inside it; none without a crossing."""
        clip, project = self.layer, self._document.picture_project
        if clip is None:
            return {}
        scene = Scene.of(project)
        way = scene.motion(clip).crossing
        if way is None:
            return {}
        frames = np.array([way.hold, way.hold + way.frames], dtype=np.float64)
        points = motion_path(scene, clip, frames)
        if not np.isfinite(points).all():
            return {}
        inside = room.adjusted(_MARGIN, _MARGIN, -_MARGIN, -_MARGIN)
        named = zip(("start", "end"), points.tolist(), strict=True)
        return {name: _kept(view.to_view(*point), inside) for name, point in named}

    def paint(self, painter: QPainter, view: View, room: QRectF) -> None:
        """A line from grip to grip: the start is a bar, the end an arrow that shows the way."""
        ends = self.ends(view, room)
        if not ends:
            return
        start, end = ends["start"], ends["end"]
        painter.setPen(QPen(colour("accent", 0.8), 1.2, Qt.PenStyle.DashLine))
        painter.drawLine(start, end)
        way = end - start
        far = hypot(way.x(), way.y()) or 1.0
        along, beside = way * (_SIZE / far), QPointF(-way.y(), way.x()) * (_SIZE / far)
        painter.setPen(QPen(colour("accent"), 1.8))
        painter.setBrush(colour("panel"))
        painter.drawPolygon(QPolygonF([
            start - along * 0.5 - beside, start + along * 0.5 - beside, start + along * 0.5 + beside,
            start - along * 0.5 + beside,
        ]))  # fmt: skip
        painter.drawPolygon(QPolygonF([end + along, end - along + beside, end - along - beside]))

    def grab(self, view: View, room: QRectF, point: QPointF) -> str | None:
        """The end whose grip is under a point."""
        for name, grip in self.ends(view, room).items():
            if hypot(grip.x() - point.x(), grip.y() - point.y()) <= GRAB:
                return name
        return None

    def begin(self, view: View, room: QRectF, name: str, start: QPointF) -> CrossingDrag:
        """Take hold of an end."""
        clip, scene = self.layer, Scene.of(self._document.project)
        assert clip is not None
        assert clip.crossing is not None
        off = replace(clip, crossing=replace(clip.crossing, from_rest=False, to_rest=False, whole_px=False))
        beyond = scene.motion(off).crossing
        assert beyond is not None
        far = beyond.start if name == "start" else beyond.start + beyond.step * beyond.frames
        # Where it would be without crossing: from there an end is counted.
        rest = motion_path(scene, replace(clip, crossing=None), np.zeros(1))[0]
        grip = self.ends(view, room)[name]
        return CrossingDrag(clip, view, start, name, beyond.axis, grip - view.to_view(*rest.tolist()), far)


@dataclass
class CrossingDrag:
    """From a press on a grip to its release; `grip` is the way from rest to the grip at the press, in px of
    the viewer, `off` the px of the place from rest at which the layer is just off the frame there."""

    clip: PictureClip
    view: View
    start: QPointF
    name: str
    axis: int
    grip: QPointF
    off: float
    moved: bool = False

    @property
    def title(self) -> str:
        return f"Move the {self.name} of the {'crawl' if self.axis == 0 else 'roll'}"

    def edit(self, point: QPointF, modifiers: Qt.KeyboardModifier) -> Edit:
        """The edit of a drag up to a point; beyond the frame's edge the end is off the frame."""
        way = (self.grip + point - self.start) / self.view.scale
        give = start_at if self.name == "start" else end_at

        def pull(project: Project) -> Project:
            own = frame_to_place(project, self.clip, self.clip.start, way.x(), way.y())
            at = own[self.axis]
            outside = (at - self.off) * (1 if self.off > 0 else -1) >= 0
            return give(project, self.clip.id, None if outside else round(at, 1))

        return pull


def _kept(point: QPointF, inside: QRectF) -> QPointF:
    return QPointF(
        min(max(point.x(), inside.left()), inside.right()),
        min(max(point.y(), inside.top()), inside.bottom()),
    )
