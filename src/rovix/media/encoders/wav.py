"""WAV: the sound alone, lossless."""

from __future__ import annotations

from functools import partial

from rovix.media.encoders.container import ContainerWriter, FileForm, SoundForm
from rovix.media.encoders.encoder import EncoderKind

_FORM = FileForm("wav", None, SoundForm("pcm_s16le", "s16", 4096))
ENCODERS = (EncoderKind(".wav", "wav", "WAV", partial(ContainerWriter, form=_FORM), pictures=False),)
