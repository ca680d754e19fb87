"""What is drawn of a canvas's lanes."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QPainter

from rovix.desktop.theme import colour, font
from rovix.desktop.timeline.lanes import painter as painting
from rovix.desktop.timeline.lanes.drags import StretchDrag
from rovix.desktop.timeline.lanes.move_lanes import keyed_state, keys_of_move
from rovix.desktop.timeline.lanes.state import MOVES, Lane, ring_state
from rovix.desktop.timeline.rows import Row
from rovix.desktop.timeline.scale import HEADER, RULER
from rovix.edit.channels import value_at
from rovix.edit.tree import clip_by_id
from rovix.model import Clip
from rovix.model.clip_kinds import is_layer
from rovix.motion import clip_spans

if TYPE_CHECKING:
    from rovix.desktop.timeline.lanes.lanes import Lanes
    from rovix.desktop.timeline.surface import Surface

_EMPTY = {
    "animated": "No key yet: press the pip beside a value in the sheet to set one.",
    "moves": "It has no move: apply one from the shelf.",
    "pinned": "Nothing is pinned: right-click a lane's name to pin it.",
}


class LanePictures:
    """Paints the lanes that a canvas shows."""

    def __init__(self, canvas: Surface, lanes: Lanes) -> None:
        self._canvas, self._lanes = canvas, lanes
        self._document = canvas.document

    def paint(self, painter: QPainter, rows: list[Row]) -> None:
        width = self._canvas.width()
        for lane in self._lanes.of_rows(rows):
            clip = clip_by_id(self._document.project, lane.clip)
            if clip is None or lane.bottom <= RULER or lane.top >= self._canvas.height():
                continue
            painter.save()
            painter.setClipRect(QRectF(0, RULER, width, self._canvas.height() - RULER))
            if lane.address is None:
                self._paint_head(painter, lane, clip)
            else:
                self._paint_lane(painter, lane, clip)
            painter.restore()

    def _paint_lane(self, painter: QPainter, lane: Lane, clip: Clip) -> None:
        assert lane.address is not None
        scale, width = self._canvas.scale, float(self._canvas.width())
        held, fact = self._lanes.held(clip, lane.address), self._lanes.fact(clip, lane.address)
        painting.paint_ground(painter, lane, scale.x(clip.start), scale.x(clip.span.end), width)
        painter.save()
        painter.setClipRect(
            QRectF(HEADER, max(RULER, lane.top), width - HEADER, lane.bottom - max(RULER, lane.top))
        )
        curve = self._lanes.curve(lane)
        if curve is not None:
            painting.paint_curve(painter, curve, fact, self._lanes.state.speed)
        elif isinstance(held, str):
            painter.setBrush(QColor(held[:7]))
            painter.setPen(colour("line"))
            left = max(float(HEADER), scale.x(clip.start)) + 8
            painter.drawRoundedRect(QRectF(left, lane.top + lane.height / 2 - 7, 60, 14), 4, 4)
        painter.restore()
        frame = min(max(0, self._document.playhead - clip.start), clip.length - 1)
        state = self._state(lane.address, clip, held, frame)
        pinned = lane.address in self._lanes.state.pinned
        value, locked = value_at(held, frame), self._lanes.is_locked(clip)
        painting.paint_header(painter, lane, fact, value, state, pinned, locked)

    def _state(self, address: str, clip: Clip, held: object, frame: int) -> str:
        """Whether a channel has a key on a frame: none, animated or key."""
        if not address.startswith(MOVES) or not is_layer(clip):
            return ring_state(held, frame)
        keys = keys_of_move(self._document, clip, address)
        return "none" if keys is None else keyed_state(clip, address, keys, frame)

    def _paint_head(self, painter: QPainter, lane: Lane, clip: Clip) -> None:
        canvas, scale = self._canvas, self._canvas.scale
        painting.paint_head(painter, lane, f"{clip.title}: {self._lanes.state.mode}", canvas.width())
        painter.setClipRect(QRectF(HEADER, RULER, canvas.width() - HEADER, canvas.height() - RULER))
        if not self._lanes.state.addresses(clip):
            self._paint_empty(painter, lane, clip)
            return
        if is_layer(clip) and clip.moves:
            spans = clip_spans(clip, self._document.rate)
            half = scale.px / 2
            landing = scale.x(clip.start + spans.entrance) + half if spans.entrance else None
            leaving = scale.x(clip.span.end - 1 - spans.exit) + half if spans.exit else None
            painting.paint_rest_marks(painter, lane, landing, leaving, self._lanes.bracket(clip) is None)
        ends = self._lanes.bracket(clip)
        if ends is not None:
            half = scale.px / 2
            left, right = (scale.x(clip.start + frame) + half for frame in ends)
            hand = canvas.hand
            said = hand.said if isinstance(hand, StretchDrag) and hand.said else f"{ends[1] - ends[0]} f"
            painting.paint_bracket(painter, lane, left, right, said)

    def _paint_empty(self, painter: QPainter, lane: Lane, clip: Clip) -> None:
        painter.setPen(colour("muted"))
        painter.setFont(font(0.84))
        left = max(float(HEADER), self._canvas.scale.x(clip.start)) + 8
        room = QRectF(left, lane.top, self._canvas.width() - left, lane.height)
        painter.drawText(room, Qt.AlignmentFlag.AlignVCenter, _EMPTY.get(self._lanes.state.mode, ""))
