"""Work that is there to be killed."""

from __future__ import annotations

from multiprocessing.connection import Connection
from pathlib import Path

from builders import project_of, title
from rovix.engine.export import export
from rovix.engine.export_job import ExportJob
from rovix.formats import write_project
from rovix.model import Project
from rovix.time import Span


def numbered(number: int) -> Project:
    """A project that says its number, large enough to take a moment."""
    clips = [title(f"Save {number}", id="first")] + [title("Kite", id=f"c{n}") for n in range(40)]
    return project_of(*clips)


def save_on_and_on(connection: Connection, path: Path) -> None:
    for number in range(1_000_000):
        write_project(path, numbered(number))
        connection.send(number)


def exporting_away(connection: Connection, out: Path) -> None:
    project = project_of(title("Larkmoor", length=60), size=(320, 180))
    export(ExportJob(project, out.parent, out, Span(0, 60)), 1, lambda done, total: connection.send(done))
