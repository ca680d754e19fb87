"""How loud a sound is, as ITU-R BS.1770 and EBU R 128 measure it; the measuring is FFmpeg's."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from fractions import Fraction
from typing import Any

import av
import numpy as np
from av import AudioFrame
from av.filter import Graph
from numpy.typing import NDArray

from rovix.media.samples import SAMPLE_RATE

CEILING = -1.0
"""The highest true peak that is let through, in dBTP (EBU R 128, recommendation h)."""
_SILENT = -70.0
"""The absolute gate of BS.1770, in LUFS: what is under it counts as silence."""
_BLOCK = SAMPLE_RATE // 10


@dataclass(frozen=True, slots=True)
class Loudness:
    """`integrated` in LUFS, `peak` the true peak in dBTP; -inf for silence."""

    integrated: float
    peak: float

    @property
    def said(self) -> str:
        """As '-23.0 LUFS, true peak -4.2 dBTP'."""
        return f"{self.integrated:.1f} LUFS, true peak {self.peak:.1f} dBTP".replace("-", "\N{MINUS SIGN}")

    @property
    def is_silent(self) -> bool:
        """Whether nothing was loud enough to count."""
        return self.integrated <= _SILENT

    def louder(self, gain: float) -> Loudness:
        """With so many dB more."""
        return Loudness(self.integrated + gain, self.peak + gain)

    def gain_to(self, target: float) -> float:
        """The dB that bring it to a target in LUFS, as far as its peaks stay under the ceiling; 0 for
        silence."""
        return 0.0 if self.is_silent else min(target - self.integrated, CEILING - self.peak)


def measured(stretches: Iterable[NDArray[np.float32]]) -> Loudness:
    """How loud 48 kHz stereo sound is, given in stretches (n, 2) of any length, that follow each other."""
    meter = _Meter()
    for stretch in stretches:
        meter.add(stretch)
    return meter.end()


class _Meter:
    def __init__(self) -> None:
        graph = Graph()
        self._graph = graph
        source = graph.add_abuffer(
            sample_rate=SAMPLE_RATE, format="flt", layout="stereo", time_base=Fraction(1, SAMPLE_RATE)
        )
        meter, sink = graph.add("ebur128", "peak=true:metadata=1:framelog=quiet"), graph.add("abuffersink")
        source.link_to(meter, 0, 0)
        meter.link_to(sink, 0, 0)
        graph.configure()
        self._waiting = np.zeros((0, 2), dtype=np.float32)
        self._count, self._said = 0, dict[str, str]()

    def add(self, samples: NDArray[np.float32]) -> None:
        self._waiting = np.concatenate([self._waiting, samples])
        while len(self._waiting) >= _BLOCK:
            self._push(_BLOCK)

    def end(self) -> Loudness:
        if len(self._waiting):
            self._push(len(self._waiting))
        # The filter passes on blocks of a tenth of a second; silence, which counts for nothing, fills one.
        self._waiting = np.zeros((_BLOCK, 2), dtype=np.float32)
        self._push(_BLOCK)
        integrated = float(self._said.get("lavfi.r128.I", _SILENT))
        peak = float(self._said.get("lavfi.r128.true_peak", 0.0))
        return Loudness(
            integrated if integrated > _SILENT else -math.inf, 20 * math.log10(peak) if peak else -math.inf
        )

    def _push(self, count: int) -> None:
        block, self._waiting = self._waiting[:count], self._waiting[count:]
        frame = AudioFrame.from_ndarray(block.reshape(1, -1), format="flt", layout="stereo")
        frame.sample_rate, frame.pts = SAMPLE_RATE, self._count
        frame.time_base = Fraction(1, SAMPLE_RATE)
        self._count += count
        self._graph.push(frame)
        self._pull()

    def _pull(self) -> None:
        while True:
            try:
                made: Any = self._graph.pull()
            except (av.BlockingIOError, av.EOFError):
                return
            self._said = made.metadata
