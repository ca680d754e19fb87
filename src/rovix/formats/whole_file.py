"""Files that are written whole or not at all."""

from __future__ import annotations

import os
import re
import secrets
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

_LEFT_OVER = re.compile(r"\.(?P<name>.+)\.(?P<process>\d+)-[0-9a-f]{8}\.part")


@contextmanager
def replacing(path: Path) -> Iterator[Path]:
    """Give a path beside `path` to write to; at the end it takes the final name, all at once.

    When the block raises, the final name keeps what it had and nothing is left beside it. A killed
    process can leave a hidden `.part` file; the next writer of the same name clears it away.
    """
    path = Path(os.path.realpath(path))
    _clear_left_over(path)
    part = path.with_name(f".{path.name}.{os.getpid()}-{secrets.token_hex(4)}.part")
    try:
        yield part
        _keep_mode(path, part)
        with part.open("rb+") as written:
            os.fsync(written.fileno())
        part.replace(path)
        _sync_folder(path.parent)
    finally:
        with suppress(FileNotFoundError):
            part.unlink()


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


def _clear(folder: Path, pattern: str, name: str | None) -> None:
    if not folder.is_dir():
        return
    for other in folder.glob(pattern):
        match = _LEFT_OVER.fullmatch(other.name)
        if match and name in (None, match["name"]) and not _is_running(int(match["process"])):
            with suppress(FileNotFoundError):
                other.unlink()


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
