"""Samples for a sound device: the mix of a span from a frame on, once or again and again."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from rovix.media import Mixer
from rovix.model import Sequence
from rovix.time import Span

Samples = NDArray[np.float32]


class SampleSource:
    """Mixes a second at a time, as it is read."""

    def __init__(
        self,
        sequence: Sequence,
        span: Span,
        start: int,
        loop: bool,
        sound_of: Callable[[str], Samples | None],
        sequences: tuple[Sequence, ...] = (),
    ) -> None:
        self._sequence, self._span, self._loop = sequence, span, loop
        self._mixer = Mixer(sequence, sound_of, sequences)
        self._frame = start
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
        part = self._mixer.mix(Span(self._frame, end))
        self._frame = end
        self._ready = np.concatenate([self._ready, part])
        return True
