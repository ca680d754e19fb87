"""WebM: VP9, which may be transparent, or AV1; and Opus."""

from __future__ import annotations

import os

from rovix.media.encoders.container import FileForm, PictureForm, by_factor
from rovix.media.encoders.encoder import EncoderKind
from rovix.media.encoders.joined import joining
from rovix.media.encoders.sound_track import SoundForm

# Hidden reference frames cannot carry alpha.
VP9 = PictureForm(
    "libvpx-vp9", "yuva420p",
    {"b": "0", "deadline": "good", "cpu-used": "4", "row-mt": "1", "auto-alt-ref": "0"},
    alpha=True, metadata={"alpha_mode": "1"},
)  # fmt: skip
# Else its library tells how it is set up on stderr, at each file.
os.environ.setdefault("SVT_LOG", "1")
AV1 = PictureForm("libsvtav1", "yuv420p", {"preset": "8"})
OPUS = SoundForm("libopus", "flt", 960, 160_000)


def _form(picture: PictureForm) -> FileForm:
    # Else each file has numbers of chance in it, and no two are alike.
    return FileForm("webm", picture, OPUS, {"fflags": "+bitexact"}, chapters=True)


ENCODERS = (
    EncoderKind(
        ".webm", "vp9", "WebM, VP9", by_factor(_form(VP9), 2, 6, 20), even=True, alpha="full",
        join=joining(_form(VP9)),
    ),
    EncoderKind(
        ".webm", "av1", "WebM, AV1", by_factor(_form(AV1), 20, 28, 38), even=True, join=joining(_form(AV1))
    ),
)  # fmt: skip
