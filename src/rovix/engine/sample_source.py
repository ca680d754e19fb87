"""Samples for a sound device: the mix of a span from a frame on, once or again and again."""

from __future__ import annotations

import queue
import threading
import time
from contextlib import suppress

import numpy as np
from numpy.typing import NDArray

from rovix.media.mix import Mixer
from rovix.media.move_sounds import SoundOf
from rovix.media.samples import SAMPLE_RATE
from rovix.model import Sequence
from rovix.time import Span

Samples = NDArray[np.float32]
_CHUNK = 2400  # samples, a twentieth of a second


class SamplesAhead:
    """Takes samples from a source on a thread of its own, so that whoever plays them never waits."""

    def __init__(self, source: SampleSource, seconds: float = 1.5) -> None:
        self._source = source
        self._chunks: queue.Queue[Samples] = queue.Queue(max(2, round(seconds * SAMPLE_RATE / _CHUNK)))
        self._left = np.zeros((0, 2), dtype=np.float32)
        self._stopped = threading.Event()
        self.missed = 0
        """Samples that were not there in time; silence took their place."""
        self._overdue = 0
        self._thread = threading.Thread(target=self._work, daemon=True, name="mixing")
        self._thread.start()

    def wait_for_some(self, seconds: float) -> bool:
        """Whether something to play is there, within a time."""
        end = time.monotonic() + seconds
        while self._chunks.empty() and not len(self._left) and time.monotonic() < end:
            time.sleep(0.002)
        return not self._chunks.empty() or len(self._left) > 0

    def read(self, count: int) -> Samples:
        """The next `count` samples (count, 2); silence for those that are not there yet."""
        parts, have = [self._left], len(self._left)
        while have < count:
            try:
                parts.append(self._in_time(self._chunks.get_nowait()))
            except queue.Empty:
                break
            have += len(parts[-1])
        joined = np.concatenate(parts)
        out, self._left = joined[:count], joined[count:]
        if len(out) < count:
            self.missed += count - len(out)
            self._overdue += count - len(out)
            out = np.concatenate([out, np.zeros((count - len(out), 2), dtype=np.float32)])
        return out

    def _in_time(self, chunk: Samples) -> Samples:
        """A chunk without what should have been heard while there was silence in its place: what comes after
        would be late for its picture for ever."""
        gone = min(self._overdue, len(chunk))
        self._overdue -= gone
        return chunk[gone:]

    def stop(self) -> None:
        """End the thread."""
        self._stopped.set()
        while self._thread.is_alive():
            with suppress(queue.Empty):
                self._chunks.get_nowait()
            self._thread.join(0.01)

    def _work(self) -> None:
        while not self._stopped.is_set():
            chunk = self._source.read(_CHUNK)
            while not self._stopped.is_set():
                with suppress(queue.Full):
                    self._chunks.put(chunk, timeout=0.05)
                    break


class SampleSource:
    """Mixes a second at a time, as it is read."""

    def __init__(
        self,
        sequence: Sequence,
        span: Span,
        start: int,
        loop: bool,
        sound_of: SoundOf,
        sequences: tuple[Sequence, ...] = (),
    ) -> None:
        self._sequence, self._span, self._loop = sequence, span, loop
        self._mixer = Mixer(sequence, sound_of, sequences)
        self._frame = start
        self._frames = self._samples = 0
        """Mixed since the start, over all rounds."""
        self._ready = np.zeros((0, 2), dtype=np.float32)

    def read(self, count: int) -> Samples:
        """The next `count` samples (count, 2), within full scale; silence after the end."""
        while len(self._ready) < count and self._mix_more():
            pass
        out, self._ready = self._ready[:count], self._ready[count:]
        if len(out) < count:
            out = np.concatenate([out, np.zeros((count - len(out), 2), dtype=np.float32)])
        return np.clip(out, -1.0, 1.0)

    def _mix_more(self) -> bool:
        if self._frame >= self._span.end:
            if not self._loop:
                return False
            self._frame = self._span.start
        end = min(self._span.end, self._frame + self._sequence.frame_rate.nominal)
        part = self._in_step(self._mixer.mix(Span(self._frame, end)), end - self._frame)
        self._frame = end
        self._ready = np.concatenate([self._ready, part])
        return True

    def _in_step(self, part: Samples, frames: int) -> Samples:
        """A part with as many samples as its frames take of the time since the start.

        A round of frames that is no whole number of samples would run off a little each time: seconds a
        day for short ones.
        """
        self._frames += frames
        due = round(self._frames * SAMPLE_RATE / self._sequence.frame_rate.fraction) - self._samples
        self._samples += due
        return part[:due] if due <= len(part) else np.pad(part, ((0, due - len(part)), (0, 0)), mode="edge")
