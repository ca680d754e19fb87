"""Sound files, decoded a block at a time."""

from __future__ import annotations

from collections import deque
from collections.abc import Iterator
from fractions import Fraction
from math import ceil
from pathlib import Path

import av
import numpy as np
from av.audio.resampler import AudioResampler
from numpy.typing import NDArray

from rovix.media.containers import opened, video_stream
from rovix.media.errors import MediaError
from rovix.media.samples import SAMPLE_RATE, Resampled

Samples = NDArray[np.float32]
RATES = (1_000, 768_000)
"""The rates, samples a second, that a sound may have: both included."""
LONGEST = 100 * 3600
"""The most seconds that a sound may have."""
_NEAR = 30  # seconds ahead that are sooner decoded through than sought
_RUN_UP = Fraction(1, 2)  # seconds decoded before those that count: codecs need what came before
# Where a seek lands on the very packet asked for; in others all is decoded from the start.
_SEEKABLE = frozenset({"wav", "w64", "flac", "aiff", "caf", "matroska", "webm", "mov", "mp4", "m4a"})


class SoundFile(Resampled):
    """A file's sound at 48 kHz, from where its pictures start, or the sound itself where it has none.

    MediaError for files without sound that can be read. Closed when it is given up.
    """

    def __init__(self, path: Path) -> None:
        self.path = path
        self._decoder = _Decoder(path)
        super().__init__(self._read, self._decoder.rate, self._decoder.count)

    def close(self) -> None:
        self._decoder.close()

    def _read(self, low: int, high: int) -> Samples:
        try:
            return self._decoder.read(low, high)
        except av.FFmpegError as wrong:
            raise MediaError(self.path, f"its sound is damaged ({wrong.strerror})") from wrong
        except (ValueError, ArithmeticError, MemoryError) as wrong:
            raise MediaError(self.path, f"its sound is damaged ({wrong})") from wrong


def check_sound(path: Path, rate: int, seconds: float) -> None:
    """MediaError for a rate or a length out of reason."""
    if not RATES[0] <= rate <= RATES[1]:
        raise MediaError(path, f"its sound says {rate} samples a second; {RATES[0]} to {RATES[1]} are read")
    if seconds > LONGEST:
        raise MediaError(path, f"it says to be {seconds / 3600:.0f} hours long; at most {LONGEST // 3600}")


class _Decoder:
    """Samples of a file's own rate, both sides; decoded in order, and sought where that is exact."""

    def __init__(self, path: Path) -> None:
        self._path = path
        self._container = opened(path)
        if not self._container.streams.audio:
            self._container.close()
            raise MediaError(path, "it holds no sound")
        self._stream = self._container.streams.audio[0]
        self.rate = self._stream.codec_context.sample_rate
        seconds = _seconds(self._container, self._stream)
        try:
            check_sound(path, self.rate, float(seconds))
        except MediaError:
            self._container.close()
            raise
        self._zero = _zero(self._container, self._stream)
        self.count = ceil(seconds * self.rate)
        # FFmpeg takes 3 dB off when it spreads one channel over two; we want it whole on both.
        self._layout = "mono" if self._stream.codec_context.channels == 1 else "stereo"
        names = set(self._container.format.name.split(","))
        self._seeks = bool(names & _SEEKABLE)
        self._parts: deque[tuple[int, Samples]] = deque()
        self._grid = self._found_grid()
        self._restart()

    def close(self) -> None:
        self._container.close()

    def _restart(self) -> None:
        # Opened anew: not every file can be sought, be it to its start.
        self._container.close()
        self._container = opened(self._path)
        self._stream = self._container.streams.audio[0]
        self._begin(None)

    def _begin(self, at: int | None) -> None:
        self._frames: Iterator[tuple[int, Samples]] = self._decoded(at)
        self._parts.clear()
        self._next = 0 if at is None else at
        self._ended = False

    def read(self, low: int, high: int) -> Samples:
        """(high - low, 2): samples `low` to `high`; silence where there are none."""
        out = np.zeros((high - low, 2), dtype=np.float32)
        self._go_to(low)
        while not self._ended and self._next < high:
            self._decode_more()
        while self._parts and self._parts[0][0] + len(self._parts[0][1]) <= low - self.rate:
            self._parts.popleft()
        for start, part in self._parts:
            first, last = max(low, start), min(high, start + len(part))
            if first < last:
                out[first - low : last - low] = part[first - start : last - start]
        return out

    def _go_to(self, low: int) -> None:
        """Have what comes next in the decoder be at or before a sample."""
        held = self._parts[0][0] if self._parts else self._next
        if held <= low <= self._next + _NEAR * self.rate:
            return
        if self._seeks and low > _NEAR * self.rate and self._stream.time_base:
            at = Fraction(low, self.rate) - _RUN_UP + self._zero
            try:
                self._container.seek(int(at / self._stream.time_base), stream=self._stream, backward=True)
            except av.FFmpegError:
                self._seeks = False
                self._restart()
                return
            self._begin(low - int(_RUN_UP * self.rate))
        elif low < held:
            self._restart()

    def _decode_more(self) -> None:
        found = next(self._frames, None)
        if found is None:
            self._ended = True
            return
        start, part = found
        self._next = max(self._next, start + len(part))
        self._parts.append((start, part))
        # What lies long before what is read now is read no more.
        while len(self._parts) > 2 and self._next - self._parts[0][0] > _HELD * self.rate:
            self._parts.popleft()

    def _decoded(self, at: int | None) -> Iterator[tuple[int, Samples]]:
        """Parts of the sound and the sample at which each starts, from packets on that were sought."""
        resampler = AudioResampler(format="fltp", layout=self._layout, rate=self.rate)
        position = at
        frames = self._container.decode(self._stream)
        if at is not None:
            # The first behind a seek may have been cut, without its time saying so.
            next(frames, None)
        for frame in frames:
            if position is None or at is not None:
                position, at = self._position(frame, position), None
            for part in resampler.resample(frame):
                made = part.to_ndarray()
                samples = np.ascontiguousarray((made if len(made) == 2 else np.repeat(made, 2, axis=0)).T)
                yield position, samples
                position += len(samples)

    def _found_grid(self) -> tuple[int, int] | None:
        """Where frames start, as a first sample and a step, for files whose times are coarser than a
        sample: those of Matroska are rounded to a thousandth of a second."""
        base = self._stream.time_base
        if base is None or base * self.rate <= 1:
            return None
        lengths = [
            frame.samples for frame, _ in zip(self._container.decode(self._stream), range(3), strict=False)
        ]
        return (lengths[0], lengths[1]) if len(lengths) == 3 and lengths[1] == lengths[2] else None

    def _position(self, frame: av.AudioFrame, otherwise: int | None) -> int:
        if frame.pts is None or frame.time_base is None:
            return otherwise or 0
        position = round((frame.pts * frame.time_base - self._zero) * self.rate)
        if self._grid is None or position < self._grid[0] // 2:
            return position
        first, step = self._grid
        near = first + round((position - first) / step) * step
        return near if abs(near - position) <= frame.time_base * self.rate else position


_HELD = 90  # seconds of decoded sound that stay at hand


def _seconds(container: av.container.InputContainer, stream: av.AudioStream) -> Fraction:
    if stream.duration and stream.time_base:
        return stream.duration * stream.time_base
    return Fraction(container.duration or 0, av.time_base)


def _zero(container: av.container.InputContainer, stream: av.AudioStream) -> Fraction:
    """The time, in seconds of the file, from which its material counts."""
    leading = video_stream(container) or stream
    if leading.start_time is None or leading.time_base is None:
        return Fraction(0)
    return Fraction(leading.start_time * leading.time_base)


__all__ = ["LONGEST", "RATES", "SAMPLE_RATE", "SoundFile", "check_sound"]
