"""Families: those that ship with Rovix, those beside the project, and the system's."""

from __future__ import annotations

import json
from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

from rovix.text.face import AxisRange, Face, FaceKey, axis_ranges, face
from rovix.text.font_changes import fonts_changed, kept_while_fonts_stay
from rovix.text.font_files import fonts_in
from rovix.text.system_fonts import SystemStyle, look_at_system_again, system_styles

FONTS = Path(__file__).parent / "fonts"
BESIDE = "fonts"
"""The folder beside a project file whose fonts are the project's own."""
STAND_IN = "Outfit"
Axes = tuple[tuple[str, float], ...]


@dataclass(frozen=True, slots=True)
class Style:
    """A file of a family and the weights it can take (equal ends: a fixed weight)."""

    path: str
    low: int
    high: int
    italic: bool = False
    index: int = 0

    def distance(self, weight: int, italic: bool) -> tuple[bool, float]:
        """How far this style is from what is asked; smaller is nearer."""
        return self.italic != italic, abs(weight - min(max(weight, self.low), self.high))

    def at(self, weight: int, italic: bool, axes: Axes = ()) -> Face:
        """The face at a weight and at axes of the font; values go to the nearest that it has."""
        wanted = {"wght": float(weight)} | {tag: value for tag, value in axes if tag != "wght"}
        taken = tuple(
            (axis.tag, float(min(max(wanted[axis.tag], axis.low), axis.high)))
            for axis in axis_ranges(self.path, self.index)
            if axis.tag in wanted
        )
        return face(FaceKey(self.path, self.index, taken, slanted=italic and not self.italic))


@dataclass(frozen=True, slots=True)
class Match:
    """The face for what was asked; `missing` when the family is not here and a stand-in is drawn."""

    face: Face
    missing: bool = False


@lru_cache(maxsize=1)
def shipped() -> dict[str, tuple[Style, ...]]:
    """The families in Rovix's own fonts folder, by name."""
    manifest = json.loads((FONTS / "manifest.json").read_text(encoding="utf-8"))
    return {
        entry["family"]: tuple(
            Style(str(FONTS / style["file"]), low, high, style.get("italic", False))
            for style in entry["styles"]
            for low, high in [style["weights"]]
        )
        for entry in manifest["families"]
    }


_project_folder: Path | None = None


def use_project_fonts(base: Path) -> None:
    """From now on the fonts beside this project can be set; others' no longer."""
    global _project_folder
    folder = base / BESIDE
    if folder == _project_folder:
        return
    before, _project_folder = _of_project(), folder
    _of_project.cache_clear()
    if _of_project() or before:
        fonts_changed()


def look_for_fonts_again() -> None:
    """Fonts may have come or gone, beside the project or on the system."""
    look_at_system_again()
    fonts_changed()


@kept_while_fonts_stay(1)
def _of_project() -> dict[str, tuple[Style, ...]]:
    found: dict[str, list[Style]] = {}
    for file in fonts_in(_project_folder) if _project_folder is not None else ():
        for style in file.styles:
            made = Style(file.path, style.low, style.high, style.italic, style.index)
            found.setdefault(style.family, []).append(made)
    return {name: tuple(styles) for name, styles in found.items()}


@kept_while_fonts_stay(1)
def _system() -> dict[str, tuple[Style, ...]]:
    found: dict[str, list[Style]] = {}
    for style in system_styles():
        found.setdefault(style.family, []).append(_from_system(style))
    return {name: tuple(styles) for name, styles in found.items()}


def _from_system(style: SystemStyle) -> Style:
    return Style(style.path, style.weight, style.weight, style.italic, style.index)


def families() -> list[str]:
    """Every family that can be set, the shipped ones first, then the project's, each part sorted."""
    own = set(_of_project()) - set(shipped())
    return sorted(shipped()) + sorted(own) + sorted(set(_system()) - own - set(shipped()))


def source_of(family: str) -> str:
    """Where a family is from: shipped, project or system; empty when it is not here."""
    places = {"shipped": shipped(), "project": _of_project(), "system": _system()}
    return next((name for name, known in places.items() if family in known), "")


def styles_of(family: str) -> tuple[Style, ...] | None:
    """The styles of a family; None when it is not here.

    The project's go before the system's, so that it looks the same on every machine.
    """
    found: tuple[Style, ...] | None = (
        shipped().get(family) or _of_project().get(family) or _system().get(family)
    )
    return found


def match_face(family: str, weight: int = 400, italic: bool = False, axes: Axes = ()) -> Match:
    """The nearest face of a family; the family `Outfit` stands in for one that is not here.

    A weight that the family lacks takes the nearest; an italic that it lacks is slanted; an axis
    that it lacks does nothing.
    """
    found: Match = _match(family, weight, italic, axes)
    return found


@kept_while_fonts_stay(1024)
def _match(family: str, weight: int, italic: bool, axes: Axes) -> Match:
    styles = styles_of(family)
    chosen = _nearest(styles or shipped()[STAND_IN], weight, italic)
    return Match(chosen.at(weight, italic, axes), missing=styles is None)


def _nearest(styles: tuple[Style, ...], weight: int, italic: bool) -> Style:
    return min(styles, key=lambda style: style.distance(weight, italic))


def axes_of(family: str, weight: int = 400, italic: bool = False) -> tuple[AxisRange, ...]:
    """The axes of the font that a family's nearest face comes from, its weight among them."""
    styles = styles_of(family)
    if styles is None:
        return ()
    chosen = _nearest(styles, weight, italic)
    return axis_ranges(chosen.path, chosen.index)


def weights_of(family: str) -> list[int]:
    """The weights that a family really has, as far as they stand apart, rising."""
    return sorted({style.low for style in styles_of(family) or () if style.low == style.high})


def missing_families(names: Iterable[str]) -> list[str]:
    """Those of the names that neither ship nor are on the system, in order, once each."""
    return [name for name in dict.fromkeys(names) if match_face(name).missing]
