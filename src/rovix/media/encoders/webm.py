"""WebM: VP9, which may be transparent, or AV1; and Opus."""

from __future__ import annotations

import os
from functools import partial

from rovix.media.encoders.container import ContainerWriter, FileForm, PictureForm, SoundForm
from rovix.media.encoders.encoder import Alpha, EncoderKind

# Hidden reference frames cannot carry alpha.
VP9 = PictureForm(
    "libvpx-vp9", "yuva420p",
    {"crf": "6", "b": "0", "deadline": "good", "cpu-used": "4", "row-mt": "1", "auto-alt-ref": "0"},
    alpha=True, metadata={"alpha_mode": "1"},
)  # fmt: skip
# Else its library tells how it is set up on stderr, at each file.
os.environ.setdefault("SVT_LOG", "1")
AV1 = PictureForm("libsvtav1", "yuv420p", {"crf": "28", "preset": "8"})
OPUS = SoundForm("libopus", "flt", 960, 160_000)


def _kind(codec: str, called: str, picture: PictureForm, alpha: Alpha) -> EncoderKind:
    begin = partial(ContainerWriter, form=FileForm("webm", picture, OPUS, chapters=True))
    return EncoderKind(".webm", codec, called, begin, even=True, alpha=alpha)


ENCODERS = (_kind("vp9", "WebM, VP9", VP9, "full"), _kind("av1", "WebM, AV1", AV1, "none"))
