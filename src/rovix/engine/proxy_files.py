"""The proxies of a project's footage: what they are called, where they lie, which of them are there."""

from __future__ import annotations

import hashlib
from collections.abc import Iterable
from contextlib import suppress
from dataclasses import dataclass
from pathlib import Path

from platformdirs import user_data_path

from rovix.errors import RovixError
from rovix.files import named_after
from rovix.model import Media
from rovix.model.media import shown_name

Found = tuple[int, Path]
"""The share of a proxy, and its file."""
BESIDE = "proxies"
"""The folder beside a project that its proxies are in."""
SHARES = {2: "half", 4: "quarter"}
"""By what footage's sides are divided, and what that is called."""
_SUFFIX = ".mov"
_FORM = b"1"
"""Changes with what is written, so that older proxies are not taken for new ones."""


@dataclass(frozen=True, slots=True)
class Wanted:
    """A proxy of a `share`-th that is to be made of a file, for the media of that id."""

    media: Media
    source: Path
    share: int
    folder: Path


@dataclass(frozen=True, slots=True)
class Made:
    """What came of it: how many proxies of how many bytes there are now, and why others are not."""

    count: int
    bytes: int
    refused: tuple[str, ...] = ()


def proxy_folder(project: Path | None) -> Path:
    """Where the proxies of a project file are; of one that has no file yet, in the user's own data."""
    return user_data_path("rovix") / BESIDE if project is None else project.parent / BESIDE


def proxy_name(media: Media, share: int) -> str:
    """The name of a proxy's file: the same for the same footage, shown in the same way."""
    told = f"{media.digest}|{media.bytes}|{media.interlaced and media.deinterlaced}".encode()
    stem = named_after(shown_name(Path(media.path).stem))
    return f"{stem} {hashlib.blake2b(told + _FORM, digest_size=6).hexdigest()} {SHARES[share]}{_SUFFIX}"


def can_have(media: Media) -> bool:
    """Whether proxies of it are of use: of footage, and no matte, whose edges are to be exact."""
    return media.kind == "footage" and media.cut_out is None and bool(media.width and media.height)


def proxies_there(media: Iterable[Media], base: Path, project: Path | None) -> dict[str, Found]:
    """The share and file of each proxy that there is, by the ids of the media.

    They lie beside the project, or in the user's data since before it had a file. Of footage whose file
    has changed none is taken.
    """
    folders, found = dict.fromkeys((proxy_folder(project), proxy_folder(None))), {}
    for one in media:
        if not can_have(one) or _has_changed(one, base):
            continue
        for share in SHARES:
            path = next((p for folder in folders if (p := folder / proxy_name(one, share)).is_file()), None)
            if path is not None:
                found[one.id] = share, path
                break
    return found


def _has_changed(media: Media, base: Path) -> bool:
    """Whether the file is there and is another one than it was."""
    try:
        return bool(media.bytes) and (base / media.path).stat().st_size != media.bytes
    except OSError:
        return False


def remove_proxies(media: Iterable[Media], folders: Iterable[Path], but: int | None = None) -> int:
    """Delete the proxies of footage in folders, those of a share left; gives how many bytes that frees.
    RovixError where one cannot be deleted."""
    freed, shares = 0, [share for share in SHARES if share != but]
    for folder in dict.fromkeys(folders):
        for one in filter(can_have, media):
            freed += sum(_removed(folder / proxy_name(one, share)) for share in shares)
    return freed


def _removed(path: Path) -> int:
    try:
        size = path.stat().st_size
        path.unlink()
    except FileNotFoundError:
        return 0
    except OSError as wrong:
        raise RovixError(f"The proxy {path} could not be deleted: {wrong.strerror}.") from wrong
    with suppress(OSError):
        path.parent.rmdir()  # where it was the last one
    return size
