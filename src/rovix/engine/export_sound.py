"""The sound of an export: the mix, as it is or brought to a loudness."""

from __future__ import annotations

from collections.abc import Callable, Iterator

import numpy as np
from numpy.typing import NDArray

from rovix.engine.export_job import ExportJob
from rovix.media.library import MediaLibrary
from rovix.media.loudness import Loudness, measured
from rovix.media.mix import Mixer, sample_at
from rovix.time import Span

Samples = NDArray[np.float32]
_TOGETHER = 50  # frames that are mixed at once
_NEAR = 0.05  # dB that nobody asks about


class ExportSound:
    """The sound of a job, frame by frame; use :meth:`level` before, where its loudness matters."""

    def __init__(self, job: ExportJob, library: MediaLibrary) -> None:
        self._job = job
        self._mixer = Mixer(job.project.sequence, library.sound, job.project.sequences)
        self._factor = np.float32(1.0)
        self._mixed = Span(job.span.start, job.span.start)
        self._samples = np.zeros((0, 2), dtype=np.float32)

    def of_frame(self, frame: int) -> Samples:
        """(n, 2) float32 at 48 kHz; frames are asked for in their order."""
        if frame not in self._mixed:
            # Many at once take an eighth of the time; where they begin depends on the job alone.
            self._mixed = Span(frame, min(self._job.span.end, frame + _TOGETHER))
            self._samples = self._mixer.mix(self._mixed) * self._factor
        rate = self._job.project.sequence.frame_rate
        first, low, high = (sample_at(rate, at) for at in (self._mixed.start, frame, frame + 1))
        return self._samples[low - first : high - first]

    def loudness(self, check: Callable[[], None] = lambda: None) -> Loudness:
        """How loud the mix is over all frames of the job; `check` is called now and then and may raise."""
        return measured(self._stretches(check))

    def level(self, check: Callable[[], None]) -> str:
        """Bring it to the loudness that the job asks for, and say what it was and what it became; '' where
        nothing is asked for."""
        target = self._job.how.loudness
        if target is None:
            return ""
        found = self.loudness(check)
        gain = found.gain_to(target)
        self._factor = np.float32(10 ** (gain / 20))
        return said_of(found, target)

    def _stretches(self, check: Callable[[], None]) -> Iterator[Samples]:
        span = self._job.span
        for start in range(span.start, span.end, _TOGETHER):
            check()
            yield self._mixer.mix(Span(start, min(span.end, start + _TOGETHER)))


def loudness_of(job: ExportJob, check: Callable[[], None]) -> Loudness:
    """How loud the sound of a job is as it is; `check` is called now and then and may raise."""
    library = MediaLibrary(job.project, job.base)
    try:
        return ExportSound(job, library).loudness(check)
    finally:
        library.close()


def said_of(found: Loudness, target: float) -> str:
    """What becomes of a sound that is brought to a target in LUFS, as far as its peaks let it."""
    if found.is_silent:
        return "There is no sound that could be brought to a loudness."
    reached = found.louder(found.gain_to(target))
    said = f"Sound now {reached.said}; it was {found.said}."
    if target - reached.integrated > _NEAR:
        said += f" It is not brought to {target:.1f} LUFS: its peaks would be over -1 dBTP."
    return said.replace("-", "\N{MINUS SIGN}")
