"""An export cut into ranges: each is drawn and encoded by itself, and takes nothing from another."""

from __future__ import annotations

import hashlib
import secrets
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise
from pathlib import Path
from typing import Any

import av
from numpy import uint8
from numpy.typing import NDArray

from rovix import __version__
from rovix.engine.crew import Crew
from rovix.engine.export_job import ExportJob
from rovix.errors import RovixError
from rovix.formats.json_text import compact
from rovix.formats.project_file import project_bytes
from rovix.formats.whole_file import remove
from rovix.media.encoders import encoder_for
from rovix.media.library import MediaLibrary
from rovix.motion import picture_plan
from rovix.paint.cache import LayerCache
from rovix.paint.painter import Painter
from rovix.text.catalogue import use_project_fonts
from rovix.time import Span

RANGE = 5
"""About so many seconds has a range; never under two thirds of it, nor over one and a half."""
Told = Callable[[int], None]
_LAYER_CACHE = 64 << 20
_RUN = 24  # frames that are evaluated together
_SPARE_SLOTS = 3


@dataclass(frozen=True, slots=True)
class Range:
    """Frames `span` of an export, and the file or folder in which they lie encoded."""

    span: Span
    path: Path

    @property
    def is_there(self) -> bool:
        """Whether it is written; it is whole then."""
        return self.path.exists()


def ranges_of(job: ExportJob, folder: Path) -> list[Range]:
    """The ranges of a job, in order, as they lie in a folder: equal parts at frames that depend on the job
    alone. One, where its kind of file cannot be joined; none, where it has no pictures."""
    kind = encoder_for(job.out, job.how.codec)
    if not kind.pictures:
        return []
    length, seconds = job.span.length, job.project.sequence.frame_rate.seconds(job.span.length)
    count = max(1, round(Fraction(seconds) / RANGE)) if kind.join else 1
    cuts = [job.span.start + length * number // count for number in range(count + 1)]
    suffix = "" if kind.folder else kind.suffix
    return [
        Range(Span(start, end), folder / f"{start:07d}-{end:07d}{suffix}") for start, end in pairwise(cuts)
    ]


def job_key(job: ExportJob) -> str:
    """What tells a job from all that would draw or encode anything else: its ranges may be used again."""
    media = [_file_key(job.base / media.path) for media in job.project.media]
    asked = [
        job.span.start, job.span.end, *job.picture_size, encoder_for(job.out, job.how.codec).codec,
        job.how.quality, __version__, av.__version__, media,
    ]  # fmt: skip
    return hashlib.blake2b(project_bytes(job.project) + compact(asked), digest_size=16).hexdigest()


def _file_key(path: Path) -> list[Any]:
    try:
        found = path.stat()
    except OSError:
        return [str(path)]
    return [str(path), found.st_size, found.st_mtime_ns]


class Drawing:
    """Draws a job's pictures in this process; use it as a context."""

    def __init__(self, job: ExportJob) -> None:
        use_project_fonts(job.base)
        self._job, self._library = job, MediaLibrary(job.project, job.base)
        self._painter = Painter(self._library, LayerCache(_LAYER_CACHE))

    @property
    def pids(self) -> list[int]:
        """The numbers of the processes that draw for this one."""
        return []

    def __enter__(self) -> Drawing:
        return self

    def __exit__(self, *_: object) -> None:
        self._library.close()

    def pictures(self, span: Span) -> Iterator[NDArray[uint8]]:
        """The pictures of a span, in order. RovixError, with the frame, for one that cannot be drawn."""
        for frame in range(span.start, span.end):
            try:
                plan = picture_plan(self._job.project, frame, run=min(_RUN, span.end - frame))
                yield self._painter.paint(plan, self._job.picture_size)
            except RovixError as wrong:
                raise RovixError(f"Frame {frame} could not be drawn. {wrong}") from wrong


class CrewDrawing:
    """Draws them in so many processes of their own; use it as a context."""

    def __init__(self, job: ExportJob, drawers: int) -> None:
        self._crew = Crew(job.project, job.base, job.picture_size, drawers, drawers + _SPARE_SLOTS)

    @property
    def pids(self) -> list[int]:
        """The numbers of the processes that draw for this one."""
        return self._crew.pids

    def __enter__(self) -> CrewDrawing:
        self._crew.__enter__()
        return self

    def __exit__(self, *error: Any) -> None:
        self._crew.__exit__(*error)

    def pictures(self, span: Span) -> Iterator[NDArray[uint8]]:
        """As those of :class:`Drawing`; each is good until the next is asked for."""
        asked, due, waiting, crew = span.start, span.start, {}, self._crew
        while due < span.end:
            # A process may run ahead only as far as slots stay free for the frame that is due.
            while asked < span.end and crew.has_room:
                crew.draw(asked)
                asked += 1
            for drawn in crew.collect():
                waiting[drawn.frame] = drawn.slot
            while due in waiting:
                slot = waiting.pop(due)
                yield crew.ring.slot(slot)
                crew.release(slot)
                due += 1


def write_range(
    job: ExportJob, wanted: Range, drawing: Drawing | CrewDrawing, told: Told | None = None
) -> None:
    """Draw and encode a range, whole or not at all; `told` hears how many pictures are done, and may raise.

    Errors as those of :func:`rovix.engine.export.export`.
    """
    kind = encoder_for(job.out, job.how.codec)
    with _begun(wanted.path) as part:
        rate = job.project.sequence.frame_rate
        writer = kind.quality(job.how.quality).begin(part, job.picture_size, rate, False)
        try:
            for done, pixels in enumerate(drawing.pictures(wanted.span), 1):
                writer.add_picture(pixels)
                if told is not None:
                    told(done)
            writer.close()
        except BaseException:
            writer.abandon()
            raise


@contextmanager
def _begun(path: Path) -> Iterator[Path]:
    """Another name, like no other, that takes the final one at the end."""
    part = path.with_name(f"begun-{secrets.token_hex(4)}-{path.name}")
    try:
        yield part
        part.rename(path)
    finally:
        remove(part)
