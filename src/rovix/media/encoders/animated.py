"""Animated pictures: APNG, lossless and transparent; GIF, of 256 colours and one bit of transparency."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
from av import VideoFrame
from av.filter import Graph
from av.video.format import VideoFormat
from numpy.typing import NDArray

from rovix.media.encoders.container import FileForm, PictureForm, opening
from rovix.media.encoders.encoder import ALIKE, Chapter, EncoderKind, Quality
from rovix.media.stills import straight
from rovix.time import Rate

_TICK = Fraction(1, 100)


class GifWriter:
    """Writes a GIF that goes on for ever. Its times are hundredths of a second, each rounded by itself."""

    def __init__(self, path: Path, size: tuple[int, int], rate: Rate, _: bool) -> None:
        self._container = av.open(str(path), "w", format="gif", options={"loop": "0"})
        self._stream = self._container.add_stream("gif", rate=rate.fraction)
        self._stream.width, self._stream.height, self._stream.pix_fmt = *size, "pal8"
        self._stream.codec_context.time_base = _TICK
        self._rate, self._count = rate, 0
        self._graph = _graph(size, rate)

    def name_chapters(self, chapters: Sequence[Chapter]) -> None:
        """It has none."""

    def add_picture(self, pixels: NDArray[np.uint8]) -> None:
        """The next picture: (height, width, 4) premultiplied BGRA."""
        frame = VideoFrame.from_ndarray(np.ascontiguousarray(straight(pixels)), format="bgra")
        frame.pts, frame.time_base = self._count, 1 / self._rate.fraction
        self._graph.push(frame)
        made = self._graph.pull()
        assert isinstance(made, VideoFrame)
        made.pts, made.time_base = round(self._count * 100 / self._rate.fraction), _TICK
        self._count += 1
        self._container.mux(self._stream.encode(made))

    def add_sound(self, samples: NDArray[np.float32]) -> None:
        """It has none."""

    def close(self) -> None:
        """Write what is left and end the file."""
        self._container.mux(self._stream.encode(None))
        self._container.close()

    def abandon(self) -> None:
        """Let go of the file as it is."""
        self._container.close()


def _graph(size: tuple[int, int], rate: Rate) -> Graph:
    graph = Graph()
    source = graph.add_buffer(
        width=size[0], height=size[1], format=VideoFormat("bgra"), time_base=1 / rate.fraction
    )
    split = graph.add("split")
    palette = graph.add("palettegen", "stats_mode=single:reserve_transparent=1")
    use = graph.add("paletteuse", "new=1:dither=sierra2_4a:alpha_threshold=128")
    sink = graph.add("buffersink")
    source.link_to(split)
    split.link_to(palette, 0, 0)
    split.link_to(use, 1, 0)
    palette.link_to(use, 0, 1)
    use.link_to(sink)
    graph.configure()
    return graph


_APNG = FileForm("apng", PictureForm("apng", "rgba", {"pred": "mixed"}, alpha=True), None, {"plays": "0"})
_LOSSLESS = (Quality("only", ALIKE, opening(_APNG)),)
_IN_PALETTES = (Quality("only", "256 colours a picture", GifWriter),)
ENCODERS = (
    EncoderKind(".apng", "apng", "APNG", _LOSSLESS, alpha="full", sound=False),
    EncoderKind(".gif", "gif", "GIF", _IN_PALETTES, alpha="one bit", sound=False, fastest=50.0),
)
