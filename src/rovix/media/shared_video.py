"""A video file read for several who draw pictures near each other, each at its own pace."""

from __future__ import annotations

from collections import deque
from dataclasses import dataclass
from pathlib import Path

from av import VideoFrame

from rovix.media.video import VideoReader

_BYTES = 76 << 20
_MOST = 24  # frames, as far apart as two who draw stretches in turn ever are
_AHEAD = 4  # frames that are decoded before anyone asks
_MISSES = 2
_FOREVER = 1 << 62


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

    def _frame_at(self, tick: int) -> VideoFrame:
        kept = next((kept for kept in reversed(self._kept) if kept.start <= tick < kept.end), None)
        if kept is not None:
            self._missed, self._asked = 0, max(self._asked, tick)
            return kept.frame
        if self._kept and tick < self._kept[0].start and self._missed < _MISSES:
            self._missed += 1
            raise Gone
        self._missed, self._asked = 0, tick
        return super()._frame_at(tick)

    def _passed(self) -> None:
        assert self._shown is not None
        end = self._ahead.pts if self._ahead is not None else _FOREVER
        self._kept.append(_Kept(self._shown.pts, end, self._shown))
        self._bytes += _size(self._shown)
        while len(self._kept) > 1 and (len(self._kept) > _MOST or self._bytes > _BYTES):
            self._bytes -= _size(self._kept.popleft().frame)

    def _seek(self, tick: int) -> None:
        self._kept.clear()
        self._bytes = 0
        super()._seek(tick)


def _size(frame: VideoFrame) -> int:
    return sum(plane.buffer_size for plane in frame.planes)
