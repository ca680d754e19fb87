"""Files that hold a stream of pictures, one of sound, or both, by FFmpeg."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from fractions import Fraction
from functools import partial
from pathlib import Path
from typing import Any

import av
import numpy as np
from av import VideoFrame
from av.video.reformatter import ColorPrimaries, ColorRange, Colorspace, ColorTrc, VideoReformatter
from numpy.typing import NDArray

from rovix.media.encoders.among_others import among_others
from rovix.media.encoders.encoder import Begin, Chapter, Quality, QualityName
from rovix.media.encoders.sound_track import SoundForm, SoundTrack
from rovix.media.stills import straight
from rovix.time import Rate


@dataclass(frozen=True, slots=True)
class PictureForm:
    """How pictures are coded: by which `codec`, as `pixels` of which kind; `options` go to the encoder.

    Pixels of YUV are BT.709 in limited range and tagged so. With `alpha` colours go in straight. `tag` is
    the four letters by which a file names its codec where the usual ones will not do. `threads` is how many
    the encoder has, where what it writes depends on that.
    """

    codec: str
    pixels: str
    options: Mapping[str, str] = field(default_factory=dict)
    alpha: bool = False
    tag: str = ""
    metadata: Mapping[str, str] = field(default_factory=dict)
    threads: int = 0

    def at(self, **options: str) -> PictureForm:
        """The same with other options for the encoder."""
        return replace(self, options={**self.options, **options})


@dataclass(frozen=True, slots=True)
class FileForm:
    """A file of a `format` that FFmpeg knows, with `options` for it."""

    format: str
    picture: PictureForm | None
    sound: SoundForm | None
    options: Mapping[str, str] = field(default_factory=dict)
    chapters: bool = False


def by_factor(form: FileForm, best: int, good: int, small: int) -> tuple[Quality, ...]:
    """The qualities of a form whose encoder takes a constant rate factor, with the factor of each."""
    factors: tuple[tuple[QualityName, int], ...] = (("best", best), ("good", good), ("small", small))
    return tuple(Quality(name, f"CRF {crf}", _opener(form, crf=str(crf))) for name, crf in factors)


def _opener(form: FileForm, **options: str) -> Begin:
    assert form.picture is not None
    return opening(replace(form, picture=form.picture.at(**options)))


def opening(form: FileForm) -> Begin:
    """What begins files of a form."""
    return partial(ContainerWriter, form=form)


class OpenFile:
    """A file of a form that is being written: its chapters, its sound (48 kHz stereo), its end."""

    def __init__(self, path: Path, form: FileForm) -> None:
        self._form = form
        self._container = av.open(str(path), "w", format=form.format, options=dict(form.options))
        self._sound: SoundTrack | None = None

    def _begin_sound(self, sound: bool) -> None:
        """After the stream of pictures, which is the first."""
        if sound and self._form.sound:
            self._sound = SoundTrack(self._container, self._form.sound)

    def name_chapters(self, chapters: Sequence[Chapter]) -> None:
        """Where the form has chapters they are named before the first picture."""
        if not self._form.chapters or not chapters:
            return
        made = [
            {
                "id": number, "start": round(part.start * 1000), "end": round(part.end * 1000),
                "time_base": Fraction(1, 1000), "metadata": {"title": part.name},
            }
            for number, part in enumerate(chapters)
        ]  # fmt: skip
        self._container.set_chapters(made)

    def add_sound(self, samples: NDArray[np.float32]) -> None:
        """The next samples (n, 2); beyond full scale they are cut off."""
        if self._sound is not None:
            self._sound.add(samples)

    def close(self) -> None:
        """Write what is left and end the file."""
        if self._sound is not None:
            self._sound.end()
        self._container.close()

    def abandon(self) -> None:
        """Let go of the file as it is."""
        self._container.close()


class ContainerWriter(OpenFile):
    """Writes one file of a form.

    Pictures go in in order, sound beside them in stretches of any length; :meth:`close` ends the file. Each
    picture's time is its number over the rate, so that rounding never adds up.
    """

    def __init__(self, path: Path, size: tuple[int, int], rate: Rate, sound: bool, form: FileForm) -> None:
        super().__init__(path, form)
        self._video = video_stream(self._container, size, rate, form.picture) if form.picture else None
        self._begin_sound(sound)
        self._step = 1 / rate.fraction
        self._frames = 0
        self._reformatter = VideoReformatter()

    def add_picture(self, pixels: NDArray[np.uint8]) -> None:
        """The next picture: (height, width, 4) premultiplied BGRA."""
        form = self._form.picture
        if self._video is None or form is None:
            return
        frame = as_coded(straight(pixels) if form.alpha else pixels, form.pixels, self._reformatter)
        frame.pts, frame.time_base = self._frames, self._step
        self._frames += 1
        with among_others():
            packets = self._video.encode(frame)
        self._container.mux(packets)

    def close(self) -> None:
        """Write what is left and end the file."""
        if self._video is not None:
            self._container.mux(self._video.encode(None))
        super().close()


def as_coded(pixels: NDArray[np.uint8], kind: str, reformatter: VideoReformatter) -> VideoFrame:
    """BGRA as pixels of a kind; YUV with the BT.709 matrix and limited range, tagged as such. A reformatter
    used again takes less time."""
    frame = VideoFrame.from_ndarray(np.ascontiguousarray(pixels), format="bgra")
    if not kind.startswith("yuv"):
        return reformatter.reformat(frame, format=kind)
    return reformatter.reformat(
        frame,
        format=kind,
        src_color_range=ColorRange.JPEG,
        dst_colorspace=Colorspace.ITU709,
        dst_color_range=ColorRange.MPEG,
        dst_color_trc=ColorTrc.BT709,
        dst_color_primaries=ColorPrimaries.BT709,
    )


def video_stream(
    container: av.container.OutputContainer, size: tuple[int, int], rate: Rate, form: PictureForm
) -> Any:
    """A stream of pictures; of YUV with BT.709 tags and limited range."""
    stream = container.add_stream(form.codec, rate=rate.fraction, options=dict(form.options))
    stream.width, stream.height, stream.pix_fmt = *size, form.pixels
    context: Any = stream.codec_context
    context.time_base, context.thread_count = 1 / rate.fraction, form.threads
    if form.pixels.startswith("yuv"):
        context.colorspace, context.color_range = Colorspace.ITU709, ColorRange.MPEG
        context.color_primaries, context.color_trc = ColorPrimaries.BT709, ColorTrc.BT709
    if form.tag:
        context.codec_tag = form.tag
    stream.metadata.update(form.metadata)
    return stream
