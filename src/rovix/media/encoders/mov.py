"""QuickTime: ProRes 4444, which may be transparent, or 422; and PCM."""

from __future__ import annotations

from functools import partial

from rovix.media.encoders.container import ContainerWriter, FileForm, PictureForm, SoundForm
from rovix.media.encoders.encoder import Alpha, EncoderKind

PRORES_4444 = PictureForm(
    "prores_ks", "yuva444p10le", {"profile": "4444", "alpha_bits": "16", "vendor": "apl0"}, alpha=True
)
PRORES_422 = PictureForm("prores_ks", "yuv422p10le", {"profile": "hq", "vendor": "apl0"})
PCM = SoundForm("pcm_s16le", "s16", 1024)


def _kind(codec: str, called: str, picture: PictureForm, alpha: Alpha) -> EncoderKind:
    begin = partial(
        ContainerWriter, form=FileForm("mov", picture, PCM, {"movflags": "+faststart"}, chapters=True)
    )
    return EncoderKind(".mov", codec, called, begin, even=True, alpha=alpha)


ENCODERS = (
    _kind("prores-4444", "MOV, ProRes 4444", PRORES_4444, "full"),
    _kind("prores-422", "MOV, ProRes 422 HQ", PRORES_422, "none"),
)
