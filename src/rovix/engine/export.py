"""Exporting a video: several drawing processes in front of one encoder."""

from __future__ import annotations

import os
from collections.abc import Callable
from pathlib import Path

import av

from rovix.edit.media_list import used_media
from rovix.engine.crew import Crew
from rovix.engine.export_job import ExportJob
from rovix.errors import RovixError
from rovix.formats import replacing
from rovix.media.encoders import Encoder, encoder_for
from rovix.media.library import MediaLibrary
from rovix.media.mix import Mixer
from rovix.media.move_sounds import sounds
from rovix.model import Project, Track
from rovix.model.clip_kinds import holds_tracks, is_layer
from rovix.time import Span

Progress = Callable[[int, int], None]
_SPARE_SLOTS = 3


def export(job: ExportJob, workers: int | None = None, progress: Progress | None = None) -> None:
    """Write the video; nothing stands under the final name before it is complete.

    `progress` is called with (pictures written, pictures in all). Raise from it, or press Ctrl+C,
    to stop: what was under the name before is then untouched. The file does not depend on the
    number of workers. Raises RovixError for an empty span, media that is missing or unreadable,
    and places that cannot be written to.
    """
    _check(job)
    try:
        with replacing(job.out) as part:
            _write(job, part, workers or default_workers(), progress or (lambda done, total: None))
    except av.FFmpegError as wrong:
        raise RovixError(f"{job.out.name} could not be encoded: {wrong.strerror}.") from wrong
    except OSError as wrong:
        raise RovixError(
            f"{job.out} could not be written: {wrong.strerror or wrong}. Take another place."
        ) from wrong


def default_workers() -> int:
    """One drawing process per core, at most eight: beyond that the encoder is what takes time."""
    return max(1, min(8, os.cpu_count() or 1))


def _check(job: ExportJob) -> None:
    length = job.project.sequence.length
    if job.span.length == 0 or job.span.start < 0 or job.span.end > length:
        has = f"frames 0 to {length - 1}" if length else "no frames"
        raise RovixError(f"There is nothing to export in that range: the sequence has {has}.")
    encoder_for(job.out).check(job.picture_size)
    if not job.out.resolve().parent.is_dir():
        raise RovixError(f"The folder {job.out.parent} does not exist. Make it first, or take another.")
    used = used_media(job.project)
    missing = [media for media in MediaLibrary(job.project, job.base).missing() if media.id in used]
    if missing:
        names = ", ".join(media.path for media in missing)
        raise RovixError(f"Media not found: {names}. Put the files back in place, then export again.")


def _write(job: ExportJob, part: Path, workers: int, progress: Progress) -> None:
    sequence = job.project.sequence
    library = MediaLibrary(job.project, job.base)
    begin = encoder_for(job.out).begin
    writer = begin(part, job.picture_size, sequence.frame_rate, _has_sound(job.project))
    try:
        workers = min(workers, job.span.length)
        with Crew(job.project, job.base, job.picture_size, workers, workers + _SPARE_SLOTS) as crew:
            _feed(job, crew, writer, library, progress)
        writer.close()
    except BaseException:
        writer.abandon()
        raise


def _feed(job: ExportJob, crew: Crew, writer: Encoder, library: MediaLibrary, progress: Progress) -> None:
    """Keep every process busy, and hand the pictures over in order with their sound."""
    asked, written, waiting = job.span.start, job.span.start, {}
    mixer = Mixer(job.project.sequence, library.sound, job.project.sequences)
    progress(0, job.span.length)
    while written < job.span.end:
        # A process may run ahead only as far as slots stay free for the frame that is due.
        while asked < job.span.end and crew.has_room:
            crew.draw(asked)
            asked += 1
        for drawn in crew.collect():
            waiting[drawn.frame] = drawn.slot
        while written in waiting:
            slot = waiting.pop(written)
            writer.add_picture(crew.ring.slot(slot))
            crew.release(slot)
            writer.add_sound(mixer.mix(Span(written, written + 1)))
            written += 1
            progress(written - job.span.start, job.span.length)


def _has_sound(project: Project) -> bool:
    files = any(media.kind == "sound" or media.has_sound for media in project.media)
    return files or any(_moves_sound(sequence.tracks) for sequence in project.sequences)


def _moves_sound(tracks: tuple[Track, ...]) -> bool:
    """Whether moves of layers sound."""
    return any(
        (is_layer(clip) and sounds(clip)) or (holds_tracks(clip) and _moves_sound(clip.tracks))
        for track in tracks
        for clip in track.clips
    )
