"""Media paths when a project moves to another folder."""

from __future__ import annotations

import os
from collections.abc import Mapping
from pathlib import Path

from rovix.edit.tree import replace
from rovix.model import Project


def with_base(project: Project, old: Path, new: Path) -> Project:
    """The project with its media paths counted from `new` instead of `old`; the files stay."""
    if old.resolve() == new.resolve():
        return project
    media = tuple(
        replace(item, path=Path(os.path.relpath((old / item.path).resolve(), new.resolve())).as_posix())
        for item in project.media
    )
    return replace(project, media=media)


def with_paths(project: Project, paths: Mapping[str, str]) -> Project:
    """The project with some of its media, by their ids, at other paths."""
    if not paths:
        return project
    media = (replace(m, path=paths[m.id]) if m.id in paths else m for m in project.media)
    return replace(project, media=tuple(media))
