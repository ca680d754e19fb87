"""Which process draws which of the frames that come.

Frames in a row go to one process: a picture of footage serves several of them, and moves are evaluated
together. Where a layer trails copies of itself, frames as far apart as the copies go to one process, too: it
has drawn then what it lays as copies. Shared out in any other way both would draw all of it.
"""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from math import gcd

from rovix.model import Project, Sequence
from rovix.model.effects.echo_trail import EchoTrail
from rovix.motion.scene import clips_at

STRETCH = 8
"""Frames in a row that one process draws."""
_KNOWN = 1024  # rounds whose gap is known


class SharingOut:
    """Shares the frames of a project's first sequence out to `count` processes."""

    def __init__(self, project: Project, count: int) -> None:
        self._sequence, self._count = project.sequence, count
        self._gaps: dict[int, int] = {}

    def drawer_of(self, frame: int) -> int:
        """The number of the process that best draws a frame (from 0)."""
        return drawer_of(frame, self._count, self._gap(frame // (STRETCH * self._count)))

    def _gap(self, number: int) -> int:
        """The gap throughout a round, in which each process has a stretch. It is asked for while the window
        waits: one by one all frames about the playhead would take over a millisecond on 40 tracks."""
        gap = self._gaps.get(number)
        if gap is None:
            if len(self._gaps) >= _KNOWN:
                self._gaps.clear()
            most = STRETCH * self._count
            first, last = number * most, number * most + most - 1
            gap = gap_at(self._sequence, last, most)
            gap = self._gaps[number] = gap if gap > 1 else gap_at(self._sequence, first, most)
        return gap


def drawer_of(frame: int, count: int, gap: int) -> int:
    """Which of `count` processes draws a frame, where frames that are `gap` apart belong together."""
    if gap >= count:
        return frame % gap * count // gap
    first = frame % gap
    beside = len(range(first, count, gap))
    return first + gap * (frame // gap // STRETCH % beside)


def gap_at(sequence: Sequence, frame: int, most: int) -> int:
    """How far apart, at most, frames about this one are that belong together; 1 where all that matters is
    that they follow each other."""
    found = gcd(*_gaps(sequence, frame))
    return next((gap for gap in range(most, 1, -1) if found and found % gap == 0), 1)


def _gaps(sequence: Sequence, frame: int) -> Iterator[int]:
    """The gaps of the copies of the layers at a frame, where they are whole frames throughout."""
    for clip in clips_at(sequence.tracks, frame):
        for effect in clip.effects:
            if isinstance(effect, EchoTrail) and effect.shown and effect.copies and effect.unit != "px":
                gap = _in_frames(sequence, effect)
                if gap.denominator == 1 and gap > 0:
                    yield int(gap)


def _in_frames(sequence: Sequence, echo: EchoTrail) -> Fraction:
    if not isinstance(echo.gap, int | float):
        return Fraction(0)  # it changes
    gap = Fraction(echo.gap)
    return gap if echo.unit == "frames" else sequence.frame_rate.position(gap)
