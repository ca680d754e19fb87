"""The system's fonts by fontconfig's C library, which Skia needs anyway; no Qt, no subprocess."""

from __future__ import annotations

import ctypes
import ctypes.util
from ctypes import POINTER, byref, c_char_p, c_int, c_uint32, c_void_p
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

_MATCH = 0  # FcResultMatch
_MATCH_PATTERN = 0  # FcMatchPattern
_ITALIC = 100  # FC_SLANT_ITALIC; oblique is 110


@dataclass(frozen=True, slots=True)
class SystemStyle:
    family: str
    path: str
    index: int
    weight: int
    italic: bool


class _FontSet(ctypes.Structure):
    _fields_ = (("count", c_int), ("size", c_int), ("fonts", POINTER(c_void_p)))


@lru_cache(maxsize=1)
def _library() -> Any | None:
    try:
        library = ctypes.CDLL(ctypes.util.find_library("fontconfig") or "libfontconfig.so.1")
    except OSError:
        return None
    pointers = (
        "FcPatternCreate", "FcObjectSetBuild", "FcFontMatch", "FcCharSetCreate", "FcObjectSetCreate",
        "FcConfigGetFontDirs",
    )  # fmt: skip
    for name in pointers:
        getattr(library, name).restype = c_void_p
    library.FcFontList.restype = POINTER(_FontSet)
    library.FcStrListNext.restype = c_char_p
    library.FcWeightToOpenType.restype = c_int
    return library if library.FcInit() else None


def look_at_system_again() -> None:
    """Have the system's list of fonts read anew."""
    library = _library()
    if library is not None:
        library.FcInitReinitialize()


def font_folders() -> list[str]:
    """The folders that hold the system's and the user's fonts, with those below them."""
    library = _library()
    if library is None:
        return []
    listed = c_void_p(library.FcConfigGetFontDirs(None))
    found = []
    while (name := library.FcStrListNext(listed)) is not None:
        found.append(name.decode("utf-8", "surrogateescape"))
    library.FcStrListDone(listed)
    return found


def system_styles() -> list[SystemStyle]:
    """Every scalable font with outlines; empty where fontconfig is not installed."""
    library = _library()
    if library is None:
        return []
    pattern, objects = _outline_pattern(library), c_void_p(library.FcObjectSetCreate())
    for name in (b"family", b"file", b"index", b"weight", b"slant", b"variable"):
        library.FcObjectSetAdd(objects, c_char_p(name))
    fonts = library.FcFontList(None, pattern, objects)
    found = [_style(library, c_void_p(fonts.contents.fonts[i])) for i in range(fonts.contents.count)]
    library.FcFontSetDestroy(fonts)
    library.FcObjectSetDestroy(objects)
    library.FcPatternDestroy(pattern)
    return sorted((style for style in found if style), key=lambda s: (s.family, s.weight, s.italic, s.path))


def system_face_for(character: str, weight: int) -> SystemStyle | None:
    """The font that fontconfig would take for a character, if it really has it."""
    library = _library()
    if library is None:
        return None
    pattern, characters = _outline_pattern(library), c_void_p(library.FcCharSetCreate())
    library.FcCharSetAddChar(characters, c_uint32(ord(character)))
    library.FcPatternAddCharSet(pattern, c_char_p(b"charset"), characters)
    library.FcPatternAddInteger(
        pattern, c_char_p(b"weight"), c_int(library.FcWeightFromOpenType(c_int(weight)))
    )
    library.FcConfigSubstitute(None, pattern, c_int(_MATCH_PATTERN))
    library.FcDefaultSubstitute(pattern)
    result = c_int()
    match = c_void_p(library.FcFontMatch(None, pattern, byref(result)))
    style = _covering(library, match, character) if match else None
    for destroy, thing in (("FcCharSetDestroy", characters), ("FcPatternDestroy", pattern)):
        getattr(library, destroy)(thing)
    if match:
        library.FcPatternDestroy(match)
    return style


def _outline_pattern(library: Any) -> c_void_p:
    pattern = c_void_p(library.FcPatternCreate())
    library.FcPatternAddBool(pattern, c_char_p(b"outline"), c_int(1))
    library.FcPatternAddBool(pattern, c_char_p(b"color"), c_int(0))
    return pattern


def _covering(library: Any, match: c_void_p, character: str) -> SystemStyle | None:
    covered = c_void_p()
    if library.FcPatternGetCharSet(match, c_char_p(b"charset"), 0, byref(covered)) != _MATCH:
        return None
    return _style(library, match) if library.FcCharSetHasChar(covered, c_uint32(ord(character))) else None


def _style(library: Any, pattern: c_void_p) -> SystemStyle | None:
    def text(name: bytes) -> str | None:
        value = c_char_p()
        got = library.FcPatternGetString(pattern, c_char_p(name), 0, byref(value))
        return value.value.decode("utf-8", "replace") if got == _MATCH and value.value else None

    def number(name: bytes, default: int) -> int:
        value = c_int()
        got = library.FcPatternGetInteger(pattern, c_char_p(name), 0, byref(value))
        return value.value if got == _MATCH else default

    family, path = text(b"family"), text(b"file")
    if family is None or path is None or not path.lower().endswith((".ttf", ".otf", ".ttc", ".otc")):
        return None
    weight = library.FcWeightToOpenType(c_int(number(b"weight", 80)))
    # A named instance of a variable font keeps its number in the upper half of the index.
    return SystemStyle(
        family, path, number(b"index", 0) & 0xFFFF, max(1, int(weight)), number(b"slant", 0) >= _ITALIC
    )
