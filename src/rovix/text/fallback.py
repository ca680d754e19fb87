"""A face for every letter: words never vanish because a font lacks one."""

from __future__ import annotations

from rovix.text.catalogue import _from_system, match_face
from rovix.text.face import Face, asks_for_glyph
from rovix.text.font_changes import kept_while_fonts_stay
from rovix.text.system_fonts import system_face_for

# Shipped faces in the order in which they are asked: widest alphabet first, symbols last.
_ORDER = (
    "Inter", "Vazirmatn", "Heebo", "Mukta", "Noto Sans Thai", "Noto Sans Bengali", "Noto Sans Tamil",
    "Noto Sans Georgian", "Noto Sans Armenian", "Gothic A1", "M PLUS 1p", "Noto Emoji", "Twemoji",
)  # fmt: skip
_IN_COLOUR, _AS_OUTLINES = "Twemoji", "Noto Emoji"
_FIRST_EMOJI = "\u231a"  # that is shown as one by itself (Unicode's emoji-data, Emoji_Presentation)
_TEXT_STYLE, _EMOJI_STYLE = "\ufe0e", "\ufe0f"  # variation selectors 15 and 16


def face_for(cluster: str, wanted: Face, weight: int, italic: bool) -> Face:
    """The wanted face if it has the letter, else a shipped one, else a system font, else the wanted
    face again, which then draws its box for a missing letter.

    Emoji are drawn in colour, unless the wanted face is one for emoji or the text asks for outlines.
    """
    if cluster.isascii() and wanted.covers(cluster):
        return wanted
    if wants_colour(cluster) and not (wanted.shows_emoji and wanted.covers(cluster)):
        coloured = match_face(_IN_COLOUR).face
        if coloured.covers(cluster):
            return coloured
    if wanted.covers(cluster):
        return wanted
    if _TEXT_STYLE in cluster and match_face(_AS_OUTLINES, weight).face.covers(cluster):
        return match_face(_AS_OUTLINES, weight).face
    return _other(cluster, weight, italic) or wanted


def wants_colour(cluster: str) -> bool:
    """Whether a letter is to be shown as an emoji, by the presentation of Unicode's UTS #51.

    A selector decides; without one, the character's own default does.
    """
    if _TEXT_STYLE in cluster:
        return False
    if _EMOJI_STYLE in cluster or cluster[0] < _FIRST_EMOJI:
        return _EMOJI_STYLE in cluster
    from uniseg.emoji import emoji_presentation  # its tables are loaded by the first text that asks

    return emoji_presentation(cluster[0])


@kept_while_fonts_stay(4096)
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
