"""A video file read for several who draw pictures near each other, each at its own pace."""

from __future__ import annotations

import time as clock
from collections import deque
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import numpy as np
from av import VideoFrame
from av.video.reformatter import VideoReformatter
from numpy.typing import NDArray

from rovix.media.glimpses import Glimpses
from rovix.media.video import VideoReader

Pixels = NDArray[np.uint8]
Size = tuple[int, int]
_BYTES = 76 << 20
_MOST = 24  # frames, as far apart as two who draw stretches in turn ever are
_AHEAD = 4  # frames that are decoded before anyone asks
_MISSES = 2
_FOREVER = 1 << 62
_AT_ONCE = 0.08  # seconds of decoding that are still at once
_CLOSE = Fraction(3, 4)  # seconds off, within which a picture will do for another
_USUAL = 0.01  # seconds that a frame takes, until it is known


class Gone(Exception):
    """A frame that was let go a moment ago: whoever is so far behind decodes it alone."""


@dataclass(frozen=True, slots=True, eq=False)
class _Kept:
    """A frame that is shown from one tick to before another."""

    start: int
    end: int
    frame: VideoFrame


class SharedVideo(VideoReader):
    """Keeps the frames decoded last, and decodes some ahead.

    Going back for one who lags would cost all others theirs; so they raise Gone at first. Only who asks
    again and again, with nobody else in between, has the file sought.
    """

    converted = 4  # one for each who draws, as all ask in between each other

    def __init__(self, path: Path, deinterlace: bool = False) -> None:
        self._kept: deque[_Kept] = deque()
        self._bytes = self._missed = 0
        self._asked = -1
        self._glimpses = Glimpses()
        self._smaller = VideoReformatter()
        self._takes = _USUAL
        super().__init__(path, deinterlace)

    def look_ahead(self) -> bool:
        """Decode one frame that nobody asked for yet; False where enough are."""
        ahead = self._ahead
        if self._asked < 0 or ahead is None:
            return False
        if sum(kept.start > self._asked for kept in self._kept) >= _AHEAD:
            return False
        super()._frame_at(ahead.pts)
        return True

    def come_nearer(self, time: Fraction, lags: bool) -> bool:
        """Decode one frame towards a time in seconds; whether asking for its picture takes no decoding any
        more. One who `lags` may be told that it is gone."""
        tick = self._tick(time)
        if self._found(tick) is not None or (lags and self._is_gone(tick)):
            return True
        self._missed = 0
        if self._is_elsewhere(tick):
            self._seek(tick)
        return self._is_at(tick) or not self._advance() or self._is_at(tick)

    def is_at_hand(self, time: Fraction) -> bool:
        """Whether the picture of a time in seconds comes at once, or that it is gone."""
        tick = self._tick(time)
        return self._found(tick) is not None or self._is_gone(tick) or self._comes_at_once(tick)

    def nearest(self, time: Fraction, shrunk: Size | None, about: bool) -> tuple[Pixels, bool]:
        """The picture of a time in seconds where it comes at once, True; else the nearest one there is,
        of any size. Then what is decoded later is kept to be shown so, too."""
        tick = self._tick(time)
        self._glimpses.shrunk = shrunk
        if self._found(tick) is None and not self._comes_at_once(tick):
            near = self._near(tick, shrunk, about)
            if near is not None:
                return near, False
        return self.picture(time, shrunk, about), True

    def _near(self, tick: int, shrunk: Size | None, about: bool) -> Pixels | None:
        """A picture nearby; None where what is at hand leads to the picture itself at once."""
        self._glimpses.wanted = True
        close = int(_CLOSE / self._base)
        if self._is_elsewhere(tick) and self._off(tick) > close:
            self._seek(tick)
            self._advance()
            if self._comes_at_once(tick):
                return None
        if self._shown is not None and self._shown_off(tick) <= self._glimpses.off(tick):
            kept = min(self._kept, key=lambda one: abs(one.start - tick))
            return self._pixels_of(kept.frame, shrunk, about)
        return self._glimpses.nearest(tick)

    def _off(self, tick: int) -> int:
        return min(self._shown_off(tick), self._glimpses.off(tick))

    def _shown_off(self, tick: int) -> int:
        """How many ticks off the nearest frame is that is kept whole."""
        return min((abs(kept.start - tick) for kept in self._kept), default=_FOREVER)

    def _comes_at_once(self, tick: int) -> bool:
        shown = self._shown
        if shown is None or self._is_elsewhere(tick):
            return False
        rate = self._stream.average_rate or self._stream.guessed_rate or 25
        return (tick - shown.pts) * float(self._base * rate) * self._takes < _AT_ONCE

    def _found(self, tick: int) -> _Kept | None:
        return next((kept for kept in reversed(self._kept) if kept.start <= tick < kept.end), None)

    def _is_gone(self, tick: int) -> bool:
        return bool(self._kept) and tick < self._kept[0].start and self._missed < _MISSES

    def _frame_at(self, tick: int) -> VideoFrame:
        kept = self._found(tick)
        if kept is not None:
            self._missed, self._asked = 0, max(self._asked, tick)
            return kept.frame
        if self._is_gone(tick):
            self._missed += 1
            raise Gone
        self._missed, self._asked = 0, tick
        return super()._frame_at(tick)

    def _advance(self) -> bool:
        begun = clock.perf_counter()
        more = super()._advance()
        self._takes += 0.2 * (clock.perf_counter() - begun - self._takes)
        return more

    def _passed(self) -> None:
        shown = self._shown
        assert shown is not None
        end = self._ahead.pts if self._ahead is not None else _FOREVER
        self._kept.append(_Kept(shown.pts, end, shown))
        self._bytes += _size(shown)
        while len(self._kept) > 1 and (len(self._kept) > _MOST or self._bytes > _BYTES):
            self._bytes -= _size(self._kept.popleft().frame)
        if self._glimpses.lacks(shown.pts, self._base):
            small = self._glimpses.size(self._size_of(shown))
            self._glimpses.add(shown.pts, self._converted(shown, small, self._smaller))

    def _seek(self, tick: int) -> None:
        self._kept.clear()
        self._bytes = 0
        super()._seek(tick)


def _size(frame: VideoFrame) -> int:
    return sum(plane.buffer_size for plane in frame.planes)
