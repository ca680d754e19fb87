"""Open formats that others write too: each module here with a `FORMAT` reads and writes one of them.

A format is found by being here; captions are the first.
"""

from __future__ import annotations

from importlib import import_module
from pkgutil import iter_modules

from rovix.exchange.captions import CaptionFormat


def _found() -> dict[str, CaptionFormat]:
    modules = [import_module(f"{__name__}.{module.name}") for module in iter_modules(__path__)]
    formats = [module.FORMAT for module in modules if hasattr(module, "FORMAT")]
    return {made.suffix: made for made in sorted(formats, key=lambda made: made.suffix)}


CAPTION_FORMATS: dict[str, CaptionFormat] = _found()
"""Formats of captions by the suffix of their files."""
