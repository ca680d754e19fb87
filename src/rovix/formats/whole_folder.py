"""Folders of numbered pictures that are written whole or not at all."""

from __future__ import annotations

import os
import re
import secrets
import shutil
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from rovix.errors import RovixError
from rovix.formats.whole_file import noted_part


@contextmanager
def replacing_folder(folder: Path, suffix: str) -> Iterator[Path]:
    """Give the name of a folder to make beside `folder`; at the end it takes the final name.

    An older one that holds numbered pictures of this suffix alone is replaced. When the block raises, it
    stays and nothing is left beside it. RovixError, before anything is written, where it holds other files.
    """
    _check(folder, suffix)
    old = folder.with_name(f".{folder.name}.{os.getpid()}-{secrets.token_hex(4)}.old")
    try:
        with noted_part(folder) as part:
            yield part
            if folder.exists():
                folder.rename(old)
            part.rename(folder)
    finally:
        if old.exists() and not folder.exists():
            old.rename(folder)
        shutil.rmtree(old, ignore_errors=True)


def _check(folder: Path, suffix: str) -> None:
    if folder.is_file():
        raise RovixError(f"{folder} is a file; the pictures need a folder of that name. Take another name.")
    others = [item.name for item in folder.iterdir()] if folder.is_dir() else []
    own = next((name for name in others if not re.fullmatch(rf"\d{{6}}{re.escape(suffix)}", name)), None)
    if own is not None:
        raise RovixError(
            f"{folder} holds other files, such as {own}; it was left as it is. Take another name."
        )
