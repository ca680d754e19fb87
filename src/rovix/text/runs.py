"""Parts of a line that one call of HarfBuzz can shape: one face, script and direction."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import groupby

from fontTools.unicodedata import script as _script

from rovix.text.bidi import levels
from rovix.text.face import Face
from rovix.text.fallback import face_for
from rovix.text.segments import graphemes

_NEUTRAL_SCRIPTS = ("Zyyy", "Zinh", "Zzzz")


@dataclass(frozen=True, slots=True)
class Run:
    """Characters `start` to `end` (not included) of a line."""

    start: int
    end: int
    face: Face
    script: str
    level: int


def runs_of(line: str, wanted: Face, weight: int, italic: bool) -> list[Run]:
    """A line's runs in logical order; they cover it without gaps."""
    traits = list(zip(_faces(line, wanted, weight, italic), _scripts(line), levels(line), strict=True))
    runs, start = [], 0
    for (face, script, level), group in groupby(traits):
        length = sum(1 for _ in group)
        runs.append(Run(start, start + length, face, script, level))
        start += length
    return runs


def _faces(line: str, wanted: Face, weight: int, italic: bool) -> list[Face]:
    faces: list[Face] = []
    for cluster in graphemes(line):
        # White space stays with the letter before it, so that no run breaks at a space.
        follows = cluster.isspace() and faces and faces[-1].covers(cluster)
        face = faces[-1] if follows else face_for(cluster, wanted, weight, italic)
        faces += [face] * len(cluster)
    return faces


def _scripts(line: str) -> list[str]:
    scripts = [_script(character) for character in line]
    known = next((script for script in scripts if script not in _NEUTRAL_SCRIPTS), "Latn")
    resolved = []
    for script in scripts:
        known = known if script in _NEUTRAL_SCRIPTS else script
        resolved.append(known)
    return resolved
