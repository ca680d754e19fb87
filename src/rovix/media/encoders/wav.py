"""WAV: the sound alone, lossless."""

from __future__ import annotations

from rovix.media.encoders.container import FileForm, SoundForm, opening
from rovix.media.encoders.encoder import ALIKE, EncoderKind, Quality

_FORM = FileForm("wav", None, SoundForm("pcm_s16le", "s16", 4096))
_QUALITIES = (Quality("only", ALIKE, opening(_FORM)),)
ENCODERS = (EncoderKind(".wav", "wav", "WAV", _QUALITIES, pictures=False),)
