"""Sound files as samples."""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path

import av
import numpy as np
from av.audio.resampler import AudioResampler
from numpy.typing import NDArray

from rovix.media.containers import opened
from rovix.media.errors import MediaError

SAMPLE_RATE = 48_000
Samples = NDArray[np.float32]


def read_sound(path: Path) -> Samples:
    """(n, 2) float32 at 48 kHz, full scale 1; mono comes out on both sides. Not to be written to."""
    try:
        changed = path.stat().st_mtime_ns
    except OSError as wrong:
        raise MediaError(path, str(wrong.strerror)) from wrong
    return _read(path, changed)


@lru_cache(maxsize=16)
def _read(path: Path, _changed: int) -> Samples:
    try:
        with opened(path) as container:
            stream = container.streams.audio[0]
            # FFmpeg takes 3 dB off when it spreads one channel over two; we want it whole on both.
            layout = "mono" if stream.codec_context.channels == 1 else "stereo"
            resampler = AudioResampler(format="fltp", layout=layout, rate=SAMPLE_RATE)
            parts = [
                resampled.to_ndarray()
                for frame in [*container.decode(stream), None]
                for resampled in resampler.resample(frame)
            ]
    except (av.FFmpegError, IndexError) as wrong:
        raise MediaError(path, getattr(wrong, "strerror", None) or "it holds no sound") from wrong
    joined = np.concatenate(parts, axis=1).T if parts else np.zeros((0, 2), np.float32)
    samples = np.ascontiguousarray(np.broadcast_to(joined, (len(joined), 2)))
    samples.setflags(write=False)
    return samples
