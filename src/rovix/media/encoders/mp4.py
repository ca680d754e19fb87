"""MP4: H.264 and AAC."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

import av
import numpy as np
from av import AudioFrame, VideoFrame
from av.video.reformatter import ColorPrimaries, ColorRange, Colorspace, ColorTrc, VideoReformatter
from numpy.typing import NDArray

from rovix.media.encoders.encoder import EncoderKind
from rovix.media.samples import SAMPLE_RATE
from rovix.time import Rate

_AUDIO_BLOCK = 1024
# Measured: with its macroblock tree x264 gives other bits for the same pictures under load, even on one
# thread; a file must not depend on what else the machine does.
_QUALITY = {"crf": "16", "preset": "veryfast", "x264-params": "mbtree=0"}


class Mp4Writer:
    """H.264 (BT.709, limited range, 4:2:0) and AAC (48 kHz stereo) in MP4.

    Pictures go in in order, sound beside them in stretches of any length; :meth:`close` ends the
    file. `size` is even, as 4:2:0 halves it.
    """

    def __init__(self, path: Path, size: tuple[int, int], rate: Rate, sound: bool) -> None:
        self._container = av.open(str(path), "w", format="mp4", options={"movflags": "+faststart"})
        self._video = video_stream(self._container, size, rate, _QUALITY)
        self._sound = _sound_stream(self._container) if sound else None
        self._frames = 0
        self._reformatter = VideoReformatter()
        self._samples = 0
        self._waiting = np.zeros((0, 2), dtype=np.float32)

    def add_picture(self, pixels: NDArray[np.uint8]) -> None:
        """The next picture: (height, width, 4) BGRA, opaque."""
        frame = as_limited_yuv(pixels, self._reformatter)
        frame.pts = self._frames
        frame.time_base = self._video.codec_context.time_base
        self._frames += 1
        self._container.mux(self._video.encode(frame))

    def add_sound(self, samples: NDArray[np.float32]) -> None:
        """The next samples (n, 2); beyond full scale they are cut off."""
        if self._sound is None:
            return
        self._waiting = np.concatenate([self._waiting, np.clip(samples, -1, 1)])
        while len(self._waiting) >= _AUDIO_BLOCK:
            self._encode_sound(_AUDIO_BLOCK)

    def close(self) -> None:
        """Write what is left and end the file."""
        if self._sound is not None:
            if len(self._waiting):
                self._encode_sound(len(self._waiting))
            self._container.mux(self._sound.encode(None))
        self._container.mux(self._video.encode(None))
        self._container.close()

    def abandon(self) -> None:
        """Let go of the file as it is."""
        self._container.close()

    def _encode_sound(self, count: int) -> None:
        assert self._sound is not None
        block, self._waiting = self._waiting[:count], self._waiting[count:]
        frame = AudioFrame.from_ndarray(np.ascontiguousarray(block.T), format="fltp", layout="stereo")
        frame.sample_rate, frame.pts = SAMPLE_RATE, self._samples
        frame.time_base = Fraction(1, SAMPLE_RATE)
        self._samples += count
        self._container.mux(self._sound.encode(frame))


def as_limited_yuv(pixels: NDArray[np.uint8], reformatter: VideoReformatter) -> VideoFrame:
    """BGRA as 4:2:0 with the BT.709 matrix and limited range, tagged as such; a reformatter used again takes
    less time."""
    frame = VideoFrame.from_ndarray(pixels, format="bgra")
    return reformatter.reformat(
        frame,
        format="yuv420p",
        src_color_range=ColorRange.JPEG,
        dst_colorspace=Colorspace.ITU709,
        dst_color_range=ColorRange.MPEG,
        dst_color_trc=ColorTrc.BT709,
        dst_color_primaries=ColorPrimaries.BT709,
    )


def video_stream(  # type: ignore[no-untyped-def]
    container: av.container.OutputContainer, size: tuple[int, int], rate: Rate, options: dict[str, str]
):
    """An H.264 stream with BT.709 tags and limited range; `options` go to the encoder."""
    stream = container.add_stream("libx264", rate=rate.fraction, options=options)
    stream.width, stream.height, stream.pix_fmt = *size, "yuv420p"
    context = stream.codec_context
    context.time_base = 1 / rate.fraction
    context.colorspace, context.color_range = Colorspace.ITU709, ColorRange.MPEG
    context.color_primaries, context.color_trc = ColorPrimaries.BT709, ColorTrc.BT709
    return stream


def _sound_stream(container: av.container.OutputContainer):  # type: ignore[no-untyped-def]
    stream = container.add_stream("aac", rate=SAMPLE_RATE, layout="stereo")
    stream.codec_context.bit_rate = 192_000
    return stream


ENCODER = EncoderKind(".mp4", "MP4", Mp4Writer, even=True)
