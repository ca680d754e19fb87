"""QuickTime: ProRes 4444, which may be transparent, or 422; and PCM."""

from __future__ import annotations

from rovix.media.encoders.container import FileForm, PictureForm, SoundForm, opening
from rovix.media.encoders.encoder import Begin, EncoderKind, Quality

PRORES_4444 = PictureForm(
    "prores_ks", "yuva444p10le", {"profile": "4444", "alpha_bits": "16", "vendor": "apl0"}, alpha=True
)
PRORES_422 = PictureForm("prores_ks", "yuv422p10le", {"vendor": "apl0"})
PCM = SoundForm("pcm_s16le", "s16", 1024)


def _begin(picture: PictureForm) -> Begin:
    return opening(FileForm("mov", picture, PCM, {"movflags": "+faststart"}, chapters=True))


_AS_IT_IS = (Quality("only", "4444", _begin(PRORES_4444)),)
_BY_PROFILE = (
    Quality("best", "422 HQ", _begin(PRORES_422.at(profile="hq"))),
    Quality("small", "422", _begin(PRORES_422.at(profile="standard"))),
)
ENCODERS = (
    EncoderKind(".mov", "prores-4444", "MOV, ProRes 4444", _AS_IT_IS, even=True, alpha="full"),
    EncoderKind(".mov", "prores-422", "MOV, ProRes 422", _BY_PROFILE, even=True),
)
