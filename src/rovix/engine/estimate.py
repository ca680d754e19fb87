"""How large an export will be, from a few stretches of it written for trial."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from pathlib import Path
from tempfile import TemporaryDirectory

import av

from rovix.engine.export import Progress, export, weight_of, written_by
from rovix.engine.export_job import ExportJob
from rovix.media.encoders import encoder_for
from rovix.time import Span

STRETCHES, STRETCH = 4, 30
"""So many stretches, of so many pictures each, are written; the first and the last stand for themselves, as
titles come and go there, those between them for all that lies between."""
_BETWEEN_KEYS = 250
"""Pictures between two that stand for themselves, where an encoder says nothing else (x264, x265)."""


@dataclass(frozen=True, slots=True)
class _Measured:
    """Bytes of pictures that stand for themselves, of those that build on others, of all the rest."""

    own: int
    own_bytes: float
    others: int
    other_bytes: float
    rest: float


def estimate(job: ExportJob, progress: Progress | None = None) -> int:
    """About how many bytes a job's file, or folder, will have; exact where the job is short enough to try.

    `progress` may raise, to stop; RovixError as from :func:`rovix.engine.export.export`.
    """
    parts = list(stretches(job.span))
    kind = encoder_for(job.out, job.how.codec)
    whole = kind.folder or not kind.pictures or parts == [job.span]
    tried = []
    for part in parts:
        with TemporaryDirectory(prefix="rovix-") as folder:
            trial = replace(job, out=Path(folder) / f"tried{kind.suffix}", span=part)
            export(trial, 1, progress)
            written = written_by(trial)
            tried.append(_Measured(1, weight_of(written), 0, 0.0, 0.0) if whole else _measured(written))
    if parts == [job.span]:
        return round(tried[0].own_bytes)
    return _grown(tried, job.span.length)


def stretches(span: Span) -> Iterator[Span]:
    """What of a span is tried: the whole of a short one, else its ends and the middles of equal parts."""
    if span.length <= STRETCHES * STRETCH:
        yield span
        return
    yield Span(span.start, span.start + STRETCH)
    between, parts = span.length - 2 * STRETCH, STRETCHES - 2
    for number in range(parts):
        start = span.start + STRETCH + between * (2 * number + 1) // (2 * parts) - STRETCH // 2
        yield Span(start, start + STRETCH)
    yield Span(span.end - STRETCH, span.end)


def _weighed(tried: Sequence[float], length: int) -> float:
    """What all has, of what each stretch has."""
    between = (length - 2 * STRETCH) / ((STRETCHES - 2) * STRETCH)
    return tried[0] + tried[-1] + sum(tried[1:-1]) * between


def _measured(path: Path) -> _Measured:
    own: list[int] = []
    others: list[int] = []
    rest = 0
    with av.open(str(path)) as container:
        for packet in container.demux():
            if packet.stream.type != "video":
                rest += packet.size
            elif packet.size:
                (own if packet.is_keyframe else others).append(packet.size)
    # What a packet does not count, such as alpha beside it, grows as it does.
    share = weight_of(path) / max(1, sum(own) + sum(others) + rest)
    return _Measured(len(own), sum(own) * share, len(others), sum(others) * share, rest * share)


def _grown(tried: list[_Measured], length: int) -> int:
    own = sum(part.own for part in tried)
    own_bytes = sum(part.own_bytes for part in tried)
    if not any(part.others for part in tried):
        return round(_weighed([part.own_bytes + part.rest for part in tried], length))
    # Each stretch begins with a picture that stands for itself; the file has one but seldom.
    others = _weighed([part.other_bytes + part.rest for part in tried], length)
    return round(own_bytes / own * -(-length // _BETWEEN_KEYS) + others)
