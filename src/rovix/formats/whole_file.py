"""Files that are written whole or not at all."""

from __future__ import annotations

import os
import re
import secrets
import shutil
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

from platformdirs import user_state_path

_LEFT_OVER = re.compile(r"\.(?P<name>.+)\.(?P<process>\d+)-[0-9a-f]{8}\.part")


@contextmanager
def replacing(path: Path) -> Iterator[Path]:
    """Give a path beside `path` to write to; at the end it takes the final name, all at once.

    When the block raises, the final name keeps what it had and nothing is left beside it. A killed
    process can leave a hidden `.part` file; the next writer of the same name clears it away, or
    `clear_begun` when the application starts again.
    """
    path = Path(os.path.realpath(path))
    _clear_left_over(path)
    with noted_part(path) as part:
        yield part
        _keep_mode(path, part)
        with part.open("rb+") as written:
            os.fsync(written.fileno())
        part.replace(path)
        _sync_folder(path.parent)


@contextmanager
def noted_part(path: Path) -> Iterator[Path]:
    """Give a path beside `path` for a file or folder that is gone at the end, and after a crash with the next
    start of the application."""
    part = path.with_name(f".{path.name}.{os.getpid()}-{secrets.token_hex(4)}.part")
    note = _begun_folder() / part.name
    with suppress(OSError):  # not worth failing for: it only helps to tidy up after a crash
        note.parent.mkdir(parents=True, exist_ok=True)
        note.symlink_to(part)
    try:
        yield part
    finally:
        remove(part)
        with suppress(OSError):
            note.unlink()


def remove(path: Path) -> None:
    """Remove a file or folder, if it is there."""
    if path.is_dir() and not path.is_symlink():
        shutil.rmtree(path, ignore_errors=True)
    else:
        path.unlink(missing_ok=True)


def write_whole(path: Path, data: bytes) -> None:
    """Replace a file's content; after a crash at any moment the old or the new is there, complete."""
    with replacing(path) as part:
        part.write_bytes(data)


def _keep_mode(path: Path, part: Path) -> None:
    with suppress(FileNotFoundError):
        part.chmod(path.stat().st_mode & 0o7777)


def _sync_folder(folder: Path) -> None:
    handle = os.open(folder, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)


def _clear_left_over(path: Path) -> None:
    _clear(path.parent, f".{_escaped(path.name)}.*.part", path.name)


def clear_left_overs(folder: Path) -> None:
    """Clear away what killed processes have half written in a folder, of whatever name."""
    _clear(folder, ".*.part", None)


def clear_begun() -> None:
    """Clear away what killed processes have half written in any folder. Folders out of reach wait."""
    for note in _begun_folder().glob(".*.part"):
        match = _LEFT_OVER.fullmatch(note.name)
        if match and not _is_running(int(match["process"])):
            part = note.readlink()
            if part.parent.is_dir():
                with suppress(OSError):
                    remove(part)
                    note.unlink()


def _begun_folder() -> Path:
    """Where links to the files that are being written lie, each under the name of what it leads to."""
    return user_state_path("rovix") / "begun"


def _clear(folder: Path, pattern: str, name: str | None) -> None:
    if not folder.is_dir():
        return
    for other in folder.glob(pattern):
        match = _LEFT_OVER.fullmatch(other.name)
        if match and name in (None, match["name"]) and not _is_running(int(match["process"])):
            remove(other)


def _escaped(name: str) -> str:
    return re.sub(r"([\[\]*?])", r"[\1]", name)


def _is_running(process: int) -> bool:
    try:
        os.kill(process, 0)
    except ProcessLookupError:
        return False
    except PermissionError:
        return True
    return True
