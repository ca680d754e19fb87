"""Parts of a line that one call of HarfBuzz can shape: one face, script and direction."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import groupby

from rovix.text.bidi import levels
from rovix.text.face import Face
from rovix.text.fallback import face_for
from rovix.text.segments import graphemes
from rovix.text.setting import Setting

_NEUTRAL_SCRIPTS = ("Zyyy", "Zinh", "Zzzz")


@dataclass(frozen=True, slots=True)
class Run:
    """Characters `start` to `end` (not included) of a line."""

    start: int
    end: int
    face: Face
    script: str
    level: int
    setting: Setting


def runs_of(line: str, settings: Sequence[Setting]) -> list[Run]:
    """A line's runs in logical order; they cover it without gaps. One setting per character."""
    faces, kept = _faces(line, settings)
    traits = list(zip(faces, _scripts(line), levels(line), kept, strict=True))
    runs, start = [], 0
    for (face, script, level, setting), group in groupby(traits):
        length = sum(1 for _ in group)
        runs.append(Run(start, start + length, face, script, level, setting))
        start += length
    return runs


def _faces(line: str, settings: Sequence[Setting]) -> tuple[list[Face], list[Setting]]:
    """Face and setting of each character; a letter of several has those of its first."""
    faces: list[Face] = []
    kept: list[Setting] = []
    known: dict[str, Face] = {}
    for cluster in graphemes(line):
        setting = settings[len(faces)]
        if not kept or setting is not kept[-1]:
            known = {}
        # White space stays with the letter before it, so that no run breaks at a space.
        if cluster.isspace() and known and faces[-1].covers(cluster):
            face = faces[-1]
        else:
            face = known.get(cluster) or face_for(cluster, setting.face, setting.weight, setting.italic)
            known[cluster] = face
        faces += [face] * len(cluster)
        kept += [setting] * len(cluster)
    return faces, kept


@lru_cache(maxsize=4096)
def script_of(character: str) -> str:
    """Its script, as ISO 15924 codes it."""
    if character.isascii() and character.isalpha():
        return "Latn"
    from fontTools import unicodedata  # its tables: plain words have a known script without

    return unicodedata.script(character)


def _scripts(line: str) -> list[str]:
    scripts = [script_of(character) for character in line]
    known = next((script for script in scripts if script not in _NEUTRAL_SCRIPTS), "Latn")
    resolved = []
    for script in scripts:
        known = known if script in _NEUTRAL_SCRIPTS else script
        resolved.append(known)
    return resolved
