"""The kinds of file that can be exported, found by being there: each module but `encoder` has an ENCODER."""

from __future__ import annotations

from importlib import import_module
from pathlib import Path
from pkgutil import iter_modules

from rovix.errors import RovixError
from rovix.media.encoders.encoder import Encoder, EncoderKind


def _found() -> list[EncoderKind]:
    names = sorted(module.name for module in iter_modules(__path__) if module.name != "encoder")
    return [import_module(f"{__name__}.{name}").ENCODER for name in names]


ENCODERS: dict[str, EncoderKind] = {kind.suffix: kind for kind in _found()}


def encoder_for(path: Path) -> EncoderKind:
    """The kind of file that a name asks for; RovixError, with those there are, for any other."""
    kind = ENCODERS.get(path.suffix.lower())
    if kind is None:
        known = ", ".join(ENCODERS)
        only = ", the one kind of video that is written here" if len(ENCODERS) == 1 else ""
        raise RovixError(f"{path.name} should end in {known}{only}.")
    return kind


__all__ = ["ENCODERS", "Encoder", "EncoderKind", "encoder_for"]
