"""Titles that are kept: those that come with Rovix and the user's own, each a file with its media beside
it."""

from __future__ import annotations

import shutil
from pathlib import Path

from platformdirs import user_data_path

from rovix.edit.media_paths import with_base
from rovix.edit.tree import replace
from rovix.engine.kept_shelf import KeptShelf, Shelved
from rovix.errors import RovixError
from rovix.formats import replacing
from rovix.formats.title_file import TITLES, SavedTitle
from rovix.model import Media
from rovix.model.title import Title

READY = Path(__file__).parent / "ready_titles"
MEDIA = "media"
"""The folder beside titles that their files are in."""


def titles_folder() -> Path:
    """Where the user's own are."""
    return user_data_path("rovix") / "titles"


class TitleShelf(KeptShelf[SavedTitle]):
    """The ready titles and those in a folder."""

    def __init__(self, folder: Path | None = None) -> None:
        super().__init__(TITLES, folder or titles_folder(), READY)

    def keep(self, name: str, title: Title, base: Path, replacing: bool = False) -> Path:
        """Keep a title with copies of its files, whose paths count from `base`; its own file.

        One that takes another's place is its next version. NameTaken where one of the user's has the name;
        RovixError where files cannot be copied.
        """
        media = tuple(_copied(item, base, self.folder / MEDIA) for item in title.media)
        before = [item for item in self.all() if item.own and item.saved.name.lower() == name.strip().lower()]
        version = max((item.saved.title.version + 1 for item in before), default=title.version)
        return self.save(SavedTitle(name, replace(_with(title, media), version=version)), replacing)

    def bring_in(self, path: Path, replacing: bool = False) -> Path:
        """Keep the title in a file, with copies of the files that lie beside that."""
        saved = self.kind.read(path)
        return self.keep(saved.name, saved.title, path.resolve().parent, replacing)

    def take_out(self, saved: SavedTitle, path: Path, _from: Path | None = None) -> None:
        """Write a title to a file elsewhere, its own files beside it; they lie beside `_from` now."""
        base = (_from or self.folder).resolve()
        media = tuple(_copied(item, base, path.resolve().parent / MEDIA) for item in saved.title.media)
        self.kind.write(path, SavedTitle(saved.name, _with(saved.title, media)))

    def named(self, name: str) -> Shelved[SavedTitle]:
        """The title of that name, or in that file; RovixError, with those there are, where there is none."""
        if name.endswith(".json"):
            path = Path(name)
            return Shelved(path, self.kind.read(path), True)
        found = self.all()
        for item in found:
            if item.saved.name.lower() == name.lower():
                return item
        names = ", ".join(f"'{item.saved.name}'" for item in found) or "none yet"
        raise RovixError(f"There is no title '{name}'. There are {names}.")


def title_for(item: Shelved[SavedTitle], base: Path) -> Title:
    """The title with its media by paths from a project's folder."""
    title = item.saved.title
    made = with_base(title.project, item.path.parent.resolve(), base)
    return _with(title, made.media)


def _with(title: Title, media: tuple[Media, ...]) -> Title:
    return replace(title, media=media)


def _copied(item: Media, base: Path, folder: Path) -> Media:
    """A file as it is beside the titles, copied if it is not there yet: by its content, so never twice."""
    source = (base / item.path).resolve()
    stem = item.digest.rpartition(":")[2][:12] or "file"
    target = folder / f"{stem}{source.suffix.lower()}"
    try:
        folder.mkdir(parents=True, exist_ok=True)
        if not target.exists():
            with replacing(target) as part:
                shutil.copyfile(source, part)
    except OSError as wrong:
        raise RovixError(f"{source.name} could not be kept with the title: {wrong.strerror}.") from wrong
    return replace(item, path=f"{MEDIA}/{target.name}")
