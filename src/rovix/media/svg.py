"""SVG files as pixels. What a drawing may ask for is cleaned first; nothing beside it is read."""

from __future__ import annotations

import base64
import binascii
import io
import re
import warnings
from pathlib import Path
from xml.etree.ElementTree import Element, ParseError, tostring

import defusedxml.ElementTree
import numpy as np
import resvg_py
from defusedxml.common import DefusedXmlException
from numpy.typing import NDArray
from PIL import Image

from rovix.files import read_regular
from rovix.media.errors import MediaError

_MOST = 32 << 20  # bytes of markup
SIDE = 8192
"""The most px that a side may have."""
_DEPTH = 96
_ELEMENTS = 200_000
_EMBEDDED = 40_000_000  # px of a picture inside
_OCTAVES = 8
_DATA = re.compile(r"data:image/(png|jpe?g|gif|webp);base64,", re.IGNORECASE)
_OUTSIDE = re.compile(r"url\(\s*['\"]?(?!['\"]?\s*#)[^)]*\)", re.IGNORECASE)
_IMPORT = re.compile(r"@import[^;]*;?", re.IGNORECASE)
_LENGTH = re.compile(r"\s*([+-]?[0-9.]+(?:[eE][+-]?[0-9]+)?)\s*([a-z%]*)\s*", re.IGNORECASE)
# px of each unit, CSS Values and Units Level 4; em and ex by the usual 16 px.
_UNITS = {
    "": 1.0, "px": 1.0, "pt": 96 / 72, "pc": 16.0, "in": 96.0, "cm": 96 / 2.54, "mm": 96 / 25.4,
    "q": 96 / 101.6, "em": 16.0, "rem": 16.0, "ex": 8.0,
}  # fmt: skip


def read_svg(path: Path, scale: float = 1.0) -> NDArray[np.uint8]:
    """(height, width, 4) straight RGBA of a drawing, `scale` times its own size.

    Raises MediaError for what is no SVG, has no size that can be drawn, or asks for too much.
    """
    root = _cleaned(path)
    width, height = _size(path, root)
    across, down = (max(1, min(SIDE, round(side * scale))) for side in (width, height))
    if root.get("viewBox") is None:
        root.set("viewBox", f"0 0 {width} {height}")
    root.set("width", str(across))
    root.set("height", str(down))
    text = tostring(root, encoding="unicode")
    try:
        content = resvg_py.svg_to_bytes(svg_string=text, skip_system_fonts=True)
        with Image.open(io.BytesIO(bytes(content))) as image:
            return np.asarray(image.convert("RGBA"))
    except (ValueError, RuntimeError, OSError) as wrong:
        raise MediaError(path, f"the drawing cannot be read ({wrong})") from wrong


def _cleaned(path: Path) -> Element:
    """The drawing without references to anything but itself, and within bounds."""
    try:
        text = read_regular(path, _MOST).decode("utf-8-sig")
        root = defusedxml.ElementTree.fromstring(text, forbid_dtd=False)
    except (OSError, UnicodeDecodeError) as wrong:
        reason = getattr(wrong, "strerror", None) or str(wrong)
        raise MediaError(path, f"it is no SVG text ({reason})") from wrong
    except DefusedXmlException as wrong:
        # Entities can unfold to gigabytes, or name other files.
        raise MediaError(path, "it defines entities, which are not read") from wrong
    except (ParseError, ValueError) as wrong:
        raise MediaError(path, f"it is no SVG drawing ({wrong})") from wrong
    if _name(root) != "svg":
        raise MediaError(path, "it is no SVG drawing")
    _check_extent(path, root)
    for element in root.iter():
        _clean(path, element)
    return root


def _name(element: Element) -> str:
    return str(element.tag).rsplit("}", 1)[-1]


def _check_extent(path: Path, root: Element) -> None:
    count, level, depth = 0, [root], 0
    while level:
        count, depth = count + len(level), depth + 1
        if depth > _DEPTH:
            raise MediaError(path, f"its elements stand more than {_DEPTH} deep in each other")
        if count > _ELEMENTS:
            raise MediaError(path, f"it has more than {_ELEMENTS} elements")
        level = [child for element in level for child in element]


def _clean(path: Path, element: Element) -> None:
    if element.text and _name(element) == "style":
        element.text = _OUTSIDE.sub("none", _IMPORT.sub("", element.text))
    for name, value in list(element.attrib.items()):
        plain = name.rsplit("}", 1)[-1]
        if plain == "href":
            if not _may_refer(path, value):
                del element.attrib[name]
        elif plain == "numOctaves":
            element.attrib[name] = _fewer(value)
        elif "url(" in value.lower():
            element.attrib[name] = _OUTSIDE.sub("none", value)


def _may_refer(path: Path, value: str) -> bool:
    """Whether a reference stays inside the drawing: a fragment, or a picture in the text itself."""
    value = value.strip()
    if value.startswith("#"):
        return True
    found = _DATA.match(value)
    if found is None:
        return False
    _check_embedded(path, value[found.end() :])
    return True


def _check_embedded(path: Path, text: str) -> None:
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", Image.DecompressionBombWarning)
            with Image.open(io.BytesIO(base64.b64decode(text))) as image:
                size = image.size[0] * image.size[1]
    except (binascii.Error, OSError, ValueError, SyntaxError, Image.DecompressionBombError) as wrong:
        raise MediaError(path, f"a picture inside it is damaged or too large ({wrong})") from wrong
    if size > _EMBEDDED:
        raise MediaError(path, f"a picture inside it has more than {_EMBEDDED // 1_000_000} million px")


def _fewer(octaves: str) -> str:
    """Octaves of turbulence past the eighth are finer than any px here, and each takes its time."""
    try:
        return str(min(_OCTAVES, int(float(octaves))))
    except (ValueError, OverflowError):
        return "1"


def _size(path: Path, root: Element) -> tuple[float, float]:
    """Width and height in px: those that the drawing says in any unit, else its box's."""
    box = [_px(part) for part in (root.get("viewBox") or "").replace(",", " ").split()]
    across, down = (box[2], box[3]) if len(box) == 4 else (None, None)
    width, height = _px(root.get("width")), _px(root.get("height"))
    if width is None and height is not None and across and down:
        width = height * across / down
    if height is None and width is not None and across and down:
        height = width * down / across
    width, height = width if width is not None else across, height if height is not None else down
    if width is None or height is None:
        width, height = width or 100.0, height or 100.0  # SVG 2, 8.2: what browsers take is not said
    if not (0 < width <= SIDE and 0 < height <= SIDE):
        raise MediaError(path, f"its sides do not lie from 1 to {SIDE} px")
    return width, height


def _px(text: str | None) -> float | None:
    """A length in px; None where there is none, or in per cent of what is not known."""
    found = _LENGTH.fullmatch(text or "")
    factor = _UNITS.get(found[2].lower()) if found else None
    try:
        return None if found is None or factor is None else float(found[1]) * factor
    except ValueError:
        return None
