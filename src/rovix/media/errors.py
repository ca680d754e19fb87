"""What goes wrong with files of picture and sound."""

from __future__ import annotations

from pathlib import Path

from rovix.errors import RovixError
from rovix.model.media import shown_name


class MediaError(RovixError):
    """A file that cannot be read or written."""

    def __init__(self, path: Path, reason: str) -> None:
        self.path, self.reason = path, reason
        super().__init__(f"{shown_name(path.name)} could not be read: {reason}.")
