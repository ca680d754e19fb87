"""The last ten saved versions of a project, in one hidden zip file beside it.

Each is a gzipped project file and, where there was one, a PNG of the picture then; the names are the
times of saving in UTC. Any zip program can take them out.
"""

from __future__ import annotations

import gzip
import io
import zipfile
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

from rovix.errors import RovixError
from rovix.formats.project_file import parse_project
from rovix.formats.whole_file import replacing
from rovix.model import Project

MOST = 10
LIMIT = 64 << 20
"""Bytes that the zip may have; the oldest go first."""
LARGEST = 256 << 20
"""Bytes that a version may have unpacked: what claims more is not read."""
_TIME = "%Y-%m-%d %H.%M.%S"
_PROJECT, _PICTURE = ".rovix.gz", ".png"


@dataclass(frozen=True, slots=True)
class Version:
    """A saved version: when, and its bytes as they are in the zip; `picture` is a PNG, or nothing."""

    when: datetime
    packed: bytes
    picture: bytes = b""

    @property
    def size(self) -> int:
        """Bytes in the zip."""
        return len(self.packed) + len(self.picture)

    def read(self, path: Path) -> Project:
        """The project; `path` names it in errors, RovixError where it cannot be read."""
        try:
            with gzip.open(io.BytesIO(self.packed)) as stream:
                content = stream.read(LARGEST + 1)
        except (OSError, EOFError) as wrong:
            raise RovixError(f"The version of {self.when:%d %b %Y, %H:%M} is damaged: {wrong}.") from None
        if len(content) > LARGEST:
            raise RovixError(f"The version of {self.when:%d %b %Y, %H:%M} is too large to be read.")
        return parse_project(path, content)


def versions_file(path: Path) -> Path:
    """Where the versions of a project file are kept."""
    return path.with_name(f".{path.stem}.versions.zip")


def versions_of(path: Path) -> list[Version]:
    """The kept versions of a project file, the newest first. RovixError where they cannot be read."""
    kept = versions_file(path)
    if not kept.is_file():
        return []
    try:
        with zipfile.ZipFile(kept) as file:
            return sorted(_versions_in(file), key=lambda version: version.when, reverse=True)
    except (OSError, zipfile.BadZipFile, EOFError, ValueError) as wrong:
        raise RovixError(
            f"{kept.name} cannot be read: {wrong}. Move it away to keep versions anew."
        ) from None


def _versions_in(file: zipfile.ZipFile) -> list[Version]:
    """The versions in a zip; entries of other names, packed otherwise or too large are passed over."""
    known = {info.filename: info for info in file.infolist() if _is_plain(info)}
    found = []
    for name in known:
        when = _time_of(name.removesuffix(_PROJECT)) if name.endswith(_PROJECT) else None
        if when is not None:
            picture = name.removesuffix(_PROJECT) + _PICTURE
            found.append(Version(when, file.read(name), file.read(picture) if picture in known else b""))
    return found


def _is_plain(info: zipfile.ZipInfo) -> bool:
    return info.compress_type == zipfile.ZIP_STORED and info.file_size <= LIMIT and not info.flag_bits & 1


def _time_of(name: str) -> datetime | None:
    try:
        return datetime.strptime(name, _TIME).replace(tzinfo=UTC)
    except ValueError:
        return None


def keep_version(path: Path, content: bytes, picture: bytes = b"", now: datetime | None = None) -> bool:
    """Keep what was saved to a project file, unless it is what the newest version is.

    False where it is larger than all versions may be together. RovixError where it cannot be written.
    """
    fresh = Version(
        (now or datetime.now(UTC)).replace(microsecond=0), gzip.compress(content, 1, mtime=0), picture
    )
    earlier = [version for version in versions_of(path) if version.when != fresh.when]
    if earlier and earlier[0].packed == fresh.packed:
        return True
    kept = _fitting([fresh, *earlier][:MOST])
    if not kept:
        return False
    try:
        with replacing(versions_file(path)) as part, zipfile.ZipFile(part, "w") as file:
            for version in kept:
                _put(file, version)
    except OSError as wrong:
        raise RovixError(
            f"Earlier versions are not kept beside {path.name}: {wrong.strerror or wrong}."
        ) from None
    return True


def _fitting(versions: list[Version]) -> list[Version]:
    """As many as fit into the limit, the newest first; none where the newest alone does not."""
    kept: list[Version] = []
    for version in versions:
        if sum(one.size for one in kept) + version.size > LIMIT:
            break
        kept.append(version)
    return kept


def _put(file: zipfile.ZipFile, version: Version) -> None:
    name = version.when.strftime(_TIME)
    for suffix, data in ((_PROJECT, version.packed), (_PICTURE, version.picture)):
        if data:
            info = zipfile.ZipInfo(name + suffix, version.when.timetuple()[:6])
            file.writestr(info, data, zipfile.ZIP_STORED)
