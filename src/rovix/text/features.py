"""The OpenType features that people choose, and which of them a face has."""

from __future__ import annotations

from functools import lru_cache

from rovix.text.face import Face

# Registered feature tags of the OpenType specification, those that are a matter of taste.
NAMES = {
    "liga": "Ligatures", "dlig": "More ligatures", "calt": "Alternates by context", "tnum": "Tabular figures",
    "pnum": "Proportional figures", "onum": "Old-style figures", "lnum": "Lining figures",
    "zero": "Slashed zero", "frac": "Fractions", "smcp": "Small capitals", "c2sc": "Capitals to small",
    "case": "Signs for capitals", "sups": "Raised figures", "swsh": "Swashes", "salt": "Other shapes",
    **{f"ss{number:02d}": f"Style set {number}" for number in range(1, 21)},
}  # fmt: skip
ON_BY_ITSELF = frozenset({"liga", "calt"})


@lru_cache(maxsize=256)
def features_in(face: Face) -> tuple[str, ...]:
    """The tags of :data:`NAMES` that a face has in any script, in the order of the names."""
    opened = face.hb_face
    found: set[str] = set()
    for table in ("GSUB", "GPOS"):
        for script in range(len(opened.get_table_script_tags(table))):
            languages = range(len(opened.get_script_language_tags(table, script)))
            for language in (0xFFFF, *languages):
                found |= set(opened.get_language_feature_tags(table, script, language))
    return tuple(tag for tag in NAMES if tag in found)
