"""Looks and moves in the shelf: those that come with Rovix, and the user's own, each an open JSON file."""

from __future__ import annotations

import re
import unicodedata
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Generic, TypeVar

from rovix.errors import RovixError
from rovix.formats.delivery_file import PRESETS, SavedPreset
from rovix.formats.effect_file import EFFECT_FILES, SavedEffects
from rovix.formats.kept_file import Kind, Saved
from rovix.formats.look_file import LOOKS, SavedLook
from rovix.formats.move_file import MOVES, SavedMove

_STEM = 80
S = TypeVar("S", bound=Saved)
READY = Path(__file__).parent / "ready_looks"
READY_PRESETS = Path(__file__).parent / "ready_presets"


class NameTaken(RovixError):
    """There is already one of that name; the user says whether it is to be replaced."""

    def __init__(self, noun: str, name: str) -> None:
        super().__init__(f"There is already a {noun} '{name}' of yours.")


@dataclass(frozen=True, slots=True)
class Shelved(Generic[S]):
    """A look or move and the file it lives in; `own` when it is the user's, to rename and remove."""

    path: Path
    saved: S
    own: bool


class KeptShelf(Generic[S]):
    """What is in `folder`, which is made when the first is saved, after what is in `ready`."""

    def __init__(self, kind: Kind[S], folder: Path, ready: Path | None = None) -> None:
        self.kind, self.folder, self._ready = kind, folder, ready
        self._known: dict[Path, tuple[tuple[int, int, int], S]] = {}
        self.problems: list[str] = []
        """What was wrong with files that were passed over at the last reading."""

    def all(self) -> list[Shelved[S]]:
        """All of them by name, the ready ones first."""
        self.problems = []
        ready = self._in(self._ready, own=False) if self._ready else []
        return [*ready, *self._in(self.folder, own=True)]

    def save(self, saved: S, replacing: bool = False) -> Path:
        """Keep one; NameTaken when one of the user's has its name and is not to be replaced."""
        name = saved.name.strip()
        if not name:
            raise RovixError(f"A {self.kind.noun} needs a name.")
        path = self._taken(name) or self._free_path(name)
        if path.exists() and not replacing:
            raise NameTaken(self.kind.noun, name)
        try:
            self.folder.mkdir(parents=True, exist_ok=True)
        except OSError as wrong:
            raise RovixError(f"{self.folder} could not be made: {wrong.strerror}.") from wrong
        self.kind.write(path, _named(saved, name))
        return path

    def bring_in(self, path: Path, replacing: bool = False) -> Path:
        """Keep what a file holds. NameTaken as of saving; RovixError for one that holds none of the kind."""
        return self.save(self.kind.read(path), replacing)

    def take_out(self, saved: S, path: Path, _from: Path | None = None) -> None:
        """Write one to a file elsewhere."""
        self.kind.write(path, saved)

    def rename(self, item: Shelved[S], name: str) -> None:
        """Give one of the user's another name; NameTaken when another has it."""
        other = self._taken(name.strip())
        if other is not None and other != item.path:
            raise NameTaken(self.kind.noun, name.strip())
        # The file keeps its name: it may be linked to from elsewhere.
        self.kind.write(item.path, _named(item.saved, name.strip() or item.saved.name))

    def remove(self, item: Shelved[S]) -> None:
        """Take one of the user's out of the shelf and off the disk."""
        try:
            item.path.unlink(missing_ok=True)
        except OSError as wrong:
            raise RovixError(f"'{item.saved.name}' could not be removed: {wrong.strerror}.") from wrong

    def _in(self, folder: Path, own: bool) -> list[Shelved[S]]:
        found = []
        for path in sorted(folder.glob("*.json")):
            try:
                found.append(Shelved(path, self._read(path), own))
            except RovixError as wrong:
                self.problems.append(str(wrong))
        return sorted(found, key=lambda item: item.saved.name.lower())

    def _read(self, path: Path) -> S:
        """What a file holds; read and checked again only once it is another."""
        try:
            facts = path.stat()
        except OSError:
            return self.kind.read(path)  # which says what is wrong
        now = facts.st_mtime_ns, facts.st_size, facts.st_ino
        known = self._known.get(path)
        if known is None or known[0] != now:
            known = self._known[path] = now, self.kind.read(path)
        return known[1]

    def _taken(self, name: str) -> Path | None:
        own = self._in(self.folder, own=True)
        return next((item.path for item in own if item.saved.name.lower() == name.lower()), None)

    def _free_path(self, name: str) -> Path:
        plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode()
        stem = re.sub(r"[^a-z0-9]+", "-", plain.lower()).strip("-") or self.kind.noun
        stem = stem[:_STEM]  # file systems take 255 bytes
        path, number = self.folder / f"{stem}.json", 2
        while path.exists():
            path, number = self.folder / f"{stem}-{number}.json", number + 1
        return path


class LookShelf(KeptShelf[SavedLook]):
    """The looks that come with Rovix and those in `folder`."""

    def __init__(self, folder: Path) -> None:
        super().__init__(LOOKS, folder, READY)


class MoveShelf(KeptShelf[SavedMove]):
    """The user's own moves in `folder`; those that come with Rovix are in `motion.ready_moves`."""

    def __init__(self, folder: Path) -> None:
        super().__init__(MOVES, folder)

    def of_role(self, role: str) -> list[Shelved[SavedMove]]:
        """Those that are entrances, loops or exits."""
        return [item for item in self.all() if item.saved.move.role == role]


class EffectShelf(KeptShelf[SavedEffects]):
    """The user's own effects in `folder`; a new one of each kind is in the model."""

    def __init__(self, folder: Path) -> None:
        super().__init__(EFFECT_FILES, folder)


class PresetShelf(KeptShelf[SavedPreset]):
    """The presets that come with Rovix and the user's own in `folder`."""

    def __init__(self, folder: Path) -> None:
        super().__init__(PRESETS, folder, READY_PRESETS)


def _named(saved: S, name: str) -> S:
    return replace(saved, name=name)  # type: ignore[type-var]
