"""Finding files that went elsewhere: by their digest first, then by their name."""

from __future__ import annotations

import os
from collections.abc import Callable, Iterator
from pathlib import Path

from rovix.errors import RovixError
from rovix.media.probe import digest_of, probe
from rovix.model import Media

_MOST_FILES = 50_000


def find_media(
    missing: list[Media], folder: Path, base: Path, stopped: Callable[[], bool] = lambda: False
) -> dict[str, Media]:
    """The facts of the files, by media id, that were found in a folder or in folders inside it.

    A file of the same size whose digest is the one known is it, whatever it is called. Where there
    is none, a file of the same name that holds the same kind of media takes its place. Paths are
    relative to `base`. Ends early, with what it has, when `stopped` says so.
    """
    files = list(_files(folder))
    found: dict[str, Media] = {}
    for item in missing:
        if stopped():
            return found
        path = _by_digest(item, files) or _by_name(item, files)
        media = _facts(path, base) if path is not None else None
        if media is not None and media.kind == item.kind:
            found[item.id] = media
    return found


def _files(folder: Path) -> Iterator[Path]:
    count = 0
    for where, _, names in os.walk(folder):
        for name in sorted(names):
            count += 1
            if count > _MOST_FILES:
                return
            yield Path(where) / name


def _by_digest(item: Media, files: list[Path]) -> Path | None:
    if not item.digest:
        return None
    for path in files:
        try:
            if path.stat().st_size == item.bytes and digest_of(path) == item.digest:
                return path
        except OSError:
            continue  # a file that cannot be read is not it
    return None


def _by_name(item: Media, files: list[Path]) -> Path | None:
    name = item.path.rsplit("/", 1)[-1].casefold()
    return next((path for path in files if path.name.casefold() == name), None)


def _facts(path: Path, base: Path) -> Media | None:
    try:
        return probe(path, base)
    except (RovixError, OSError):
        return None
