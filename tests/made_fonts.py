"""Fonts made for tests: shipped ones under another name."""

from __future__ import annotations

from pathlib import Path

from fontTools.ttLib import TTCollection, TTFont

from rovix.text.catalogue import FONTS

FAMILY = "Larkmoor Print"


def made_font(path: Path, family: str = FAMILY, weight: int = 400, restricted: bool = False) -> Path:
    """A font file of a family that nobody has."""
    _renamed(family, weight, restricted).save(path)
    return path


def made_collection(path: Path) -> Path:
    """One file with two families."""
    collection = TTCollection()
    collection.fonts = [_renamed("Larkmoor One", 400), _renamed("Larkmoor Two", 700)]
    collection.save(path)
    return path


def _renamed(family: str, weight: int, restricted: bool = False) -> TTFont:
    font = TTFont(next((FONTS / "alfa-slab-one").glob("*.ttf")))
    names = font["name"]
    for identity in (16, 17, 21, 22, 25):
        names.removeNames(nameID=identity)
    for identity, text in {1: family, 2: "Regular", 13: "Made up for tests."}.items():
        names.setName(text, identity, 3, 1, 0x409)
        names.setName(text, identity, 1, 0, 0)
    font["OS/2"].usWeightClass = weight
    font["OS/2"].fsType = 2 if restricted else 0
    return font
