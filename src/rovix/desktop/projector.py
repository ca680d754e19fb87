"""The picture on screen: asks the picture service, hears its answers, plays."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from math import ceil
from multiprocessing.connection import Connection
from pathlib import Path

from PySide6.QtCore import QObject, Qt, QTimer, Signal

from rovix.desktop.document import Document
from rovix.desktop.pipes import Pipes
from rovix.engine.picture_service import Picture, Pictures
from rovix.engine.player import Player, Run
from rovix.engine.quality import FULL, LADDER, Governor, Quality
from rovix.time import Span

_AHEAD = 150
_REST, _TYPING_REST = 180, 900  # ms without a change before pictures ahead are drawn
_AHEAD_PLAYING = 48
_JUDGED = 2.0  # seconds by whose frames it is judged how well to begin
_RUN_UP = 0.25  # seconds that are drawn before the clock starts
FULL_PLAYING = "play/full"
"""The setting that keeps pictures at their full size while playing."""
_BEHIND = 30  # frames behind that are shown at most where nothing else is there
_LOOKED_AT = 32
"""Frames ahead that are looked at to see whether drawing keeps pace."""


class Projector(QObject):
    """Keeps the picture of the playhead's frame on its way to the viewer."""

    picture_shown = Signal(object)
    play_changed = Signal(bool)
    cache_changed = Signal()

    def __init__(self, document: Document, service: Pictures, player: Player) -> None:
        super().__init__(document)
        self._document, self._service, self.player = document, service, player
        self.picture: Picture | None = None
        self._pipes = Pipes(self._hear, self)
        service.on_watch = self._pipes.watch
        service.on_note = document.problem.emit
        self._tick = QTimer(self)
        self._tick.setTimerType(Qt.TimerType.PreciseTimer)
        self._tick.timeout.connect(self._advance)
        document.project_changed.connect(self._project_changed)
        document.playhead_moved.connect(self._playhead_moved)
        self.governor = Governor(service.drawing)
        document.opened.connect(lambda: self.governor.forget())
        self.governed = True
        """Whether pictures are drawn smaller while playing where they would come late."""
        service.on_cost = self.governor.note_cost
        self._size: tuple[int, int] | None = None
        self._sized = False
        self._was_up = False
        self._cue: Run | None = None
        self._run: Run | None = None
        self._cue_timer = QTimer(self, interval=1000, singleShot=True)
        self._cue_timer.timeout.connect(self._start_clock)
        # While a hand drags, every core is for the picture under it; filling ahead can wait.
        self._rest = QTimer(self, singleShot=True)
        self._rest.timeout.connect(lambda: self._fill_from(document.playhead))

    @property
    def size(self) -> tuple[int, int] | None:
        """The width and height in px of pictures; None before any was asked for."""
        return self._size

    def resize(self, size: tuple[int, int]) -> None:
        """Draw at this size in px."""
        self._release()
        if self._size is not None:
            self.governor.resized(size[0] * size[1] / (self._size[0] * self._size[1]))
        self._size = size
        self._service.resize(size)
        if not self._sized:
            self._sized = True
            self._service.show(self._document.picture_project, self._document.base)
        self._ask(self._document.playhead)

    def use_proxies(self, proxies: Mapping[str, Path]) -> None:
        """Show these files in place of footage, by the ids of media."""
        self._service.use_proxies(proxies)
        if self._sized:
            if not self.playing:
                self._ask(self._document.playhead)
            self.cache_changed.emit()

    def play(self, span: Span | None = None, speed: float = 1.0, loop: bool = False) -> None:
        """Play a span, what the document says if none is given, from the playhead."""
        document = self._document
        span = span or document.play_span
        frame = document.playhead
        at_end = frame >= span.end - 1 if speed > 0 else frame <= span.start
        if frame not in span or at_end:
            frame = span.start if speed > 0 else span.end - 1
        document.playing = True
        self._govern(frame, span, speed)
        document.seek(frame)
        self._cue = self._run = Run(span, frame, speed, loop)
        self._show_due(frame)
        if self._cue is not None:
            # The clock waits for the first picture, but not for ever.
            self._cue_timer.start()
        self.play_changed.emit(True)

    def _govern(self, frame: int, span: Span, speed: float) -> None:
        """Begin as well as what was measured allows at this speed."""
        if self.governed:
            rate = float(self._document.rate.fraction) * abs(speed)
            coming = _beginning(frame, span, speed, ceil(_JUDGED * rate))
            missing = [number for number in coming if not self._service.ahead((number,))]
            self.governor.begin(1000 / rate, missing, len(coming) - len(missing))
            self._service.draw_at(self.governor.quality, LADDER[-1])

    @property
    def quality(self) -> Quality:
        """How well pictures are drawn now."""
        return self.governor.quality if self.governed and self._run is not None else FULL

    @property
    def begins(self) -> bool:
        """Whether the first picture of all is asked for and not there yet."""
        return self._sized and not self._was_up

    @property
    def playing(self) -> bool:
        """Whether it plays, or is about to."""
        return self._cue is not None or self.player.playing

    def _start_when_ready(self) -> None:
        """Start the clock once the first picture is up and the next few are there."""
        cue, picture = self._cue, self.picture
        if cue is None or picture is None or picture.frame != cue.start:
            return
        run_up = self.governor.run_up(_RUN_UP) if self.governed else _RUN_UP
        frames = ceil(run_up * float(self._document.rate.fraction) * abs(cue.speed))
        way = frames if cue.speed > 0 else -frames
        low, high = sorted((cue.start, cue.start + way))
        if self._service.has(range(max(low, cue.span.start), min(high, cue.span.end))):
            self._start_clock()

    def _start_clock(self) -> None:
        cue, self._cue = self._cue, None
        self._cue_timer.stop()
        if cue is not None:
            self.player.start(cue.start, cue.span, self._document.rate, cue.speed, cue.loop)
            if self.picture is not None:
                self.player.note_shown(self.picture.frame)
            self._tick.start(4)

    def stop(self) -> None:
        if self.playing or self._tick.isActive():
            self._cue = self._run = None
            self._cue_timer.stop()
            self.player.stop()
            self._tick.stop()
            self._document.playing = False
            self._service.draw_at(FULL)
            self._service.improve(())
            self.play_changed.emit(False)
            self._ask(self._document.playhead)

    def close(self) -> None:
        """Let go of the picture and end the service."""
        self._tick.stop()
        self._rest.stop()
        self._cue_timer.stop()
        self._release()
        self._service.close()

    def ready(self) -> list[int]:
        """The frames whose pictures are ready, in order."""
        return self._service.ready()

    def _release(self) -> None:
        """Nobody may hold pixels of a ring that is about to go."""
        self.picture = None
        self.picture_shown.emit(None)

    def _project_changed(self) -> None:
        self.governor.changed()
        if self._sized:
            self._service.show(self._document.picture_project, self._document.base)
            self._ask(self._document.playhead)
            self.cache_changed.emit()

    def _playhead_moved(self, frame: int) -> None:
        if self._sized and not self.playing:
            self._ask(frame)

    def _ask(self, frame: int) -> None:
        if not self._sized:
            return
        self._service.fill(())
        picture = self._service.want(frame, hurried=True)
        if picture is not None:
            self._put_up(picture)
        # Between two letters lies longer than between two steps of a drag.
        self._rest.start(_TYPING_REST if self._document.typing else _REST)

    def _fill_from(self, frame: int) -> None:
        """Have the next frames drawn: far ahead at rest, while playing only what evens out a stall,
        so that the cores are not kept busier than the picture needs."""
        following = self._frames_after(frame)
        if self.player.playing and self.governed and not self._service.ahead(following[:1]):
            # Nothing is ready: what is due sooner than it can be drawn would only make the rest late too.
            following = following[self.governor.frames_away :]
        self._service.fill(following)
        run = self._run
        if run is not None and run.loop and self.player.playing and self.governed:
            # In the next round all of it is to be there in full.
            around = range(run.span.start, run.span.end)
            at = frame - run.span.start + 1
            self._service.improve([*around[at:], *around[:at]])

    def _frames_after(self, frame: int) -> Sequence[int]:
        """The frames to have ready next, in the order in which they are due."""
        run = self._run
        if run is None:
            return range(frame + 1, min(self._document.length, frame + _AHEAD))
        if run.speed < 0:
            return range(frame - 1, max(run.span.start - 1, frame - _AHEAD_PLAYING), -1)
        frames = list(range(frame + 1, min(run.span.end, frame + _AHEAD_PLAYING)))
        if run.loop:
            missing = _AHEAD_PLAYING - len(frames)
            frames += range(run.span.start, min(run.span.end, run.span.start + missing))
        return frames

    def _advance(self) -> None:
        before = self._document.playhead
        frame = self.player.due()
        if frame != before:
            self._document.seek(frame)
            self._keep_pace(frame)
            self._show_due(frame)
        if not self.player.playing:
            self.stop()

    def _keep_pace(self, frame: int) -> None:
        """Draw better or less well from here on, by how many pictures are ready."""
        if not self.governed or self._run is None:
            return
        coming = self._frames_after(frame)[:_LOOKED_AT]
        before = self.governor.quality
        self.governor.note_due(self._service.ahead(coming), len(coming))
        if self.governor.quality != before:
            self._service.draw_at(self.governor.quality, LADDER[-1])

    def _show_due(self, frame: int) -> None:
        service, begun = self._service, self.player.playing and self.governed
        picture = service.hope(frame, self._since_shown(frame)) if begun else service.want(frame)
        if picture is not None:
            self._put_up(picture)
        self._fill_from(frame)

    def _since_shown(self, frame: int) -> Sequence[int]:
        """The frames of what is played from one back to what is on screen: where it hangs behind, the latest
        of them does."""
        run = self._run
        if run is None:
            return ()
        shown = self.picture.frame if self.picture is not None else None
        step = 1 if run.speed > 0 else -1
        if shown is None or not 0 < (frame - shown) * step <= _BEHIND:
            shown = frame - step * _BEHIND
        return [before for before in range(frame - step, shown, -step) if before in run.span]

    def _put_up(self, picture: Picture) -> None:
        self.picture, self._was_up = picture, True
        self._start_when_ready()
        self.player.note_shown(picture.frame)
        self.picture_shown.emit(picture)

    def _hear(self, connection: Connection) -> None:
        picture = self._service.receive(connection)
        if picture is not None:
            self._put_up(picture)
        self._start_when_ready()
        self.cache_changed.emit()


def _beginning(frame: int, span: Span, speed: float, most: int) -> range:
    """The frames that playing begins with, `most` of them."""
    if speed < 0:
        return range(frame, max(span.start - 1, frame - most), -1)
    return range(frame, min(span.end, frame + most))
