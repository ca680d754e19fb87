"""Files that are files: what is opened by name is neither a pipe nor a device, and of a known size."""

from __future__ import annotations

import errno
import os
import stat
from pathlib import Path

_MOST = 120
"""Bytes of a title in a file's name, so that with what comes behind it stays below 255."""


def named_after(title: str) -> str:
    """What a file may be called after a title: no folder in it, and not too long."""
    return title.replace("/", "-").encode("utf-8", "replace")[:_MOST].decode("utf-8", "ignore").strip()


def check_regular(path: Path) -> int:
    """The size in bytes of a regular file. OSError, with the reason, for what is none or not there.

    Opening a pipe waits until someone writes to it, and reading a device may never end.
    """
    facts = path.stat()
    if stat.S_ISDIR(facts.st_mode):
        raise IsADirectoryError(errno.EISDIR, os.strerror(errno.EISDIR), str(path))
    if not stat.S_ISREG(facts.st_mode):
        raise OSError(errno.EINVAL, "it is a pipe or a device, not a file", str(path))
    return facts.st_size


def read_regular(path: Path, most: int) -> bytes:
    """The content of a regular file of at most so many bytes; OSError otherwise."""
    size = check_regular(path)
    if size > most:
        raise OSError(errno.EFBIG, f"it has {size >> 20} MB; at most {most >> 20} MB are read", str(path))
    with path.open("rb") as file:
        content = file.read(most + 1)
    if len(content) > most:
        raise OSError(errno.EFBIG, f"it has more than {most >> 20} MB", str(path))
    return content
