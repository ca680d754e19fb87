"""The lanes of a canvas: what is drawn of them, and what hands take hold of."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QPoint, QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter
from PySide6.QtWidgets import QMenu, QToolTip

from rovix.desktop.channel_facts import fact_of
from rovix.desktop.key_selection import Spot, spots_of
from rovix.desktop.theme import colour, font
from rovix.desktop.timeline.hands import Hand
from rovix.desktop.timeline.lanes import painter as painting
from rovix.desktop.timeline.lanes.geometry import LaneCurve
from rovix.desktop.timeline.lanes.hands import HandleHand, HeightHand, KeyBand, KeyHand, StretchHand
from rovix.desktop.timeline.lanes.state import MODES, Lane, LaneState
from rovix.desktop.timeline.rows import Row
from rovix.desktop.timeline.scale import HEADER, RULER
from rovix.edit.address import animated_of, channels_of, held_at
from rovix.edit.channels import value_at
from rovix.edit.keys import all_keys, key_before, toggle_keys
from rovix.edit.tree import clip_by_id
from rovix.edit.values import reset_channels
from rovix.model import Clip, SoundClip
from rovix.model.fields import ANIMATED
from rovix.motion import move_spans
from rovix.motion.reading import reading

if TYPE_CHECKING:
    from rovix.desktop.timeline.canvas import Canvas

_EDGE = 4  # px around a lane's lower edge that take hold of its height
_GRIP = 8  # px around the bracket's ends


class Lanes:
    """Opened clips of one canvas."""

    def __init__(self, canvas: Canvas) -> None:
        self._canvas = canvas
        self._document = canvas.document
        self.state = LaneState()

    # Where

    def of_rows(self, rows: list[Row]) -> list[Lane]:
        """The lanes under all rows, from the top down."""
        project = self._document.project
        return [lane for row in rows for lane in self.state.below(project, row.track, row.bottom)]

    def shown(self) -> list[Lane]:
        return self.of_rows(self._canvas.rows())

    def at(self, point: QPointF) -> Lane | None:
        """The lane under a point, its lower edge included where that takes hold of its height."""
        if point.y() < RULER:
            return None
        edge = self._edge(point)
        return edge or next((lane for lane in self.shown() if lane.top <= point.y() < lane.bottom), None)

    def curve(self, lane: Lane) -> LaneCurve | None:
        """The curve of a lane; None for a head, and where there is nothing to draw."""
        clip = clip_by_id(self._document.project, lane.clip)
        if clip is None or lane.address is None:
            return None
        held = held_at(clip, lane.address)
        if not isinstance(held, (float, *ANIMATED)):
            return None
        chosen = self._document.keys.of(clip.id).get(lane.address, ())
        return LaneCurve(lane, clip, held, self._canvas.scale, frozenset(chosen))

    def keys_in(self, box: QRectF) -> list[Spot]:
        """The keys in a box of the canvas."""
        found = []
        for lane in self.shown():
            curve = self.curve(lane)
            if curve is not None and lane.bottom > box.top() and lane.top < box.bottom():
                inside = [key.frame for key in curve.keys if box.contains(curve.point(key))]
                found += spots_of(lane.clip, {lane.address or "": inside})
        return found

    # Painting

    def paint(self, painter: QPainter, rows: list[Row]) -> None:
        width = self._canvas.width()
        for lane in self.of_rows(rows):
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
        held, fact = held_at(clip, lane.address), fact_of(clip, lane.address)
        painting.paint_ground(painter, lane, scale.x(clip.start), scale.x(clip.span.end), width)
        painter.save()
        painter.setClipRect(
            QRectF(HEADER, max(RULER, lane.top), width - HEADER, lane.bottom - max(RULER, lane.top))
        )
        curve = self.curve(lane)
        if curve is not None:
            painting.paint_curve(painter, curve, fact, self.state.speed)
        elif isinstance(held, str):
            painter.setBrush(QColor(held[:7]))
            painter.setPen(colour("line"))
            left = max(float(HEADER), scale.x(clip.start)) + 8
            painter.drawRoundedRect(QRectF(left, lane.top + lane.height / 2 - 7, 60, 14), 4, 4)
        painter.restore()
        frame = min(max(0, self._document.playhead - clip.start), clip.length - 1)
        state, pinned = ring_state(held, frame), lane.address in self.state.pinned
        painting.paint_header(painter, lane, fact, value_at(held, frame), state, pinned, self._locked(clip))

    def _paint_head(self, painter: QPainter, lane: Lane, clip: Clip) -> None:
        canvas, scale = self._canvas, self._canvas.scale
        painting.paint_head(painter, lane, f"{clip.name or 'Clip'}: {self.state.mode}", canvas.width())
        painter.setClipRect(QRectF(HEADER, RULER, canvas.width() - HEADER, canvas.height() - RULER))
        if not self.state.addresses(clip):
            self._paint_empty(painter, lane, clip)
            return
        if not isinstance(clip, SoundClip) and clip.moves:
            spans = move_spans(clip.moves, clip.length, self._document.rate)
            half = scale.px / 2
            landing = scale.x(clip.start + spans.entrance) + half if spans.entrance else None
            leaving = scale.x(clip.span.end - 1 - spans.exit) + half if spans.exit else None
            painting.paint_rest_marks(painter, lane, landing, leaving, self._bracket(clip) is None)
        ends = self._bracket(clip)
        if ends is not None:
            half = scale.px / 2
            left, right = (scale.x(clip.start + frame) + half for frame in ends)
            hand = canvas.hand
            said = hand.said if isinstance(hand, StretchHand) and hand.said else f"{ends[1] - ends[0]} f"
            painting.paint_bracket(painter, lane, left, right, said)

    def _paint_empty(self, painter: QPainter, lane: Lane, clip: Clip) -> None:
        said = (
            "No key yet: press the ring beside a value in the sheet to set one."
            if self.state.mode == "animated"
            else "Nothing is pinned: right-click a lane's name to pin it."
        )
        painter.setPen(colour("muted"))
        painter.setFont(font(0.84))
        left = max(float(HEADER), self._canvas.scale.x(clip.start)) + 8
        room = QRectF(left, lane.top, self._canvas.width() - left, lane.height)
        painter.drawText(room, Qt.AlignmentFlag.AlignVCenter, said)

    def _bracket(self, clip: Clip) -> tuple[int, int] | None:
        """The first and last frame of a clip's selected keys, where they are apart."""
        frames = [frame for own in self._document.keys.of(clip.id).values() for frame in own]
        return (min(frames), max(frames)) if frames and min(frames) < max(frames) else None

    def _locked(self, clip: Clip) -> bool:
        return any(t.locked for t in self._document.project.sequence.tracks if clip in t.clips)

    # Hands

    def hand(self, lane: Lane, point: QPointF, keys: Qt.KeyboardModifier) -> Hand | None:
        """What a press with the left button begins in a lane."""
        edge = self._edge(point)
        if edge is not None:
            return HeightHand(self._canvas, edge.clip, edge.address or "", edge.top)
        clip = clip_by_id(self._document.project, lane.clip)
        assert clip is not None
        if point.x() < HEADER:
            self._press_header(lane, clip, point)
            return None
        self._lead(clip)
        if lane.address is None:
            return self._bracket_hand(clip, lane, point)
        adding = bool(keys & Qt.KeyboardModifier.ControlModifier)
        return self._curve_hand(lane, point, adding) or KeyBand(self._canvas, point, adding)

    def _lead(self, clip: Clip) -> None:
        """Let the sheet show the clip whose lane was pressed."""
        if self._document.selected != clip.id:
            kept = list(self._document.keys)
            self._document.select(clip.id)
            self._document.keys.set(kept)

    def _curve_hand(self, lane: Lane, point: QPointF, adding: bool) -> Hand | None:
        curve = self.curve(lane)
        if curve is None:
            return None
        handle = curve.handle_under(point)
        key = curve.key_under(point)
        if handle is not None and key is None:
            return None if self._locked(curve.clip) else HandleHand(self._canvas, curve, handle, point)
        if key is None:
            return None
        spot = (lane.clip, lane.address or "", key.frame)
        if adding:
            self._document.keys.turn(spot)
            return None
        if spot not in self._document.keys:
            self._document.keys.set([spot])
        if self._locked(curve.clip):
            return None
        return KeyHand(self._canvas, self.curve(lane) or curve, key.frame, point)

    def _bracket_hand(self, clip: Clip, lane: Lane, point: QPointF) -> Hand | None:
        ends = self._bracket(clip)
        for way, frame in zip((1, -1), reversed(ends or ()), strict=False):
            x = self._canvas.scale.x(clip.start + frame) + self._canvas.scale.px / 2
            if abs(point.x() - x) <= _GRIP and not self._locked(clip):
                return StretchHand(self._canvas, clip.id, way, point)
        return KeyBand(self._canvas, point, False)

    def _press_header(self, lane: Lane, clip: Clip, point: QPointF) -> None:
        if lane.address is None:
            self._mode_menu().popup(self._canvas.mapToGlobal(QPoint(16, lane.bottom)))
            return
        found = next((n for n, b in painting.header_boxes(lane).items() if b.contains(point)), None)
        if found == "ring":
            self._turn_key(clip, lane.address)
        elif found is not None:
            self.go(clip, lane.address, 1 if found == "next" else -1)
        else:
            self._lead(clip)

    def _turn_key(self, clip: Clip, address: str) -> None:
        frame = min(max(0, self._document.playhead - clip.start), clip.length - 1)
        said = fact_of(clip, address).said.lower()
        self._document.do(
            f"Set or take away a key of {said}", lambda p: toggle_keys(p, clip.id, frame, [address])
        )

    def go(self, clip: Clip, address: str, way: int) -> None:
        """Put the playhead on a channel's next key (1) or the one before (-1)."""
        here = self._document.playhead - clip.start
        frames = all_keys(clip).get(address, ())
        ahead = [frame for frame in frames if (frame > here if way > 0 else frame < here)]
        if ahead:
            self._document.seek(clip.start + (ahead[0] if way > 0 else ahead[-1]))

    def _mode_menu(self) -> QMenu:
        menu = QMenu(self._canvas)
        for mode, said in MODES.items():
            action = menu.addAction(said.capitalize(), lambda m=mode: self.set_mode(m))
            action.setCheckable(True)
            action.setChecked(mode == self.state.mode)
        menu.addSeparator()
        action = menu.addAction("Speed line", self.toggle_speed)
        action.setCheckable(True)
        action.setChecked(self.state.speed)
        return menu

    def set_mode(self, mode: str) -> None:
        """Show lanes of the animated, all or pinned channels."""
        self.state.mode = mode
        self._canvas.lanes_changed()

    def toggle_speed(self) -> None:
        self.state.speed = not self.state.speed
        self._canvas.redraw()

    def toggle(self, identity: str) -> None:
        """Open a clip into lanes, or close it."""
        self.state.toggle(identity)
        self._canvas.lanes_changed()

    def double_click(self, lane: Lane, point: QPointF) -> None:
        """On a key: all keys on its frame; on a name: all in the lane; else a key where it is."""
        clip = clip_by_id(self._document.project, lane.clip)
        if clip is None or lane.address is None:
            return
        frames = all_keys(clip)
        if point.x() < HEADER:
            self._document.keys.set(spots_of(clip.id, {lane.address: frames.get(lane.address, ())}))
            return
        curve = self.curve(lane)
        key = curve.key_under(point) if curve is not None else None
        if key is not None:
            here = {name: [key.frame] for name, own in frames.items() if key.frame in own}
            self._document.keys.set(spots_of(clip.id, here))
        elif curve is not None and not self._locked(clip):
            self._put_key(clip, lane.address, round(curve.frame(point.x())))

    def _put_key(self, clip: Clip, address: str, frame: int) -> None:
        frame = min(max(0, frame), clip.length - 1)
        if frame in all_keys(clip).get(address, ()):
            return
        said = fact_of(clip, address).said.lower()
        self._document.do(f"Set a key of {said}", lambda p: toggle_keys(p, clip.id, frame, [address]))
        self._document.keys.set([(clip.id, address, frame)])

    def menu(self, lane: Lane, point: QPointF) -> QMenu | None:
        """The menu of a lane's name; None elsewhere, where the menu of keys is."""
        clip = clip_by_id(self._document.project, lane.clip)
        address = lane.address
        if clip is None or point.x() >= HEADER:
            return None
        if address is None:
            return self._mode_menu()
        menu, said = QMenu(self._canvas), fact_of(clip, address).said.lower()
        frames = all_keys(clip).get(address, ())
        pinned = address in self.state.pinned
        menu.addAction("Unpin the lane" if pinned else "Pin the lane", lambda: self._pin(address))
        keys = menu.addAction("Select all keys of the lane")
        keys.triggered.connect(lambda: self._document.keys.set(spots_of(clip.id, {address: frames})))
        keys.setEnabled(bool(frames))
        menu.addSeparator()
        reset = menu.addAction(f"Reset {said}, without keys")
        reset.triggered.connect(
            lambda: self._document.do(f"Reset {said}", lambda p: reset_channels(p, clip.id, [address]))
        )
        return menu

    def _pin(self, address: str) -> None:
        self.state.pinned ^= {address}
        self._canvas.lanes_changed()

    def _edge(self, point: QPointF) -> Lane | None:
        """The lane whose lower edge is under a point of the headers."""
        if point.x() >= HEADER:
            return None
        lanes = (lane for lane in self.shown() if lane.address is not None)
        return next((lane for lane in lanes if abs(point.y() - lane.bottom) <= _EDGE), None)

    def cursor(self, lane: Lane, point: QPointF) -> Qt.CursorShape:
        if self._edge(point) is not None:
            return Qt.CursorShape.SizeVerCursor
        curve = self.curve(lane)
        if (
            curve is not None
            and point.x() >= HEADER
            and (curve.handle_under(point) or curve.key_under(point))
        ):
            return Qt.CursorShape.PointingHandCursor
        return Qt.CursorShape.ArrowCursor

    def choose_under(self, lane: Lane, point: QPointF) -> None:
        """Select the key under a point, or the one whose way on it is, unless it is selected."""
        curve = self.curve(lane)
        if curve is None or not curve.keys:
            return
        key = curve.key_under(point) or key_before(curve.held, curve.frame(point.x())) or curve.keys[0]
        spot = (lane.clip, lane.address or "", key.frame)
        self._lead(curve.clip)
        if spot not in self._document.keys:
            self._document.keys.set([spot])

    # Said

    def tip(self, lane: Lane, point: QPointF) -> str:
        clip = clip_by_id(self._document.project, lane.clip)
        if clip is None:
            return ""
        if lane.address is None:
            if point.x() < HEADER:
                return "Which channels have lanes, and whether their speed is drawn. Click to choose."
            return "Drag an end of the bracket to stretch the selected keys; drag elsewhere to select keys."
        if point.x() < HEADER:
            return self._header_tip(lane, clip)
        return self._curve_tip(lane, clip, point)

    def _header_tip(self, lane: Lane, clip: Clip) -> str:
        said = fact_of(clip, lane.address or "").said
        return (
            f"{said}: the ring sets a key, the arrows go to the next and previous one. "
            "Double-click selects all keys, right-click for more, drag the lower edge for height."
        )

    def _curve_tip(self, lane: Lane, clip: Clip, point: QPointF) -> str:
        curve, address = self.curve(lane), lane.address or ""
        held, fact = held_at(clip, address), fact_of(clip, address)
        frame = min(max(0, round(self._canvas.scale.frame(point.x())) - clip.start), clip.length - 1)
        parts = [f"{fact.said}: {fact.shown(value_at(held, frame))} at layer frame {frame}"]
        key = curve.key_under(point) if curve is not None else None
        if key is not None:
            parts.append(f"Key at layer frame {key.frame}, goes on by {key.curve}")
        if isinstance(held, ANIMATED) and len(held.keys) > 1:
            found = reading(held)
            parts.append(painting.said_of_reading(found, clip.length))
            parts.append(f"fastest {fact.shown(found.fastest)} per frame, up to frame {found.fastest_at}")
            if found.breaks:
                frames = ", ".join(map(str, found.breaks))
                parts.append(f"the speed jumps at frame {frames}; Even out the speed mends it")
        return "\n".join(part for part in parts if part)

    def say_key(self, curve: LaneCurve, frame: int, point: QPointF) -> None:
        """Say beside the hand where a dragged key is."""
        clip = clip_by_id(self._document.project, curve.clip.id)
        address = curve.lane.address or ""
        if clip is not None and address in channels_of(clip):
            value = value_at(held_at(clip, address), frame)
            said = f"{fact_of(clip, address).shown(value)}\nlayer frame {frame}"
            QToolTip.showText(self._canvas.mapToGlobal(point.toPoint()), said, self._canvas)

    def select_all(self, clip: Clip) -> None:
        """Select every key of a clip's lanes."""
        shown = self.state.addresses(clip) if clip.id in self.state.open else list(animated_of(clip))
        frames = {name: own for name, own in all_keys(clip).items() if name in shown}
        self._document.keys.set(spots_of(clip.id, frames))


def ring_state(held: object, frame: int) -> str:
    """Whether a channel has a key on a frame: none, animated or key."""
    if not isinstance(held, ANIMATED):
        return "none"
    return "key" if any(key.frame == frame for key in held.keys) else "animated"
