"""MP4: H.264 or H.265, and AAC."""

from __future__ import annotations

from functools import partial

from rovix.media.encoders.container import ContainerWriter, FileForm, PictureForm, SoundForm
from rovix.media.encoders.encoder import EncoderKind

# Measured: with its macroblock tree x264 gives other bits for the same pictures under load, even on one
# thread; a file must not depend on what else the machine does.
H264 = PictureForm("libx264", "yuv420p", {"crf": "16", "preset": "veryfast", "x264-params": "mbtree=0"})
# What players of one maker ask for: by its usual letters they show nothing.
H265 = PictureForm(
    "libx265", "yuv420p",
    {"crf": "20", "preset": "fast", "x265-params": "log-level=error:pools=none:frame-threads=1"}, tag="hvc1",
)  # fmt: skip
AAC = SoundForm("aac", "fltp", 1024, 192_000)
_FAST_START = {"movflags": "+faststart"}


def _kind(codec: str, called: str, picture: PictureForm) -> EncoderKind:
    begin = partial(ContainerWriter, form=FileForm("mp4", picture, AAC, _FAST_START, chapters=True))
    return EncoderKind(".mp4", codec, called, begin, even=True)


ENCODERS = (_kind("h264", "MP4, H.264", H264), _kind("h265", "MP4, H.265", H265))
