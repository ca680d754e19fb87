"""Where the mattes of projects are kept, and how they are taken along."""

from __future__ import annotations

import hashlib
import shutil
from pathlib import Path

import msgspec
from platformdirs import user_data_path

from rovix.errors import RovixError
from rovix.files import named_after
from rovix.formats import replacing
from rovix.model import Media, Project
from rovix.model.cut_out import CutOut

BESIDE = "mattes"
"""The folder beside a project that its mattes are in."""
MATTE_SUFFIX = ".mkv"


def matte_folder(project: Path | None) -> Path:
    """Where the mattes of a project file are; of one that has no file yet, in the user's own data."""
    return user_data_path("rovix") / BESIDE if project is None else project.parent / BESIDE


def matte_name(source: Media, cut_out: CutOut) -> str:
    """The name of a matte's file: the same for the same footage and the same strokes."""
    told = msgspec.json.encode([cut_out.digest, msgspec.to_builtins(cut_out)])
    return f"{named_after(source.title)} {hashlib.blake2b(told, digest_size=6).hexdigest()}{MATTE_SUFFIX}"


def carried_mattes(project: Project, base: Path, new: Path) -> dict[str, str]:
    """Copy the mattes that wait in the user's own data beside a project that gets a folder; their new
    paths by the ids of their media. `base` is where the project's paths count from. RovixError where they
    cannot be."""
    waiting, moved = matte_folder(None).resolve(), {}
    for media in project.media:
        path = (base / media.path).resolve()
        if media.cut_out is None or path.parent != waiting or not path.exists():
            continue
        target = new / BESIDE / path.name
        try:
            target.parent.mkdir(parents=True, exist_ok=True)
            if not target.exists():
                with replacing(target) as part:
                    shutil.copyfile(path, part)
        except OSError as wrong:
            raise RovixError(
                f"The matte {path.name} could not be copied to {target.parent}: {wrong.strerror}."
            ) from wrong
        moved[media.id] = f"{BESIDE}/{path.name}"
    return moved
