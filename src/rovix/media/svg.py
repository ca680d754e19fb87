"""SVG files as pixels."""

from __future__ import annotations

import io
import xml.etree.ElementTree as ET
from pathlib import Path

import numpy as np
import resvg_py
from numpy.typing import NDArray
from PIL import Image

from rovix.media.errors import MediaError

_MOST = 64 << 20  # bytes of markup
_SIDE = 8192


def read_svg(path: Path) -> NDArray[np.uint8]:
    """(height, width, 4) straight RGBA at the drawing's own size; nothing beside the file is read.

    Raises MediaError for what is no SVG or has no size.
    """
    text = _markup(path)
    try:
        content = resvg_py.svg_to_bytes(svg_string=text, skip_system_fonts=True)
        with Image.open(io.BytesIO(bytes(content))) as image:
            return np.asarray(image.convert("RGBA"))
    except (ValueError, RuntimeError, OSError) as wrong:
        raise MediaError(path, f"the drawing cannot be read ({wrong})") from wrong


def svg_size(path: Path) -> tuple[int, int]:
    """Width and height in px of the drawing."""
    height, width = read_svg(path).shape[:2]
    return width, height


def _markup(path: Path) -> str:
    try:
        if path.stat().st_size > _MOST:
            raise MediaError(path, "the drawing is larger than 64 MB")
        text = path.read_text(encoding="utf-8-sig")
    except (OSError, UnicodeDecodeError) as wrong:
        raise MediaError(path, f"it is no SVG text ({wrong})") from wrong
    _check(path, text)
    return text


def _check(path: Path, text: str) -> None:
    if "<!ENTITY" in text:
        # Entities can unfold to gigabytes, or name other files.
        raise MediaError(path, "it defines entities, which are not read")
    try:
        root = ET.fromstring(text)
    except ET.ParseError as wrong:
        raise MediaError(path, f"it is no SVG drawing ({wrong})") from wrong
    if root.tag.rsplit("}", 1)[-1] != "svg":
        raise MediaError(path, "it is no SVG drawing")
    sides = [_px(root.get(name)) for name in ("width", "height")]
    box = (root.get("viewBox") or "").replace(",", " ").split()
    sides = [side if side is not None else _px(box[n]) if len(box) == 4 else None
             for n, side in zip((2, 3), sides, strict=True)]  # fmt: skip
    if any(side is not None and not 0 < side <= _SIDE for side in sides):
        raise MediaError(path, f"its sides do not lie from 1 to {_SIDE} px")


def _px(text: str | None) -> float | None:
    try:
        return float((text or "").removesuffix("px"))
    except ValueError:
        return None  # in per cent or other units: the drawing's box counts
