"""A face for every letter: words never vanish because a font lacks one."""

from __future__ import annotations

from functools import lru_cache

from rovix.text.catalogue import _from_system, match_face
from rovix.text.face import Face, asks_for_glyph
from rovix.text.system_fonts import system_face_for

# Shipped faces in the order in which they are asked: widest alphabet first, symbols last.
_ORDER = ("Inter", "Vazirmatn", "Heebo", "Mukta", "Noto Emoji")


def face_for(cluster: str, wanted: Face, weight: int, italic: bool) -> Face:
    """The wanted face if it has the letter, else a shipped one, else a system font, else the wanted
    face again, which then draws its box for a missing letter."""
    if wanted.covers(cluster):
        return wanted
    return _other(cluster, weight, italic) or wanted


@lru_cache(maxsize=4096)
def _other(cluster: str, weight: int, italic: bool) -> Face | None:
    for family in _ORDER:
        candidate = match_face(family, weight, italic).face
        if candidate.covers(cluster):
            return candidate
    for character in filter(asks_for_glyph, cluster):
        style = system_face_for(character, weight)
        if style is not None:
            candidate = _from_system(style).at(weight, italic)
            if candidate.covers(cluster):
                return candidate
    return None
