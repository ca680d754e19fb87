"""Whose work Rovix ships or stands on: each with its creator's notice, its licence and where it is from."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from email.message import Message
from importlib.metadata import PackageNotFoundError, distribution, requires
from typing import cast

from fontTools.ttLib import TTFont

from rovix.text.catalogue import shipped

OFL = "SIL Open Font License 1.1", "https://openfontlicense.org"


@dataclass(frozen=True, slots=True)
class Credit:
    """`kind` is fonts, art or packages; `notice` the creator's own words, or who it is by."""

    kind: str
    name: str
    notice: str
    licence: str
    link: str


EMOJI = (
    Credit(
        "fonts", "Twemoji (the font of emoji in colour)",
        "Built by Mozilla from Twemoji's art, unchanged here.", *OFL,
    ),
    Credit(
        "art", "Twemoji (the emoji's drawings)",
        "Copyright 2014-2019 Twitter, Inc and other contributors. Used as they are in the font above.",
        "Creative Commons Attribution 4.0 International", "https://creativecommons.org/licenses/by/4.0/",
    ),
)  # fmt: skip
ENCODER = (
    "Videos are written by the FFmpeg libraries that come in the package 'av'. Its usual wheels hold "
    "x264 and x265, which are under the GNU General Public License, version 2 or later, and with them "
    "the package as a whole: whoever passes it on together with Rovix keeps to that licence too, and "
    "gives its source. Patents on H.264, H.265 and AAC may ask for a licence of their own where you "
    "are."
)


def credits() -> list[Credit]:
    """Fonts by family, then art, then packages by name."""
    fonts = sorted(_fonts(), key=lambda credit: credit.name)
    return [*fonts, *EMOJI, *_packages()]


def _fonts() -> Iterator[Credit]:
    for family, styles in shipped().items():
        notice = font_notice(styles[0].path)
        if notice:  # the emoji's font has none of its own
            yield Credit("fonts", family, notice, *OFL)


def font_notice(path: str) -> str:
    """The copyright notice in a font file; empty where it has none. OpenType's name table, name 0."""
    with TTFont(path, lazy=True) as font:
        return str(font["name"].getDebugName(0) or "").strip()


def _packages() -> Iterator[Credit]:
    """The packages that Rovix needs, as they are installed here."""
    for needed in sorted(requires("rovix") or (), key=str.lower):
        name = re.split(r"[\s<>=!~;\[]", needed, maxsplit=1)[0]
        if "extra ==" in needed:
            continue
        try:
            facts = distribution(name).metadata
        except PackageNotFoundError:
            continue
        yield _package(name, cast(Message, facts))


def _package(name: str, facts: Message) -> Credit:
    author = facts.get("Author") or facts.get("Author-email") or "its contributors"
    by = "By " + re.sub(r"\s*<[^>]*>", "", author)
    version = f"{name} {facts['Version']}"
    return Credit("packages", version, by, _licence(facts), f"https://pypi.org/project/{name}")


def _licence(facts: Message) -> str:
    licence = str(facts.get("License-Expression") or facts.get("License") or "").strip()
    if licence and "\n" not in licence and len(licence) < 80:
        return licence
    kinds = [kind for kind in facts.get_all("Classifier") or [] if kind.startswith("License ::")]
    return kinds[0].rpartition(":: ")[2] if kinds else "see its page"
