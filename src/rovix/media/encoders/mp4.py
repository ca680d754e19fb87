"""MP4: H.264 or H.265, and AAC."""

from __future__ import annotations

from rovix.media.encoders.container import FileForm, PictureForm, by_factor
from rovix.media.encoders.encoder import EncoderKind
from rovix.media.encoders.joined import joining
from rovix.media.encoders.sound_track import SoundForm

# Measured: with its macroblock tree x264 gives other bits for the same pictures under load, even on one
# thread; a file must not depend on what else the machine does. Nor on how many cores it has: x264 cuts
# pictures into as many slices.
H264 = PictureForm("libx264", "yuv420p", {"preset": "veryfast", "x264-params": "mbtree=0"}, threads=1)
# What players of one maker ask for: by its usual letters they show nothing.
H265 = PictureForm(
    "libx265", "yuv420p",
    {"preset": "fast", "x265-params": "log-level=error:pools=none:frame-threads=1"}, tag="hvc1",
)  # fmt: skip
AAC = SoundForm("aac", "fltp", 1024, 192_000)


def _form(picture: PictureForm) -> FileForm:
    return FileForm("mp4", picture, AAC, {"movflags": "+faststart"}, chapters=True)


ENCODERS = (
    EncoderKind(
        ".mp4", "h264", "MP4, H.264", by_factor(_form(H264), 12, 16, 22), even=True, join=joining(_form(H264))
    ),
    EncoderKind(
        ".mp4", "h265", "MP4, H.265", by_factor(_form(H265), 16, 20, 26), even=True,
        # Measured: x265 4.2 writes beyond its memory at 48 px.
        narrowest=64, join=joining(_form(H265)),
    ),
)  # fmt: skip
