"""The lanes of a canvas: what is drawn of them, and what hands take hold of."""

from __future__ import annotations

from collections.abc import Iterable
from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import QPoint, QPointF, QRectF, Qt
from PySide6.QtWidgets import QMenu, QToolTip

from rovix.desktop.channel_facts import Fact, fact_of
from rovix.desktop.dialogs.curve_picker import CurvePicker
from rovix.desktop.key_selection import InnerSpot, Spot, inner_spots, spots_of
from rovix.desktop.timeline.lanes import painter as painting
from rovix.desktop.timeline.lanes.drags import HandleDrag, HeightDrag, KeyBand, KeyDrag, StretchDrag
from rovix.desktop.timeline.lanes.geometry import LaneCurve
from rovix.desktop.timeline.lanes.move_lanes import (
    DepartureDrag,
    keys_of_move,
    looked_at,
    move_at,
    move_fact,
)
from rovix.desktop.timeline.lanes.state import MODES, MOVES, Lane, LaneState
from rovix.desktop.timeline.rows import Row
from rovix.desktop.timeline.scale import HEADER, RULER
from rovix.desktop.timeline.surface import Hand
from rovix.edit.address import Held, animated_of, channels_of, held_at
from rovix.edit.channels import value_at
from rovix.edit.departures import set_departure_curve
from rovix.edit.inner_keys import all_inner_keys, key_near, keys_on_frames, turn_inner_key
from rovix.edit.keys import all_keys, key_before, toggle_keys
from rovix.edit.tree import clip_by_id
from rovix.edit.values import reset_channels
from rovix.model import Clip, Keys, Move, Project
from rovix.model.clip_kinds import is_layer
from rovix.model.fields import ANIMATED

if TYPE_CHECKING:
    from rovix.desktop.timeline.surface import Surface

_EDGE = 4  # px around a lane's lower edge that take hold of its height
_GRIP = 8  # px around the bracket's ends


class Lanes:
    """Opened clips of one canvas."""

    def __init__(self, canvas: Surface) -> None:
        self.canvas = canvas
        self.document = canvas.document
        self.state = LaneState()

    # Where

    def of_rows(self, rows: list[Row]) -> list[Lane]:
        """The lanes under all rows, from the top down."""
        project = self.document.project
        return [lane for row in rows for lane in self.state.below(project, row.track, row.bottom)]

    def shown(self) -> list[Lane]:
        return self.of_rows(self.canvas.rows())

    def at(self, point: QPointF) -> Lane | None:
        """The lane under a point, its lower edge included where that takes hold of its height."""
        if point.y() < RULER:
            return None
        edge = self._edge(point)
        return edge or next((lane for lane in self.shown() if lane.top <= point.y() < lane.bottom), None)

    def curve(self, lane: Lane) -> LaneCurve | None:
        """The curve of a lane; None for a head, and where there is nothing to draw."""
        clip = clip_by_id(self.document.project, lane.clip)
        if clip is None or lane.address is None:
            return None
        held = self.held(clip, lane.address)
        if not isinstance(held, (float, *ANIMATED)):
            return None
        return LaneCurve(lane, clip, held, self.canvas.scale, frozenset(self._chosen(clip, lane, held)))

    def _chosen(self, clip: Clip, lane: Lane, held: Held) -> Iterable[float]:
        """The frames of the selected keys of a lane."""
        address = lane.address or ""
        if not address.startswith(MOVES):
            return self.document.keys.of(clip.id).get(address, ())
        found = move_at(clip, address)
        numbers = () if found is None else self.document.inner.of(clip.id).get((found[2].id, found[1]), ())
        return [held.keys[n].frame for n in numbers] if isinstance(held, Keys) else []

    def held(self, clip: Clip, address: str) -> Held:
        """What a lane's channel holds; of a move the keys that stand for it."""
        if not address.startswith(MOVES):
            return held_at(clip, address)
        assert is_layer(clip)
        found = keys_of_move(self.document, clip, address)
        return None if found is None else found.keys

    def fact(self, clip: Clip, address: str) -> Fact:
        """What a lane is called, and its unit."""
        return move_fact(clip, address) if address.startswith(MOVES) else fact_of(clip, address)

    def keys_in(self, box: QRectF) -> list[Spot]:
        """The keys in a box of the canvas."""
        found = []
        for lane in self.shown():
            curve = self.curve(lane)
            own = curve is not None and not (lane.address or "").startswith(MOVES)
            if curve is not None and own and lane.bottom > box.top() and lane.top < box.bottom():
                inside = [key.frame for key in curve.keys if box.contains(curve.point(key))]
                found += spots_of(lane.clip, {lane.address or "": inside})
        return found

    def inner_keys_in(self, box: QRectF) -> list[InnerSpot]:
        """The inner keys of moves in a box of the canvas."""
        found: list[InnerSpot] = []
        for lane in self.shown():
            curve, where = self.curve(lane), self._inner_of(lane)
            if curve is not None and where is not None and where[2].channels[where[1]].keys:
                inside = [n for n, key in enumerate(curve.keys) if box.contains(curve.point(key))]
                found += inner_spots(lane.clip, {(where[2].id, where[1]): inside})
        return found

    def _inner_of(self, lane: Lane) -> tuple[int, int, Move] | None:
        """The move and channel that a lane is of; None for a lane of the clip's own channels."""
        clip = clip_by_id(self.document.project, lane.clip)
        if clip is None or not (lane.address or "").startswith(MOVES):
            return None
        return move_at(clip, lane.address or "")

    # Hands

    def hand(self, lane: Lane, point: QPointF, keys: Qt.KeyboardModifier) -> Hand | None:
        """What a press with the left button begins in a lane."""
        edge = self._edge(point)
        if edge is not None:
            return HeightDrag(self.canvas, edge.clip, edge.address or "", edge.top)
        clip = clip_by_id(self.document.project, lane.clip)
        assert clip is not None
        if point.x() < HEADER:
            self._press_header(lane, clip, point)
            return None
        self._lead(clip)
        if lane.address is None:
            return self._bracket_hand(clip, lane, point)
        adding = bool(keys & Qt.KeyboardModifier.ControlModifier)
        return self._curve_hand(lane, point, adding) or KeyBand(self.canvas, point, adding)

    def _lead(self, clip: Clip) -> None:
        """Let the sheet show the clip whose lane was pressed."""
        if self.document.selected != clip.id:
            kept = list(self.document.keys)
            self.document.select(clip.id)
            self.document.keys.set(kept)

    def _curve_hand(self, lane: Lane, point: QPointF, adding: bool) -> Hand | None:
        curve = self.curve(lane)
        if curve is None:
            return None
        handle = curve.handle_under(point)
        key = curve.key_under(point)
        if (lane.address or "").startswith(MOVES):
            return self._departure_hand(lane, curve, point, adding)
        if handle is not None and key is None:
            return None if self.is_locked(curve.clip) else HandleDrag(self.canvas, curve, handle, point)
        if key is None:
            return None
        spot = (lane.clip, lane.address or "", key.frame)
        if adding:
            self.document.keys.turn(spot)
            return None
        if spot not in self.document.keys:
            self.document.keys.set([spot])
        if self.is_locked(curve.clip):
            return None
        return KeyDrag(self.canvas, self.curve(lane) or curve, key.frame, point)

    def _departure_hand(self, lane: Lane, curve: LaneCurve, point: QPointF, adding: bool) -> Hand | None:
        key, where = curve.key_under(point), self._inner_of(lane)
        if key is None or where is None:
            return None
        number = curve.keys.index(key)
        if where[2].channels[where[1]].keys:
            spot = (lane.clip, where[2].id, where[1], number)
            if adding:
                self.document.inner.turn(spot)
                return None
            if spot not in self.document.inner:
                self.document.inner.set([spot])
        return None if self.is_locked(curve.clip) else DepartureDrag(self.canvas, curve, number, point)

    def _bracket_hand(self, clip: Clip, lane: Lane, point: QPointF) -> Hand | None:
        ends = self.bracket(clip)
        for way, frame in zip((1, -1), reversed(ends or ()), strict=False):
            x = self.canvas.scale.x(clip.start + frame) + self.canvas.scale.px / 2
            if abs(point.x() - x) <= _GRIP and not self.is_locked(clip):
                return StretchDrag(self.canvas, clip.id, way, point)
        return KeyBand(self.canvas, point, False)

    def _press_header(self, lane: Lane, clip: Clip, point: QPointF) -> None:
        if lane.address is None:
            self._mode_menu().popup(self.canvas.mapToGlobal(QPoint(16, lane.bottom)))
            return
        found = next((n for n, b in painting.header_boxes(lane).items() if b.contains(point)), None)
        if found == "ring" and lane.address.startswith(MOVES):
            self._turn_inner_key(clip, lane.address, self.document.playhead - clip.start)
        elif found == "ring":
            self._turn_key(clip, lane.address)
        elif found is not None:
            self.go(clip, lane.address, 1 if found == "next" else -1)
        else:
            self._lead(clip)

    def _turn_key(self, clip: Clip, address: str) -> None:
        frame = min(max(0, self.document.playhead - clip.start), clip.length - 1)
        said = fact_of(clip, address).said.lower()
        self.document.do(
            f"Set or take away a key of {said}", lambda p: toggle_keys(p, clip.id, frame, [address])
        )

    def _turn_inner_key(self, clip: Clip, address: str, frame: float) -> None:
        """Put an inner key on a move's way, where the curve is then, or take it away."""
        document, found = self.document, move_at(clip, address)
        if found is None:
            return
        move, number, piece = found[2].id, found[1], looked_at(document, clip)
        said = self.fact(clip, address).said.lower()
        edit = lambda p: turn_inner_key(p, clip.id, move, number, frame, piece)  # noqa: E731
        if document.do(f"Set or take away a key of {said}", edit):
            now = clip_by_id(document.project, clip.id)
            assert now is not None
            near = key_near(keys_on_frames(document.project, now, move, number, piece), frame)
            document.inner.set([] if near is None else [(clip.id, move, number, near)])

    def go(self, clip: Clip, address: str, way: int) -> None:
        """Put the playhead on a channel's next key (1) or the one before (-1)."""
        here = self.document.playhead - clip.start
        frames: Iterable[int] = all_keys(clip).get(address, ())
        if address.startswith(MOVES):
            held = self.held(clip, address)
            frames = [round(key.frame) for key in held.keys] if isinstance(held, Keys) else []
        ahead = [frame for frame in frames if (frame > here if way > 0 else frame < here)]
        if ahead:
            self.document.seek(clip.start + (ahead[0] if way > 0 else ahead[-1]))

    def _mode_menu(self) -> QMenu:
        menu = QMenu(self.canvas)
        for mode, said in MODES.items():
            action = menu.addAction(said.capitalize(), partial(self.set_mode, mode))
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
        self.canvas.lanes_changed()

    def toggle_speed(self) -> None:
        self.state.speed = not self.state.speed
        self.canvas.redraw()

    def toggle(self, identity: str) -> None:
        """Open a clip into lanes, or close it."""
        self.state.toggle(identity)
        self.canvas.lanes_changed()

    def double_click(self, lane: Lane, point: QPointF) -> None:
        """On a key: all keys on its frame; on a name: all in the lane; else a key where it is."""
        clip = clip_by_id(self.document.project, lane.clip)
        if clip is None or lane.address is None:
            return
        if lane.address.startswith(MOVES):
            self._double_click_move(lane, clip, point)
            return
        frames = all_keys(clip)
        if point.x() < HEADER:
            self.document.keys.set(spots_of(clip.id, {lane.address: frames.get(lane.address, ())}))
            return
        curve = self.curve(lane)
        key = curve.key_under(point) if curve is not None else None
        if key is not None:
            here = {name: [key.frame] for name, own in frames.items() if key.frame in own}
            self.document.keys.set(spots_of(clip.id, here))
        elif curve is not None and not self.is_locked(clip):
            self._put_key(clip, lane.address, round(curve.frame(point.x())))

    def _double_click_move(self, lane: Lane, clip: Clip, point: QPointF) -> None:
        """On a key: all inner keys of the move at its moment; on the name: all in the lane; else a key."""
        found, inner = move_at(clip, lane.address or ""), self.document.inner
        curve = self.curve(lane)
        if found is None or curve is None:
            return
        move = found[2]
        own = move.channels[found[1]].keys
        key = curve.key_under(point)
        if point.x() < HEADER:
            inner.set(inner_spots(clip.id, {(move.id, found[1]): range(len(own))}))
        elif key is not None and own:
            at = own[curve.keys.index(key)].at
            here = {
                (move.id, n): [i for i, k in enumerate(d.keys) if abs(k.at - at) < 1e-6]
                for n, d in enumerate(move.channels)
            }
            inner.set(inner_spots(clip.id, here))
        elif key is None and not self.is_locked(clip):
            self._turn_inner_key(clip, lane.address or "", round(curve.frame(point.x())))

    def pick_way(self, lane: Lane, point: QPointF) -> None:
        """Choose the curve of a move's channel, on from the key before a point."""
        clip = clip_by_id(self.document.project, lane.clip)
        curve, found = self.curve(lane), self._inner_of(lane)
        if clip is None or curve is None or found is None:
            return
        frame = curve.frame(point.x())
        number = max((n for n, key in enumerate(curve.keys) if key.frame <= frame), default=0)
        plain = not found[2].channels[found[1]].keys
        number = 0 if plain else min(number, len(curve.keys) - 2)
        said = self.fact(clip, lane.address or "").said
        picker = CurvePicker(curve.keys[number].curve, clip, said, self.canvas.window())
        picker.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)

        def edit(project: Project) -> Project:
            return set_departure_curve(project, clip.id, found[2].id, found[1], number, picker.text)

        picker.tried.connect(lambda _: self.document.try_on(edit))
        picker.taken.connect(lambda text: self.document.do(f"{said} by {text}", edit))
        picker.rejected.connect(self.document.drop)
        picker.open()

    def _put_key(self, clip: Clip, address: str, frame: int) -> None:
        frame = min(max(0, frame), clip.length - 1)
        if frame in all_keys(clip).get(address, ()):
            return
        said = fact_of(clip, address).said.lower()
        self.document.do(f"Set a key of {said}", lambda p: toggle_keys(p, clip.id, frame, [address]))
        self.document.keys.set([(clip.id, address, frame)])

    def menu(self, lane: Lane, point: QPointF) -> QMenu | None:
        """The menu of a lane's name; None elsewhere, where the menu of keys is."""
        clip = clip_by_id(self.document.project, lane.clip)
        address = lane.address
        if clip is not None and address is not None and address.startswith(MOVES) and point.x() >= HEADER:
            return self._way_menu(lane, clip, address, point)
        if clip is None or point.x() >= HEADER:
            return None
        if address is None or address.startswith(MOVES):
            return self._mode_menu()
        menu, said = QMenu(self.canvas), fact_of(clip, address).said.lower()
        frames = all_keys(clip).get(address, ())
        pinned = address in self.state.pinned
        menu.addAction("Unpin the lane" if pinned else "Pin the lane", lambda: self._pin(address))
        keys = menu.addAction("Select all keys of the lane")
        keys.triggered.connect(lambda: self.document.keys.set(spots_of(clip.id, {address: frames})))
        keys.setEnabled(bool(frames))
        menu.addSeparator()
        reset = menu.addAction(f"Reset {said}, without keys")
        reset.triggered.connect(
            lambda: self.document.do(f"Reset {said}", lambda p: reset_channels(p, clip.id, [address]))
        )
        return menu

    def _way_menu(self, lane: Lane, clip: Clip, address: str, point: QPointF) -> QMenu | None:
        """The menu of a move's way; on a key it is the menu of inner keys."""
        curve = self.curve(lane)
        if curve is None or self._choose_inner(lane, curve, point):
            return None
        menu, frame = QMenu(self.canvas), round(curve.frame(point.x()))
        put = menu.addAction("Put an inner key here", lambda: self._turn_inner_key(clip, address, frame))
        put.setEnabled(not self.is_locked(clip))
        menu.addAction("Choose the curve…", lambda: self.pick_way(lane, point))
        menu.addSeparator()
        for action in self._mode_menu().actions():
            menu.addAction(action)
        return menu

    def _choose_inner(self, lane: Lane, curve: LaneCurve, point: QPointF) -> bool:
        """Select the inner key under a point unless it is; whether there is one."""
        key, where = curve.key_under(point), self._inner_of(lane)
        if key is None or where is None or not where[2].channels[where[1]].keys:
            return False
        self._lead(curve.clip)
        spot = (lane.clip, where[2].id, where[1], curve.keys.index(key))
        if spot not in self.document.inner:
            self.document.inner.set([spot])
        return True

    def _pin(self, address: str) -> None:
        self.state.pinned ^= {address}
        self.canvas.lanes_changed()

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
        if curve is None or not curve.keys or (lane.address or "").startswith(MOVES):
            return
        key = curve.key_under(point) or key_before(curve.held, curve.frame(point.x())) or curve.keys[0]
        spot = (lane.clip, lane.address or "", key.frame)
        self._lead(curve.clip)
        if spot not in self.document.keys:
            self.document.keys.set([spot])

    def bracket(self, clip: Clip) -> tuple[int, int] | None:
        """The first and last frame of a clip's selected keys, where they are apart."""
        frames = [frame for own in self.document.keys.of(clip.id).values() for frame in own]
        return (min(frames), max(frames)) if frames and min(frames) < max(frames) else None

    def is_locked(self, clip: Clip) -> bool:
        """Whether a clip's track is locked."""
        return any(t.locked for t in self.document.project.sequence.tracks if clip in t.clips)

    def say_key(self, curve: LaneCurve, frame: int, point: QPointF) -> None:
        """Say beside the hand where a dragged key is."""
        clip = clip_by_id(self.document.project, curve.clip.id)
        address = curve.lane.address or ""
        if clip is not None and address in channels_of(clip):
            value = value_at(held_at(clip, address), frame)
            said = f"{fact_of(clip, address).shown(value)}\nlayer frame {frame}"
            QToolTip.showText(self.canvas.mapToGlobal(point.toPoint()), said, self.canvas)

    def select_all(self, clip: Clip) -> None:
        """Select every key of a clip's lanes; of moves' lanes their inner keys."""
        if clip.id in self.state.open and self.state.mode == "moves":
            self.document.inner.set(inner_spots(clip.id, all_inner_keys(clip)))
            return
        shown = self.state.addresses(clip) if clip.id in self.state.open else list(animated_of(clip))
        frames = {name: own for name, own in all_keys(clip).items() if name in shown}
        self.document.keys.set(spots_of(clip.id, frames))
