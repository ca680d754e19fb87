"""What font files say of themselves: families, styles, licences. Nothing in them is trusted."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import Any

from rovix.errors import RovixError

SUFFIXES = (".ttf", ".otf", ".ttc", ".otc")
"""The kinds of file that faces can be set in."""
MOST_BYTES = 96 << 20
MOST_FILES = 400
"""Files that are looked at in one folder."""
_FAMILY, _STYLE, _COPYRIGHT, _LICENCE, _LICENCE_URL = (16, 1), (17, 2), (0,), (13,), (14,)
_MAY_NOT_BE_EMBEDDED = 0x0002  # OpenType, OS/2 fsType, "Restricted License embedding"
_ITALIC_BITS = 0x0001 | 0x0200  # OS/2 fsSelection, ITALIC and OBLIQUE


@dataclass(frozen=True, slots=True)
class FontStyle:
    """One face of a file: its family, the weights that it takes (`low` to `high`, both included)."""

    family: str
    style: str
    index: int
    low: int
    high: int
    italic: bool


@dataclass(frozen=True, slots=True)
class FontFile:
    """A font file and what it says of itself; `restricted` when its maker forbids that it goes along."""

    path: str
    styles: tuple[FontStyle, ...]
    copyright: str
    licence: str
    licence_url: str
    restricted: bool

    @property
    def families(self) -> tuple[str, ...]:
        """Its families, once each."""
        return tuple(dict.fromkeys(style.family for style in self.styles))


class FontError(RovixError):
    """A file that cannot be used as a font."""

    def __init__(self, path: Path, reason: str) -> None:
        super().__init__(f"{path.name} is no font that can be used: {reason}.")
        self.reason = reason


def read_font(path: Path) -> FontFile:
    """What a font file says of itself. Raises FontError with the reason."""
    if path.suffix.lower() not in SUFFIXES:
        raise FontError(path, f"faces are read from {', '.join(SUFFIXES)}; convert it to one of these")
    try:
        size = path.stat().st_size
    except OSError as wrong:
        raise FontError(path, f"it cannot be opened ({wrong.strerror})") from wrong
    if size > MOST_BYTES:
        raise FontError(path, f"it is larger than {MOST_BYTES >> 20} MB")
    try:
        return _read(path)
    except FontError:
        raise
    except Exception as wrong:  # whatever a reader makes of a hostile file is a reason to refuse it
        raise FontError(path, f"it is damaged or of another kind ({wrong})") from wrong


def fonts_in(folder: Path) -> tuple[FontFile, ...]:
    """The fonts in a folder, by name; files that cannot be used are left out."""
    try:
        files = sorted(p for p in folder.iterdir() if p.suffix.lower() in SUFFIXES)[:MOST_FILES]
        marked = [(path, path.stat()) for path in files]
    except OSError:
        return ()
    known = (_known(str(path), facts.st_mtime_ns, facts.st_size) for path, facts in marked)
    return tuple(font for font in known if font is not None)


@lru_cache(maxsize=1024)
def _known(path: str, changed: int, size: int) -> FontFile | None:
    try:
        return read_font(Path(path))
    except FontError:
        return None


def _read(path: Path) -> FontFile:
    # Only who reads fonts of others waits for it; imported above, every start would.
    from fontTools.ttLib import TTCollection, TTFont

    # Opened here, as the reader leaves it open where it is no font.
    with path.open("rb") as stream:
        if path.suffix.lower() in (".ttc", ".otc"):
            return _file(path, list(TTCollection(stream, lazy=True).fonts))
        return _file(path, [TTFont(stream, lazy=True)])


def _file(path: Path, fonts: list[Any]) -> FontFile:
    styles = tuple(_style(path, font, index) for index, font in enumerate(fonts))
    if not styles:
        raise FontError(path, "there is no face in it")
    first = fonts[0]
    restricted = any(font["OS/2"].fsType & 0x000F == _MAY_NOT_BE_EMBEDDED for font in fonts if "OS/2" in font)
    copyright_, licence, url = (_name(first, ids) for ids in (_COPYRIGHT, _LICENCE, _LICENCE_URL))
    return FontFile(str(path), styles, copyright_, licence, url, restricted)


def _style(path: Path, font: Any, index: int) -> FontStyle:
    if not ("glyf" in font or "CFF " in font or "CFF2" in font):
        raise FontError(path, "it has no outlines")
    if not font.getBestCmap():
        raise FontError(path, "it has no letters")
    family = _name(font, _FAMILY)
    if not family:
        raise FontError(path, "it does not say what its family is called")
    table = font.get("OS/2")
    weight = min(max(int(table.usWeightClass), 1), 1000) if table is not None else 400
    italic = bool(table.fsSelection & _ITALIC_BITS) if table is not None else False
    low, high = _weights(font, weight)
    return FontStyle(family, _name(font, _STYLE) or "Regular", index, low, high, italic)


def _weights(font: Any, weight: int) -> tuple[int, int]:
    if "fvar" in font:
        for axis in font["fvar"].axes:
            if axis.axisTag == "wght":
                return round(axis.minValue), round(axis.maxValue)
    return weight, weight


def _name(font: Any, ids: tuple[int, ...]) -> str:
    """The first of these names that there is, on one line."""
    table = font.get("name")
    for identity in ids:
        text = table.getDebugName(identity) if table is not None else None
        if text and text.strip():
            return " ".join(text.split())[:2000]
    return ""
