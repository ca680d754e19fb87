"""The sound of a file that is being written by FFmpeg."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from typing import Any

import av
import numpy as np
from av import AudioFrame
from numpy.typing import NDArray

from rovix.media.samples import SAMPLE_RATE


@dataclass(frozen=True, slots=True)
class SoundForm:
    """How sound is coded: by which `codec`, as which `format`, so many in a `block`, bits a second."""

    codec: str
    format: str
    block: int
    bit_rate: int | None = None


class SoundTrack:
    """A stream of sound, 48 kHz stereo, given in stretches of any length and coded in blocks."""

    def __init__(self, container: av.container.OutputContainer, form: SoundForm) -> None:
        self._container, self._form = container, form
        self._stream = _sound_stream(container, form)
        self._samples = 0
        self._waiting = np.zeros((0, 2), dtype=np.float32)

    def add(self, samples: NDArray[np.float32]) -> None:
        """The next samples (n, 2); beyond full scale they are cut off."""
        self._waiting = np.concatenate([self._waiting, np.clip(samples, -1, 1)])
        while len(self._waiting) >= self._form.block:
            self._encode(self._form.block)

    def end(self) -> None:
        """Write what waits."""
        if len(self._waiting):
            self._encode(len(self._waiting))
        self._container.mux(self._stream.encode(None))

    def _encode(self, count: int) -> None:
        block, self._waiting = self._waiting[:count], self._waiting[count:]
        frame = _as_samples(block, self._form.format)
        frame.sample_rate, frame.pts = SAMPLE_RATE, self._samples
        frame.time_base = Fraction(1, SAMPLE_RATE)
        self._samples += count
        self._container.mux(self._stream.encode(frame))


def _as_samples(block: NDArray[np.float32], kind: str) -> AudioFrame:
    if kind == "fltp":
        return AudioFrame.from_ndarray(np.ascontiguousarray(block.T), format=kind, layout="stereo")
    if kind == "flt":
        return AudioFrame.from_ndarray(block.reshape(1, -1), format=kind, layout="stereo")
    # Full scale both ways is the same number of steps, as IEC 61606-1 counts it.
    whole = np.rint(block.astype(np.float64) * 32767).astype(np.int16)
    return AudioFrame.from_ndarray(whole.reshape(1, -1), format="s16", layout="stereo")


def _sound_stream(container: av.container.OutputContainer, form: SoundForm) -> Any:
    stream = container.add_stream(form.codec, rate=SAMPLE_RATE, layout="stereo")
    context: Any = stream.codec_context
    if form.bit_rate is not None:
        context.bit_rate = form.bit_rate
    return stream
