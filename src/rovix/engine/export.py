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
from rovix.formats.whole_folder import replacing_folder
from rovix.media.encoders import Encoder, encoder_for
from rovix.media.encoders.encoder import Chapter
from rovix.media.library import MediaLibrary
from rovix.media.mix import Mixer
from rovix.media.move_sounds import sounds
from rovix.model import Project, Track
from rovix.model.clip_kinds import holds_tracks, is_layer
from rovix.time import Span, timecode

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
    kind = encoder_for(job.out, job.codec)
    try:
        with replacing_folder(folder_of(job.out), kind.suffix) if kind.folder else replacing(job.out) as part:
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
    kind = encoder_for(job.out, job.codec)
    kind.check(job.picture_size, job.project.sequence.frame_rate)
    kind.quality(job.quality)
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
    kind = encoder_for(job.out, job.codec)
    sound = _has_sound(job.project) or not kind.pictures
    writer = kind.quality(job.quality).begin(part, job.picture_size, sequence.frame_rate, sound)
    try:
        writer.name_chapters(chapters_of(job))
        workers = min(workers, job.span.length)
        if not kind.pictures:
            _hear(job, writer, library, progress)
            writer.close()
            return
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


def _hear(job: ExportJob, writer: Encoder, library: MediaLibrary, progress: Progress) -> None:
    """The sound alone; no picture is drawn for it."""
    mixer = Mixer(job.project.sequence, library.sound, job.project.sequences)
    progress(0, job.span.length)
    for frame in range(job.span.start, job.span.end):
        writer.add_sound(mixer.mix(Span(frame, frame + 1)))
        progress(frame + 1 - job.span.start, job.span.length)


def chapters_of(job: ExportJob) -> list[Chapter]:
    """The markers in the range as chapters, each up to the next; one without a name is called by its time."""
    sequence, span = job.project.sequence, job.span
    rate = sequence.frame_rate
    markers = sorted((m for m in sequence.markers if m.frame in span), key=lambda m: m.frame)
    ends = [*(marker.frame for marker in markers[1:]), span.end]
    return [
        Chapter(
            m.name or timecode(m.frame, rate),
            rate.seconds(m.frame - span.start),
            rate.seconds(end - span.start),
        )
        for m, end in zip(markers, ends, strict=False)  # without a marker the end alone is left over
    ]


def folder_of(out: Path) -> Path:
    """The folder that takes the pictures of an export, beside where its name points: kite.png: kite/."""
    return out.with_suffix("")


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
