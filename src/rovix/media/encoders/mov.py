"""QuickTime: ProRes 4444, which may be transparent, or 422; and PCM."""

from __future__ import annotations

from rovix.media.encoders.container import FileForm, PictureForm, opening
from rovix.media.encoders.encoder import EncoderKind, Quality
from rovix.media.encoders.joined import joining
from rovix.media.encoders.sound_track import SoundForm

PRORES_4444 = PictureForm(
    "prores_ks", "yuva444p10le", {"profile": "4444", "alpha_bits": "16", "vendor": "apl0"}, alpha=True
)
PRORES_422 = PictureForm("prores_ks", "yuv422p10le", {"vendor": "apl0"})
PCM = SoundForm("pcm_s16le", "s16", 1024)


def _form(picture: PictureForm) -> FileForm:
    return FileForm("mov", picture, PCM, {"movflags": "+faststart"}, chapters=True)


_AS_IT_IS = (Quality("only", "4444", opening(_form(PRORES_4444))),)
_BY_PROFILE = (
    Quality("best", "422 HQ", opening(_form(PRORES_422.at(profile="hq")))),
    Quality("small", "422", opening(_form(PRORES_422.at(profile="standard")))),
)
ENCODERS = (
    EncoderKind(
        ".mov", "prores-4444", "MOV, ProRes 4444", _AS_IT_IS, even=True, alpha="full",
        join=joining(_form(PRORES_4444)),
    ),
    EncoderKind(
        ".mov", "prores-422", "MOV, ProRes 422", _BY_PROFILE, even=True, join=joining(_form(PRORES_422))
    ),
)  # fmt: skip
