"""What can be known to be wrong with an export before it is begun."""

from __future__ import annotations

from collections.abc import Container

from rovix.edit.media_list import used_media
from rovix.engine.export_job import ExportJob
from rovix.errors import RovixError
from rovix.media.encoders import encoder_for
from rovix.media.library import MediaLibrary


def check(job: ExportJob) -> None:
    """RovixError, with the way on, for a job that cannot be done."""
    length = job.project.sequence.length
    if job.span.length == 0 or job.span.start < 0 or job.span.end > length:
        has = f"frames 0 to {length - 1}" if length else "no frames"
        raise RovixError(f"There is nothing to export in that range: the sequence has {has}.")
    kind = encoder_for(job.out, job.how.codec)
    kind.check(job.picture_size, job.project.sequence.frame_rate)
    kind.quality(job.how.quality)
    if kind.single and job.span.length != 1:
        raise RovixError(
            f"{kind.called}, takes one frame, not {job.span.length}. Let it be from and to the same."
        )
    if not job.out.resolve().parent.is_dir():
        raise RovixError(f"The folder {job.out.parent} does not exist. Make it first, or take another.")
    used = used_media(job.project)
    _check_range(job, used)
    missing = [media for media in MediaLibrary(job.project, job.base).missing() if media.id in used]
    if missing:
        names = ", ".join(media.path for media in missing)
        raise RovixError(f"Media not found: {names}. Put the files back in place, then export again.")


def _check_range(job: ExportJob, used: Container[str]) -> None:
    bright = [media for media in job.project.media if media.id in used and media.transfer != "standard"]
    if bright:
        names = ", ".join(f"{media.path} ({media.transfer})" for media in bright)
        raise RovixError(
            f"Footage of high dynamic range cannot be exported, as its colours would come out flat and pale: "
            f"{names}. Convert it to BT.709 by another program and take that instead."
        )
