"""Exports that wait in a folder, whoever added them, until they are done: they outlive every process.

Windows and the process that does them know of each other through the folder alone: a list, locked while it is
changed, a project file for each export, and a small file that says how far the one at work is.
"""

from __future__ import annotations

import fcntl
import os
import secrets
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from pathlib import Path
from typing import Any, Literal

import msgspec
from msgspec.structs import replace

from rovix.engine.export_job import ExportJob
from rovix.errors import RovixError
from rovix.formats import read_project, write_project
from rovix.formats.project_file import SUFFIX
from rovix.formats.whole_file import remove, write_whole
from rovix.model.delivery import Delivery
from rovix.time import Span

State = Literal["waiting", "paused", "done", "failed"]
_LIST, _LOCK, _AT_WORK, _PROGRESS = "exports.json", "exports.lock", "at-work.lock", "progress.json"


class Waiting(msgspec.Struct, frozen=True, kw_only=True):
    """An export in the queue: a job but for its project, which lies beside the list, and what became of it.

    Frames `first` to before `end` are written to `out`, with media from `base`. `said` is the sentence of one
    that failed, or of what was done to the sound; `weight` in bytes and `seconds` are of one that is done.
    """

    id: str
    name: str
    out: str
    base: str
    first: int
    end: int
    how: Delivery
    state: State = "waiting"
    said: str = ""
    weight: int = 0
    seconds: float = 0.0

    @property
    def is_left(self) -> bool:
        """Whether it is still to be done, now or some time."""
        return self.state in ("waiting", "paused")

    @property
    def path(self) -> Path:
        """Where it is written."""
        return Path(self.out)

    @property
    def ranges(self) -> Path:
        """Where its ranges lie until it is done: on the disk that the file goes to."""
        return self.path.with_name(f".{self.path.name}.{self.id}.ranges")


@dataclass(frozen=True, slots=True)
class AtWork:
    """How far the export is that is at work: pictures `done` of `total`, seconds `left`, None if unknown."""

    id: str
    done: int
    total: int
    left: float | None


class ExportQueue:
    """The exports in a folder, in the order in which they are done."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder

    def items(self) -> list[Waiting]:
        """All of them. RovixError for a list that is damaged; it is put aside, as what the error says."""
        path = self.folder / _LIST
        try:
            return msgspec.json.decode(path.read_bytes(), type=list[Waiting])
        except FileNotFoundError:
            return []
        except (msgspec.MsgspecError, UnicodeDecodeError) as wrong:
            aside = path.with_suffix(".damaged")
            path.replace(aside)
            raise RovixError(
                f"The list of exports could not be read: {wrong}. It was put aside as {aside}; the projects "
                f"of its exports lie beside it. Add them anew."
            ) from wrong

    @property
    def changed(self) -> int:
        """A number that is another one after each change."""
        try:
            return (self.folder / _LIST).stat().st_mtime_ns
        except OSError:
            return 0

    def add(self, job: ExportJob, name: str) -> Waiting:
        """Have a job done after all others. RovixError for a file that another one of them is to write."""
        made = Waiting(
            id=secrets.token_hex(6), name=name, out=str(job.out.absolute()), base=str(job.base.absolute()),
            first=job.span.start, end=job.span.end, how=job.how,
        )  # fmt: skip
        with self._changing() as items:
            if any(item.out == made.out and item.is_left for item in items):
                raise RovixError(
                    f"{job.out.name} waits to be exported already. Take another name, or remove it."
                )
            write_project(self._project(made.id), job.project)
            items.append(made)
        return made

    def job(self, item: Waiting) -> ExportJob:
        """The job of an item. RovixError when its project cannot be read."""
        project = read_project(self._project(item.id))
        return ExportJob(project, Path(item.base), item.path, Span(item.first, item.end), item.how)

    def change(self, identity: str, **fields: Any) -> None:
        """Set fields of one; nothing, when it is gone."""
        with self._changing() as items:
            items[:] = [replace(item, **fields) if item.id == identity else item for item in items]

    def change_all(self, before: State, state: State) -> None:
        """Give all that are in one state another one."""
        with self._changing() as items:
            items[:] = [replace(item, state=state) if item.state == before else item for item in items]

    def move(self, identity: str, by: int) -> None:
        """Have one done so many places later, or earlier, as far as there are any still to be done."""
        with self._changing() as items:
            places = [n for n, item in enumerate(items) if item.is_left]
            left = [items[n] for n in places]
            at = next((n for n, item in enumerate(left) if item.id == identity), None)
            if at is not None:
                left.insert(max(0, at + by), left.pop(at))
            for place, item in zip(places, left, strict=True):
                items[place] = item

    def remove(self, identity: str) -> None:
        """Forget one; a file that it has written stays, what is half done goes."""
        with self._changing() as items:
            gone = [item for item in items if item.id == identity]
            items[:] = [item for item in items if item.id != identity]
        for item in gone:
            self._project(item.id).unlink(missing_ok=True)
            with suppress(OSError):
                remove(item.ranges)

    def next(self) -> Waiting | None:
        """The one to be done next."""
        return next((item for item in self.items() if item.state == "waiting"), None)

    def tell(self, at_work: AtWork | None) -> None:
        """Say how far the one at work is; None when there is none."""
        path = self.folder / _PROGRESS
        if at_work is None:
            path.unlink(missing_ok=True)
            return
        part = path.with_suffix(".part")
        part.write_bytes(msgspec.json.encode(at_work))
        part.replace(path)

    def at_work(self) -> AtWork | None:
        """How far the one at work is; None where no process is."""
        if not self.is_worked_on:
            return None
        with suppress(OSError, msgspec.MsgspecError):
            return msgspec.json.decode((self.folder / _PROGRESS).read_bytes(), type=AtWork)
        return None

    @property
    def is_worked_on(self) -> bool:
        """Whether a process does what waits."""
        if not self.folder.is_dir():
            return False
        with self._held(_AT_WORK, wait=False) as held:
            return not held

    @contextmanager
    def working(self) -> Iterator[bool]:
        """Be the one process that does what waits; False while another one is. The system ends it with the
        process, however that ends."""
        with self._held(_AT_WORK, wait=False) as held:
            yield held

    @contextmanager
    def _changing(self) -> Iterator[list[Waiting]]:
        self.folder.mkdir(parents=True, exist_ok=True)
        with self._held(_LOCK, wait=True):
            items = self.items()
            yield items
            write_whole(self.folder / _LIST, msgspec.json.format(msgspec.json.encode(items), indent=1))

    @contextmanager
    def _held(self, name: str, wait: bool) -> Iterator[bool]:
        handle = os.open(self.folder / name, os.O_RDWR | os.O_CREAT | os.O_CLOEXEC, 0o600)
        try:
            fcntl.flock(handle, fcntl.LOCK_EX | (0 if wait else fcntl.LOCK_NB))
            yield True
        except BlockingIOError:
            yield False
        finally:
            os.close(handle)

    def _project(self, identity: str) -> Path:
        return self.folder / f"{identity}{SUFFIX}"
