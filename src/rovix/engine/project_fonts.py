"""Fonts brought in: checked by another process, then copied beside the project or to the user's own."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from pathlib import Path

from platformdirs import user_data_path

from rovix.errors import RovixError
from rovix.formats import write_whole
from rovix.media.apart import apart
from rovix.media.errors import MediaError
from rovix.model import Project
from rovix.model.consistency import used_families
from rovix.text.catalogue import BESIDE
from rovix.text.face import Face, FaceKey
from rovix.text.font_files import FontError, FontFile, fonts_in, read_font

_TRIED = 64  # glyphs whose outlines are drawn once, to see whether that can be done
_MOST_NAMES = 1000


def user_fonts() -> Path:
    """Where the fonts of this user are, for all programs (XDG base directories)."""
    return user_data_path() / "fonts"


def check_font(path: Path) -> FontFile:
    """What a font file says of itself, once its letters could be drawn. Raises FontError with the reason."""
    try:
        found = apart(_looked_at, path)
    except MediaError as wrong:
        raise FontError(path, wrong.reason) from wrong
    if isinstance(found, str):
        raise FontError(path, found)
    return found


def _looked_at(path: Path) -> FontFile | str:
    try:
        font = read_font(path)
    except FontError as wrong:
        return wrong.reason
    for style in font.styles:
        face = Face(FaceKey(str(path), style.index))
        for letter in sorted(face.characters)[:_TRIED]:
            face.outline(face.hb_font.get_nominal_glyph(letter) or 0)
    return font


def bring_in(fonts: Iterable[FontFile], folder: Path) -> list[FontFile]:
    """Copy fonts into a folder, each whole or not at all; those that are there already are not copied again.

    Gives them as they are there. Raises RovixError for a folder or a file that cannot be used.
    """
    brought = []
    for font in fonts:
        path = Path(font.path)
        try:
            data = path.read_bytes()
            folder.mkdir(parents=True, exist_ok=True)
            target = _free_name(folder, path.name, data)
            if not target.exists():
                write_whole(target, data)
        except OSError as wrong:
            raise RovixError(
                f"{path.name} could not be copied to {folder}: {wrong.strerror}. Take the other place, or "
                "give yourself the right to write there."
            ) from wrong
        brought.append(replace(font, path=str(target)))
    return brought


def carry_fonts(project: Project, old: Path, new: Path) -> None:
    """Copy the fonts beside the project that its words are set in, when it moves to another folder."""
    if old.resolve() == new.resolve():
        return
    used = set(used_families(project))
    bring_in([font for font in fonts_in(old / BESIDE) if used & set(font.families)], new / BESIDE)


def _free_name(folder: Path, name: str, data: bytes) -> Path:
    """A name in the folder that is free, or has this very font."""
    stem, dot, suffix = name.rpartition(".")
    for number in range(1, _MOST_NAMES):
        path = folder / (name if number == 1 else f"{stem} {number}{dot}{suffix}")
        if not path.exists() or path.read_bytes() == data:
            return path
    raise RovixError(f"There are too many fonts called {name} in {folder}. Take some away.")
