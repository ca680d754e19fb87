"""Words become shaped glyphs in lines and pieces; nothing is drawn here."""

from rovix.text.catalogue import Match, families, match_face, missing_families
from rovix.text.face import Face, GlyphOutline
from rovix.text.layout import Layout, lay_out
from rovix.text.line import Line
from rovix.text.pieces import Pieces, pieces_of
from rovix.text.segments import graphemes, words

__all__ = [
    "Face",
    "GlyphOutline",
    "Layout",
    "Line",
    "Match",
    "Pieces",
    "families",
    "graphemes",
    "lay_out",
    "match_face",
    "missing_families",
    "pieces_of",
    "words",
]
