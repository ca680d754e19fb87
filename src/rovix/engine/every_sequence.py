"""The jobs that deliver every sequence of a project, a file each."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path

from rovix.edit.levels import Level, focused
from rovix.engine.export_job import ExportJob
from rovix.model import Project
from rovix.model.delivery import Delivery
from rovix.time import Span


def jobs_of_all(project: Project, base: Path, out: Path, how: Delivery) -> Iterator[ExportJob]:
    """A job for each sequence that is not empty, in their order, its file named after the sequence, too:
    kites.mp4 becomes kites-short-cut.mp4. Of several with one name, the later have a number."""
    taken: set[str] = set()
    for sequence in project.sequences:
        if sequence.length:
            name = _free(_plain(sequence.name), taken)
            own = focused(project, Level(sequence.id))
            yield ExportJob(
                own, base, out.with_name(f"{out.stem}-{name}{out.suffix}"), Span(0, sequence.length), how
            )


def _plain(name: str) -> str:
    """A sequence's name as a part of a file's."""
    return re.sub(r"[^\w]+", "-", name.lower()).strip("-") or "sequence"


def _free(name: str, taken: set[str]) -> str:
    free, number = name, 2
    while free in taken:
        free, number = f"{name}-{number}", number + 1
    taken.add(free)
    return free
