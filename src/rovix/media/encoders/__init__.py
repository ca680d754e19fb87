"""The kinds of file that can be exported, found by being there: modules that have ENCODERS."""

from __future__ import annotations

from importlib import import_module
from pathlib import Path
from pkgutil import iter_modules

from rovix.errors import RovixError
from rovix.media.encoders.encoder import Encoder, EncoderKind

_FIRST = ("mp4", "mov", "webm")
"""Modules whose kinds are named before the others."""


def _found() -> list[EncoderKind]:
    names = sorted(module.name for module in iter_modules(__path__))
    names.sort(key=lambda name: _FIRST.index(name) if name in _FIRST else len(_FIRST))
    modules = (import_module(f"{__name__}.{name}") for name in names)
    return [kind for module in modules for kind in getattr(module, "ENCODERS", ())]


ENCODERS: tuple[EncoderKind, ...] = tuple(_found())
CODECS: tuple[str, ...] = tuple(kind.codec for kind in ENCODERS)


def encoder_for(path: Path, codec: str | None = None) -> EncoderKind:
    """The kind of file that a name, and a codec where a suffix has several, ask for.

    RovixError, with those there are, for any other.
    """
    suffix = ".jpg" if path.suffix.lower() == ".jpeg" else path.suffix.lower()
    kinds = [kind for kind in ENCODERS if kind.suffix == suffix]
    if not kinds:
        known = ", ".join(dict.fromkeys(kind.suffix for kind in ENCODERS))
        raise RovixError(f"{path.name} should end in one of {known}.")
    found = next((kind for kind in kinds if codec in (None, kind.codec)), None)
    if found is None:
        known = ", ".join(kind.codec for kind in kinds)
        raise RovixError(f"A file that ends in {suffix} has no {codec}; there is {known}.")
    return found


__all__ = ["CODECS", "ENCODERS", "Encoder", "EncoderKind", "encoder_for"]
