"""What is drawn over the picture: safe areas, ghosts and parked words, the selection, the caret."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache

import numpy as np
from PySide6.QtCore import QLineF, QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QColor, QImage, QPainter, QPainterPath, QPen, QPolygonF

from rovix.check.safe import ACTION, TITLE, safe_rect
from rovix.desktop.document import Document
from rovix.desktop.theme import colour, font
from rovix.desktop.viewer.geometry import View, handle_corners, stalk_handles
from rovix.desktop.viewer.outlines import layer_outline
from rovix.desktop.viewer.words_editor import WordsEditor
from rovix.edit.alignment import Caught, Gap
from rovix.model import PictureClip, TextClip
from rovix.model.clip_kinds import has_words, is_layer
from rovix.model.on_track import clip_at
from rovix.motion import Scene
from rovix.motion.quads import LayerQuads, layer_quads
from rovix.motion.scene import world_of

NEIGHBOUR_STEP = 2
"""Frames from one ghost of the neighbouring frames to the next."""


class Overlays:
    """Draws over one picture; `quads_of` gives the quads that came with it."""

    def __init__(
        self,
        painter: QPainter,
        view: View,
        document: Document,
        quads_of: Callable[[str | None], LayerQuads | None],
    ) -> None:
        self._painter, self._view, self._document = painter, view, document
        self._quads_of = quads_of

    def safe_areas(self) -> None:
        """The frames of safe action and of safe words."""
        for share in (ACTION, TITLE):
            left, top, right, bottom = safe_rect(self._view.size, share)
            box = QRectF(self._view.to_view(left, top), self._view.to_view(right, bottom)).toRect()
            for x, y, width, height in (
                (box.left(), box.top(), box.width(), 1), (box.left(), box.bottom(), box.width(), 1),
                (box.left(), box.top(), 1, box.height()), (box.right(), box.top(), 1, box.height()),
            ):  # fmt: skip
                self._painter.drawImage(x, y, _dotted(width, height, colour("text", 0.75).rgba()))
        self._kept_free()

    def _kept_free(self) -> None:
        """Areas that words keep out of, hatched, with their names."""
        sequence = self._document.project.sequence
        across, down = self._view.size
        for area in sequence.keep_free:
            box = QRectF(
                self._view.to_view(area.left * across, area.top * down),
                self._view.to_view(area.right * across, area.bottom * down),
            )
            self._painter.fillRect(box, QBrush(colour("problem", 0.5), Qt.BrushStyle.BDiagPattern))
            self._painter.setPen(QPen(colour("text"), 1))
            self._painter.setFont(font(0.9))
            self._painter.drawText(box.adjusted(6, 4, -6, -4), Qt.AlignmentFlag.AlignLeft, area.name)

    def parked_words(self, widget: QRectF, ghost: bool) -> None:
        """Words beyond the frame, and the ghost of the selected words' rest when they are away."""
        for clip in self._words_here():
            if ghost and clip.id == self._document.selected and self._is_away(clip.id):
                self._ghost(clip)
            if self._reaches_out(clip.id):
                self._painter.save()
                self._painter.setClipPath(self._apron(widget))
                self._to_frame()
                self._painter.fillPath(self._outline(clip, rest=False), colour("text", 0.28))
                self._painter.restore()

    def _apron(self, widget: QRectF) -> QPainterPath:
        """All of the viewer beyond the frame."""
        apron, frame = QPainterPath(), QPainterPath()
        apron.addRect(widget)
        frame.addRect(self._view.frame)
        return apron.subtracted(frame)

    def neighbours(self) -> None:
        """The selected layer as it is on frames before (dashed) and after, fainter the farther."""
        clip, document = self._document.clip, self._document
        if not is_layer(clip):
            return
        here = document.playhead - clip.start
        self._painter.save()
        self._painter.setBrush(Qt.BrushStyle.NoBrush)
        self._to_frame()
        for step in (-3, -2, -1, 1, 2, 3):
            frame = here + step * NEIGHBOUR_STEP
            if 0 <= frame < clip.length:
                pen = _even_pen("text", 0.75 - 0.18 * abs(step), 1.2)
                pen.setStyle(Qt.PenStyle.DashLine if step < 0 else Qt.PenStyle.SolidLine)
                self._painter.setPen(pen)
                self._painter.drawPath(self._layer_path(clip, frame))
        self._painter.restore()

    def _layer_path(self, clip: PictureClip, frame: int) -> QPainterPath:
        """A layer's outline on a frame of it: its letters, or the box of what it shows."""
        project = self._document.picture_project
        if has_words(clip):
            return layer_outline(project, clip, frame, rest=False)
        scene = Scene.of(project)
        quads = layer_quads(scene, clip, frame, world_of(scene, clip, clip.start + frame))
        path = QPainterPath()
        for corners in quads.pieces[np.isfinite(quads.pieces).all(axis=(1, 2))].tolist():
            path.addPolygon(QPolygonF([QPointF(*corner) for corner in [*corners, corners[0]]]))
        return path

    def selection(self, quads: LayerQuads, handles: bool) -> None:
        """The selected layer's box at rest, with its handles and pivot."""
        if not np.all(np.isfinite(quads.rest)):
            return
        painter = self._painter
        corners = [self._view.to_view(*corner) for corner in quads.rest.tolist()]
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(colour("text"), 1.4))
        painter.drawPolygon(QPolygonF(corners))
        if handles:
            self._handles(quads)

    def guides(self) -> None:
        """The sequence's guides, across the whole viewer."""
        sequence = self._document.project.sequence
        self._painter.setPen(QPen(colour("entrance", 0.8), 1))
        for guide in sequence.guides:
            self._line(0 if guide.upright else 1, sequence.size[0 if guide.upright else 1] / 2 + guide.at)

    def caught(self, found: Caught) -> None:
        """The lines that a dragged layer is caught on, and gaps that have become equal."""
        painter = self._painter
        pen = QPen(colour("accent"), 1)
        painter.setPen(pen)
        for axis, line in found.lines:
            self._line(axis, line.at)
        for gap in found.gaps:
            self._gap(gap)

    def _line(self, axis: int, at: float) -> None:
        """A line across the frame at px of it."""
        low = self._view.to_view(at, 0) if axis == 0 else self._view.to_view(0, at)
        end = self._view.size[1 - axis]
        high = self._view.to_view(at, end) if axis == 0 else self._view.to_view(end, at)
        self._painter.drawLine(QLineF(low, high))

    def _gap(self, gap: Gap) -> None:
        ends = [(gap.start, gap.level), (gap.end, gap.level)]
        if gap.axis == 1:
            ends = [(y, x) for x, y in ends]
        first, last = (self._view.to_view(*end) for end in ends)
        side = QPointF(0, 5) if gap.axis == 0 else QPointF(5, 0)
        for end in (first, last):
            self._painter.drawLine(QLineF(end - side, end + side))
        self._painter.drawLine(QLineF(first, last))
        self._painter.setFont(font(0.85))
        self._painter.drawText((first + last) / 2 + QPointF(3, -4), f"{gap.end - gap.start:.0f} px")

    def empty_words(self) -> None:
        """A mark where a text layer without words rests, so that it can be found and taken."""
        painter = self._painter
        painter.setFont(font(0.9))
        for _, box in empty_marks(self._view, self._document, self._quads_of):
            painter.setPen(QPen(colour("text", 0.7), 1, Qt.PenStyle.DashLine))
            painter.setBrush(colour("ground", 0.55))
            painter.drawRoundedRect(box, 5, 5)
            painter.setPen(colour("text"))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, "No words")

    def editor(self, editor: WordsEditor, caret: bool) -> None:
        """The selected letters and the caret."""
        painter = self._painter
        painter.save()
        self._to_frame()
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("accent", 0.4))
        for shape in editor.selected_shapes():
            painter.drawPolygon(shape)
        line = editor.caret_line() if caret else None
        if line is not None:
            for width, role in ((4.0, "ground"), (2.0, "accent")):
                painter.setPen(_even_pen(role, 1.0, width))
                painter.drawLine(*line)
        painter.restore()

    def _handles(self, quads: LayerQuads) -> None:
        painter = self._painter
        for kind, (foot, handle) in stalk_handles(self._view, quads).items():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawLine(QLineF(foot, handle))
            painter.setBrush(colour("accent" if kind == "rotation_z" else "ground"))
            if kind == "rotation_z":
                painter.drawEllipse(handle, 5, 5)
            else:
                painter.drawPolygon(QPolygonF([handle + way for way in _LEAF[kind]]))
        painter.setBrush(colour("ground"))
        for corner in handle_corners(self._view, quads):
            painter.drawEllipse(corner, 5, 5)
        pivot = self._view.to_view(*quads.pivot.tolist())
        for way in (QPointF(6, 0), QPointF(0, 6)):
            painter.drawLine(QLineF(pivot - way, pivot + way))

    def _ghost(self, clip: TextClip) -> None:
        self._painter.save()
        self._to_frame()
        pen = _even_pen("text", 0.5, 1.2)
        pen.setStyle(Qt.PenStyle.DashLine)
        self._painter.setPen(pen)
        self._painter.drawPath(self._outline(clip, rest=True))
        self._painter.restore()

    def _to_frame(self) -> None:
        """Take px of the frame from here on."""
        self._painter.translate(self._view.left, self._view.top)
        self._painter.scale(self._view.scale, self._view.scale)

    def _words_here(self) -> list[TextClip]:
        document = self._document
        tracks = (track for track in document.project.sequence.tracks if not track.hidden)
        return [clip for track in tracks if has_words(clip := clip_at(track, document.playhead))]

    def _outline(self, clip: TextClip, rest: bool) -> QPainterPath:
        document = self._document
        return layer_outline(document.picture_project, clip, document.playhead - clip.start, rest)

    def _is_away(self, identity: str) -> bool:
        """Whether nothing of a layer is to be seen in the frame."""
        quads = self._quads_of(identity)
        if quads is None:
            return False
        if not len(quads.pieces) or not np.all(np.isfinite(quads.pieces)):
            return True
        low, high = quads.pieces.min(axis=1), quads.pieces.max(axis=1)
        return bool(np.all(np.any(low > self._view.size, axis=1) | np.any(high < 0, axis=1)))

    def _reaches_out(self, identity: str) -> bool:
        quads = self._quads_of(identity)
        if quads is None or not len(quads.pieces):
            return False
        corners = quads.pieces[np.isfinite(quads.pieces).all(axis=(1, 2))].reshape(-1, 2)
        return bool(len(corners)) and bool(np.any(corners < 0) or np.any(corners > self._view.size))


# A small leaf that lies along the way its handle is pulled.
_LEAF = {
    "rotation_x": [QPointF(0, -7), QPointF(4.5, 0), QPointF(0, 7), QPointF(-4.5, 0)],
    "rotation_y": [QPointF(-7, 0), QPointF(0, 4.5), QPointF(7, 0), QPointF(0, -4.5)],
}


@lru_cache(maxsize=32)
def _dotted(width: int, height: int, rgba: int) -> QImage:
    """A line of dots, a px wide. Kept: patterns and dashes cost more than all else over the picture."""
    image = QImage(max(1, width), max(1, height), QImage.Format.Format_ARGB32_Premultiplied)
    image.fill(Qt.GlobalColor.transparent)
    painter = QPainter(image)
    painter.fillRect(image.rect(), QBrush(QColor.fromRgba(rgba), Qt.BrushStyle.Dense4Pattern))
    painter.end()
    return image


def empty_marks(
    view: View, document: Document, quads_of: Callable[[str | None], LayerQuads | None]
) -> list[tuple[str, QRectF]]:
    """The ids of the text layers without words at the playhead, each with the place of its mark."""
    found = []
    for track in document.project.sequence.tracks:
        clip = None if track.hidden else clip_at(track, document.playhead)
        if not has_words(clip) or clip.text.content.strip():
            continue
        quads = quads_of(clip.id)
        if quads is not None and np.all(np.isfinite(quads.pivot)):
            middle = view.to_view(*quads.pivot.tolist())
            width, height = 7.0 * font(0.9).pixelSize(), 2.2 * font(0.9).pixelSize()
            box = QRectF(middle.x() - width / 2, middle.y() - height / 2, width, height)
            found.append((clip.id, box))
    return found


def _even_pen(role: str, alpha: float, width: float) -> QPen:
    """A pen of so many px on screen, however the picture is zoomed."""
    pen = QPen(colour(role, alpha), width)
    pen.setCosmetic(True)
    return pen
