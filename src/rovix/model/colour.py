"""Colours as CSS hexadecimal text: sRGB, `#rrggbb` or `#rrggbbaa`."""

from __future__ import annotations

from typing import Annotated

import msgspec

COLOUR_PATTERN = "^#[0-9a-fA-F]{6}([0-9a-fA-F]{2})?$"
Colour = Annotated[str, msgspec.Meta(pattern=COLOUR_PATTERN)]


def bgra(colour: str) -> tuple[int, int, int, int]:
    """Blue, green, red, alpha, each 0..255, not premultiplied."""
    red, green, blue = (int(colour[at : at + 2], 16) for at in (1, 3, 5))
    return blue, green, red, int(colour[7:9], 16) if len(colour) == 9 else 255
