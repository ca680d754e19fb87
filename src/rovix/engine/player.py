"""Playing at true speed: which frame is due, and which came late."""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import dataclass
from math import floor

from rovix.time import Rate, Span


@dataclass(frozen=True, slots=True)
class Run:
    """What is played: frames of a span from `start`, at a speed (1 true, negative backwards)."""

    span: Span
    start: int
    speed: float
    loop: bool


class SilentClock:
    """The stand-in for a sound device: time passes as it does."""

    def __init__(self, now: Callable[[], float] = time.monotonic) -> None:
        self._now = now
        self._since = now()

    def start(self, run: Run) -> None:
        """Playing begins."""
        self._since = self._now()

    def stop(self) -> None:
        """Playing ends."""

    def seconds(self) -> float:
        """Seconds since the start."""
        return self._now() - self._since


class Player:
    """Says which frame is due by a clock, and counts those that were not on screen in their time."""

    def __init__(self, clock: SilentClock | None = None) -> None:
        self.clock = clock or SilentClock()
        self.playing = False
        self.late = 0
        self.played = 0
        self.speed = 1.0
        self._span, self._rate, self._start, self._loop = Span(0, 1), Rate(30), 0, False
        self._due: int | None = None
        self._steps = 0
        self._shown = False

    def start(self, frame: int, span: Span, rate: Rate, speed: float = 1.0, loop: bool = False) -> None:
        """Play a span from a frame in it at a speed (1 true, negative backwards), once or in a loop."""
        self._span, self._rate, self._loop, self.speed = span, rate, loop, speed
        self._start = min(max(frame, span.start), span.end - 1)
        self.playing, self.late, self.played = True, 0, 0
        self._due, self._steps, self._shown = self._start, 0, False
        self.clock.start(Run(span, self._start, speed, loop))

    def stop(self) -> None:
        self.playing = False
        self.clock.stop()

    def due(self) -> int:
        """The frame that should be on screen now. At the end of a single run playing stops."""
        if not self.playing:
            return self._due if self._due is not None else self._start
        steps = floor(self.clock.seconds() * float(self._rate.fraction) * abs(self.speed) + 1e-9)
        if steps > self._steps:
            self._advance(steps)
        assert self._due is not None
        return self._due

    def note_shown(self, frame: int) -> None:
        """The picture of a frame is on screen."""
        if frame == self._due:
            self._shown = True

    def _advance(self, steps: int) -> None:
        passed = steps - self._steps
        self.played += passed
        # The frame that was due, if it never showed, and every frame leapt over.
        self.late += passed - 1 + (0 if self._shown else 1)
        self._steps, self._shown = steps, False
        frame = self._start + (steps if self.speed > 0 else -steps)
        if frame in self._span:
            self._due = frame
        elif self._loop:
            self._due = self._span.start + (frame - self._span.start) % self._span.length
        else:
            self._due = self._span.end - 1 if self.speed > 0 else self._span.start
            self.playing = False
