"""Unsaved work that outlives its process: kept in one folder until someone answers for it.

Each piece of work is a project file, which can be opened by hand, and a small file of facts beside it:
whose work it is, which process does it, since when.
"""

from __future__ import annotations

import os
import secrets
import time
from contextlib import suppress
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from rovix.edit.media_paths import with_base
from rovix.errors import RovixError
from rovix.formats import read_project
from rovix.formats.json_text import parsed, written
from rovix.formats.project_file import SUFFIX, keep_work
from rovix.formats.whole_file import clear_begun, clear_left_overs, write_whole
from rovix.model import Project

_FACTS = ".facts"


@dataclass(frozen=True, slots=True)
class LeftWork:
    """Work that a process left behind: `name` is the project's, `project` its file, None for none yet.

    `kept` is where it lies; `at` when it was written last and `seconds` how long it had gone on, both
    in seconds, `at` since 1970.
    """

    kept: Path
    name: str
    project: Path | None
    at: float
    seconds: float

    def read(self, base: Path) -> Project:
        """The project, its media counted from a folder. RovixError, with the reason, if it is damaged."""
        return with_base(read_project(self.kept), self.kept.parent, base)

    def discard(self) -> None:
        """It was taken over, or is not wanted."""
        self.kept.unlink(missing_ok=True)
        self.kept.with_suffix(_FACTS).unlink(missing_ok=True)


class WorkKeeper:
    """Keeps the work on one project in a folder, writing over what it kept before."""

    def __init__(self, folder: Path, name: str, project: Path | None) -> None:
        self._kept = folder / f"{secrets.token_hex(8)}{SUFFIX}"
        self._facts = {
            "name": name,
            "project": None if project is None else str(project.resolve()),
            "process": os.getpid(),
            "process_started": _started(os.getpid()),
            "since": time.time(),
        }

    def write(self, project: Project, base: Path) -> None:
        """Keep a project whose media are counted from `base`. RovixError when it cannot be written."""
        self._kept.parent.mkdir(parents=True, exist_ok=True)
        facts = self._kept.with_suffix(_FACTS)
        try:
            if not facts.exists():
                write_whole(facts, written(self._facts))
        except OSError as wrong:
            raise RovixError(f"{facts.parent} could not be written to: {wrong.strerror}.") from wrong
        keep_work(self._kept, with_base(project, base, self._kept.parent))

    def clear(self) -> None:
        """The work is saved or given up."""
        self._kept.unlink(missing_ok=True)
        self._kept.with_suffix(_FACTS).unlink(missing_ok=True)


def left_work(folder: Path) -> list[LeftWork]:
    """What processes that are gone have left, the newest first."""
    found = [_left(kept) for kept in folder.glob(f"*{SUFFIX}")] if folder.is_dir() else []
    return sorted((work for work in found if work is not None), key=lambda work: -work.at)


def older_work(kept: Path, name: str, project: Path | None) -> list[LeftWork]:
    """Work as earlier versions kept it, in one file beside the project."""
    return [LeftWork(kept, name, project, kept.stat().st_mtime, 0.0)] if kept.is_file() else []


def tidy(folder: Path) -> None:
    """Clear away half-written files of dead processes, wherever they lie, and facts about nothing."""
    clear_begun()
    clear_left_overs(folder)
    for facts in folder.glob(f"*{_FACTS}"):
        if not facts.with_suffix(SUFFIX).exists() and not _is_at_work(_read_facts(facts)):
            facts.unlink(missing_ok=True)


def _left(kept: Path) -> LeftWork | None:
    facts = _read_facts(kept.with_suffix(_FACTS))
    if _is_at_work(facts):
        return None
    try:
        at = kept.stat().st_mtime
    except OSError:
        return None
    project, since = facts.get("project"), facts.get("since")
    return LeftWork(
        kept,
        str(facts.get("name") or "an unnamed project"),
        Path(project) if isinstance(project, str) and project else None,
        at,
        max(0.0, at - since) if isinstance(since, int | float) else 0.0,
    )


def _read_facts(path: Path) -> dict[str, Any]:
    """The facts in a file; none where it is damaged, so that the work itself is offered all the same."""
    with suppress(OSError, ValueError):
        data = parsed(path.read_bytes())
        return data if isinstance(data, dict) else {}
    return {}


def _is_at_work(facts: dict[str, Any]) -> bool:
    process = facts.get("process")
    if not isinstance(process, int):
        return False
    started = _started(process)
    return started is not None and started == facts.get("process_started")


def _started(process: int) -> int | None:
    """When a process started, in ticks since the machine did; None for one that is gone.

    A number is given anew to later processes; this tells them apart (proc(5), field 22 of stat).
    """
    try:
        text = Path(f"/proc/{process}/stat").read_text()
    except OSError:
        return None
    state, *fields = text.rpartition(")")[2].split()
    return None if state in "ZX" else int(fields[18])
