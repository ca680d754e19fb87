"""What the timeline shows of time and tracks: its scale, its rows, and what lies under a point."""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Protocol

from PySide6.QtCore import QPoint, QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import (
    QPainter,
    QPixmap,
    QResizeEvent,
)
from PySide6.QtWidgets import QWidget

from rovix.check.finding import KINDS, Finding
from rovix.check.legibility import is_too_short
from rovix.desktop.document import Document
from rovix.desktop.key_selection import InnerSpot, Spot
from rovix.desktop.projector import Projector
from rovix.desktop.thumbnails import Thumbnails
from rovix.desktop.timeline.clip_painter import opener_box, said_of
from rovix.desktop.timeline.gestures import part_at
from rovix.desktop.timeline.headers import Mark, mark_at
from rovix.desktop.timeline.lanes.state import LaneState
from rovix.desktop.timeline.rows import Row, content_height, row_at, rows_of
from rovix.desktop.timeline.scale import HEADER, RULER, Scale
from rovix.model import Clip, Project, Track
from rovix.model.clip_kinds import has_words, is_heard, is_layer
from rovix.motion import clip_spans
from rovix.motion.transitions import Joined, transitions_of
from rovix.time import timecode

_ROW_EDGE = 4
_RESTS = 160  # ms without a change of a draft, until a hand counts as resting
_HURRY = 0.12  # s between two redraws below which a hand is at work


class Hand(Protocol):
    """A press with the left button, and what it does as it goes."""

    def drag(self, point: QPointF) -> None: ...
    def let_go(self) -> None: ...
    def give_up(self) -> None: ...


class LanesPart(Protocol):
    """The lanes of opened clips, as what lies around them sees them."""

    state: LaneState

    def keys_in(self, box: QRectF) -> list[Spot]: ...
    def inner_keys_in(self, box: QRectF) -> list[InnerSpot]: ...
    def say_key(self, *said: Any) -> Any: ...


@dataclass(frozen=True, slots=True)
class Marked:
    """What checks found in a clip, in words, and whether something of it is wrong."""

    said: str
    is_wrong: bool


class Surface(QWidget):
    """Time across, tracks down; what paints it and what takes hold of it builds on this."""

    scale_changed = Signal()
    open_words = Signal()
    open_clip = Signal(str)
    wants_menu = Signal(str, QPoint)

    lanes: LanesPart
    paint_lanes: Callable[[QPainter, list[Row]], None]

    def __init__(self, document: Document, projector: Projector, thumbnails: Thumbnails) -> None:
        super().__init__()
        self.document, self.projector, self.thumbnails = document, projector, thumbnails
        self.scale = Scale(2.0)
        self.lifted = 0
        self.follows = True
        self.snaps_to_keys = True
        """Whether what is dragged catches on keys too."""
        self.band: QRectF | None = None
        self.hand: Hand | None = None
        self.modifiers = Qt.KeyboardModifier.NoModifier
        self._fitted = True
        self._kept: QPixmap | None = None
        self._hurried, self._redrawn = False, 0.0
        self._shown_playhead = 0
        self._pointed: str | None = None
        self.marked: dict[str, Marked] = {}
        self._listen()

    def _listen(self) -> None:
        document = self.document
        document.project_changed.connect(self._project_changed)
        document.selection_changed.connect(lambda: self.point_at(None))
        document.selection_changed.connect(self.redraw)
        document.range_changed.connect(self.redraw)
        document.keys.changed.connect(self.redraw)
        document.inner.changed.connect(self.redraw)
        document.level_changed.connect(self.fit)
        document.playhead_moved.connect(self._playhead_moved)
        # What comes by and by is looked at a few times a second; that is enough to see.
        self._slow_timer = QTimer(self, interval=200, singleShot=True)
        self._slow_timer.timeout.connect(self.redraw)
        # While a hand drags elsewhere, the timeline waits until it rests.
        self._draft_timer = QTimer(self, interval=_RESTS, singleShot=True)
        self._draft_timer.timeout.connect(self.redraw)
        self._catch_up = QTimer(self, interval=16, singleShot=True)
        self._catch_up.timeout.connect(self._go_on)
        for signal in (self.projector.cache_changed, self.thumbnails.changed, self.thumbnails.levels_changed):
            signal.connect(self._redraw_slowly)

    def sizeHint(self) -> QSize:
        return QSize(900, 250)

    def _redraw_slowly(self) -> None:
        if self.document.history.has_draft and self.hand is None:
            self._draft_timer.start()
        elif not self.document.playing and not self._slow_timer.isActive():
            self._slow_timer.start()

    def _project_changed(self) -> None:
        if self.document.history.has_draft and self.hand is None:
            self._draft_timer.start()
        else:
            self._draft_timer.stop()
            self.redraw()

    def mark(self, findings: list[Finding]) -> None:
        """Mark the clips in which checks found something."""
        found: dict[str, list[Finding]] = {}
        for one in findings:
            found.setdefault(one.layer, []).append(one)
        marked = {
            layer: Marked(
                "\n".join(KINDS[one.kind].title.lower() for one in own),
                any(not KINDS[one.kind].warns for one in own),
            )
            for layer, own in found.items() if layer
        }  # fmt: skip
        if marked != self.marked:
            self.marked = marked
            self._redraw_slowly()

    def redraw(self) -> None:
        """Draw everything anew."""
        if self._fitted and self.hand is None:
            self._fit_scale()
        lowest = max(0, self.content_height() - (self.height() - RULER))
        self.lifted = min(self.lifted, lowest)
        now = time.monotonic()
        self._hurried, self._redrawn = now - self._redrawn < _HURRY, now
        self._repaint()

    def _repaint(self) -> None:
        self._kept = None
        self.update()

    def _go_on(self) -> None:
        """Paint what was left over, once hands rest."""
        self._hurried = time.monotonic() - self._redrawn < _HURRY
        self._repaint()

    def fit(self) -> None:
        """Show the whole sequence."""
        self._fitted = True
        self.redraw()
        self.scale_changed.emit()

    @property
    def is_fitted(self) -> bool:
        return self._fitted

    def _fit_scale(self) -> None:
        room = max(50, self.width() - HEADER - 24)
        self.scale = Scale(room / max(30, self.document.length))

    def set_scale(self, scale: Scale) -> None:
        self._fitted = False
        self.scale = scale
        self.redraw()
        self.scale_changed.emit()

    def _playhead_moved(self, frame: int) -> None:
        for old in (self._shown_playhead, frame):
            self.update(int(self.scale.x(old)) - 40, 0, 80, self.height())
        self._shown_playhead = frame
        x = self.scale.x(frame)
        if self.follows and not self._fitted and self.hand is None and not HEADER <= x < self.width() - 8:
            page = (self.width() - HEADER) / self.scale.px
            first = frame if x >= self.width() - 8 and self.document.playing else frame - page / 3
            self.set_scale(Scale(self.scale.px, max(0.0, first)))

    def resizeEvent(self, event: QResizeEvent) -> None:
        self.redraw()
        self.scale_changed.emit()

    def rows(self, project: Project | None = None) -> list[Row]:
        """The rows as they stand now, or would for another project."""
        project = project or self.document.project
        return rows_of(project, self.lifted, lambda track: self.lanes.state.room(project, track))

    def content_height(self) -> int:
        """Px that all rows and lanes need below the ruler."""
        project = self.document.project
        return content_height(project, lambda track: self.lanes.state.room(project, track))

    @property
    def pointed_track(self) -> Track | None:
        """The track whose header was clicked last, until another clip is selected."""
        tracks = self.document.project.sequence.tracks
        return next((track for track in tracks if track.id == self._pointed), None)

    def point_at(self, identity: str | None) -> None:
        """Choose a track, for the commands of tracks."""
        if identity != self._pointed:
            self._pointed = identity
            self.redraw()

    def lanes_changed(self) -> None:
        """Clips were opened or closed, or show other lanes."""
        self.redraw()
        self.scale_changed.emit()

    def clip_under(self, point: QPointF) -> tuple[Clip, Row] | None:
        """The clip under a point, and its row."""
        row = row_at(self.rows(), point.y())
        if row is None or point.x() < HEADER or point.y() < RULER:
            return None
        frame = self.scale.frame(point.x())
        clips = self.document.project.sequence.tracks[row.track].clips
        return next(((clip, row) for clip in clips if frame in clip.span), None)

    def part_under(self, clip: Clip, row: Row, point: QPointF) -> str:
        """Which part of a clip a hand would grab."""
        project, frame = self.document.project, self.scale.frame(point.x())
        height = (point.y() - row.top) / row.height
        chosen = clip.id in self.document.selection
        box = self._clip_box(clip.start, clip.span.end, row)
        if chosen and opener_box(clip, box, self.document.rate, HEADER).contains(point):
            return "lanes"
        joined = self._joined(row, clip)
        return part_at(clip, project, frame, height, self.scale.px, chosen, joined)

    def _joined(self, row: Row, clip: Clip) -> Joined | None:
        track = self.document.project.sequence.tracks[row.track]
        transitions = transitions_of(track, self.document.rate)
        return next((joined for joined in transitions if joined.after is clip), None)

    def _header_under(self, point: QPointF) -> tuple[Track | None, Mark | None, Row | None]:
        row = row_at(self.rows(), point.y())
        if row is None or point.y() < RULER or point.x() >= HEADER:
            return None, None, None
        track = self.document.project.sequence.tracks[row.track]
        return track, mark_at(row, track, point), row

    def _row_edge(self, point: QPointF) -> Row | None:
        """The row whose lower edge is under a point of the headers."""
        if point.x() >= HEADER or point.y() < RULER:
            return None
        return next((row for row in self.rows() if abs(point.y() - row.bottom) <= _ROW_EDGE), None)

    def _clip_box(self, start: float, end: float, row: Row) -> QRectF:
        left, right = self.scale.x(start), self.scale.x(end)
        return QRectF(left, row.top, max(3.0, right - left - 1), row.height)

    def said(self, clip: Clip, part: str) -> str:
        """What a clip or a part of it is, in words and numbers."""
        rate = self.document.rate
        if part in ("entrance", "exit") and is_layer(clip):
            spans = clip_spans(clip, rate)
            frames = spans.entrance if part == "entrance" else spans.exit
        elif part in ("fade_in", "fade_out") and is_heard(clip):
            frames = getattr(clip.sound, part)
        elif part == "transition" and is_layer(clip) and clip.transition is not None:
            frames = rate.length(clip.transition.length)
        else:
            media = {item.id: item for item in self.document.project.media}
            seconds = float(rate.seconds(clip.length))
            start = timecode(clip.start, rate)
            short = "\ntoo short to be read" if has_words(clip) and is_too_short(clip, rate) else ""
            if clip.id in self.marked:
                short = f"\n{self.marked[clip.id].said}"
            return f"{said_of(clip, media)}\nfrom {start}\n{seconds:.2f} s · {clip.length} frames{short}"
        title = part.capitalize().replace("_", " ")
        return f"{title} {float(rate.seconds(frames)):.2f} s\n{frames} frames"
