"""The looks in the shelf: those that come with Rovix, and the user's own, each an open JSON file."""

from __future__ import annotations

import re
import unicodedata
from dataclasses import dataclass, replace
from pathlib import Path

from rovix.errors import RovixError
from rovix.formats.look_file import SavedLook, read_look, write_look

READY = Path(__file__).parent / "ready_looks"


class NameTaken(RovixError):
    """There is already a look of that name; the user says whether it is to be replaced."""

    def __init__(self, name: str) -> None:
        super().__init__(f"There is already a look '{name}' of yours.")


@dataclass(frozen=True, slots=True)
class ShelfLook:
    """A look and the file it lives in; `own` when it is the user's, to rename and remove."""

    path: Path
    saved: SavedLook
    own: bool


class LookShelf:
    """Looks in `folder`, which is made when the first is saved, after those that come with Rovix."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.problems: list[str] = []
        """What was wrong with files that were passed over at the last reading."""

    def looks(self) -> list[ShelfLook]:
        """All of them by name, the ready ones first."""
        self.problems = []
        return [*self._in(READY, own=False), *self._in(self.folder, own=True)]

    def save(self, saved: SavedLook, replacing: bool = False) -> Path:
        """Keep a look; NameTaken when one of the user's has its name and is not to be replaced."""
        name = saved.name.strip()
        if not name:
            raise RovixError("A look needs a name.")
        path = self._taken(name) or self._free_path(name)
        if path.exists() and not replacing:
            raise NameTaken(name)
        self.folder.mkdir(parents=True, exist_ok=True)
        write_look(path, replace(saved, name=name))
        return path

    def rename(self, look: ShelfLook, name: str) -> None:
        """Give a look of the user's another name; NameTaken when another has it."""
        other = self._taken(name.strip())
        if other is not None and other != look.path:
            raise NameTaken(name.strip())
        # The file keeps its name: it may be linked to from elsewhere.
        write_look(look.path, replace(look.saved, name=name.strip() or look.saved.name))

    def remove(self, look: ShelfLook) -> None:
        """Take a look of the user's out of the shelf and off the disk."""
        try:
            look.path.unlink(missing_ok=True)
        except OSError as wrong:
            raise RovixError(f"'{look.saved.name}' could not be removed: {wrong.strerror}.") from wrong

    def _in(self, folder: Path, own: bool) -> list[ShelfLook]:
        found = []
        for path in sorted(folder.glob("*.json")):
            try:
                found.append(ShelfLook(path, read_look(path), own))
            except RovixError as wrong:
                self.problems.append(str(wrong))
        return sorted(found, key=lambda look: look.saved.name.lower())

    def _taken(self, name: str) -> Path | None:
        own = self._in(self.folder, own=True)
        return next((look.path for look in own if look.saved.name.lower() == name.lower()), None)

    def _free_path(self, name: str) -> Path:
        plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode()
        stem = re.sub(r"[^a-z0-9]+", "-", plain.lower()).strip("-") or "look"
        path, number = self.folder / f"{stem}.json", 2
        while path.exists():
            path, number = self.folder / f"{stem}-{number}.json", number + 1
        return path
