"""Exporting a file: ranges of it drawn and encoded, each by itself, then joined."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from typing import TypeVar

import av

from rovix.engine.export_check import check
from rovix.engine.export_job import ExportJob
from rovix.engine.export_sound import ExportSound
from rovix.engine.lanes import Lanes, default_workers, said
from rovix.engine.ranges import Range, job_key, ranges_of
from rovix.errors import RovixError
from rovix.formats import replacing
from rovix.formats.whole_file import noted_part, remove
from rovix.formats.whole_folder import replacing_folder
from rovix.media.encoders import Encoder, EncoderKind, encoder_for
from rovix.media.encoders.encoder import Chapter, Joint
from rovix.media.library import MediaLibrary
from rovix.media.move_sounds import sounds
from rovix.model import Project, Track
from rovix.model.clip_kinds import holds_tracks, is_layer
from rovix.time import timecode

Progress = Callable[[int, int], None]
WriteRanges = Callable[[ExportJob, list[Range], Callable[[int], None]], None]
"""Writes ranges of a job, and tells how many of their pictures are done; what it tells may raise, to stop."""
Written = TypeVar("Written", Encoder, Joint)
_OFTEN = 250  # pictures between two looks, while joining, at whether to go on


def export(
    job: ExportJob,
    workers: int | None = None,
    progress: Progress | None = None,
    keep: Path | None = None,
    write: WriteRanges | None = None,
) -> str:
    """Write the file; nothing stands under the final name before it is complete.

    `progress` is called with (pictures written, pictures in all), while pictures are drawn every few seconds
    at least. Raise from it, or press Ctrl+C, to stop: what was under the name before is then untouched.
    Ranges are written by `write`, or else by so many `workers` on this machine; the file depends on neither.
    Those that were written stay in the folder `keep` until all is done, and the same job asked for again goes
    on from them; without it they go with a stop.
    Says what was done to the sound, '' for nothing.
    Raises RovixError for an empty span, media that is missing or unreadable, and places that cannot be
    written to.
    """
    check(job)
    tell = progress or (lambda done, total: None)
    try:
        with _kept(job, keep) as folder:
            ranges = ranges_of(job, folder)
            _write(job, ranges, write or _locally(workers or default_workers()), tell)
            return _put_together(job, ranges, tell)
    except (av.FFmpegError, OSError) as wrong:
        raise RovixError(said(wrong, job)) from wrong


def _locally(workers: int) -> WriteRanges:
    return lambda job, ranges, told: Lanes(job, workers, told).write(ranges)


@contextmanager
def _kept(job: ExportJob, keep: Path | None) -> Iterator[Path]:
    """The folder of a job's ranges; gone at the end, where it was not asked for before all is done."""
    if keep is None:
        with noted_part(job.out) as folder:
            folder.mkdir()
            yield folder
        return
    key, note = job_key(job), keep / "job"
    with suppress(OSError):
        if note.read_text(encoding="utf-8") != key:
            remove(keep)
    keep.mkdir(parents=True, exist_ok=True)
    note.write_text(key, encoding="utf-8")
    yield keep
    remove(keep)


def _write(job: ExportJob, ranges: list[Range], write: WriteRanges, progress: Progress) -> None:
    """Have written what is not there."""
    total, todo = job.span.length, [wanted for wanted in ranges if not wanted.is_there]
    before = total - sum(wanted.span.length for wanted in todo)
    if not ranges:
        return
    progress(before, total)
    if todo:
        write(job, todo, lambda done: progress(before + done, total))


def _put_together(job: ExportJob, ranges: list[Range], progress: Progress) -> str:
    """The file under its final name, all at once."""
    kind = encoder_for(job.out, job.how.codec)
    library = MediaLibrary(job.project, job.base)
    sound = ExportSound(job, library)
    try:
        said = sound.level(lambda: progress(*_so_far(job, kind))) if kind.sound else ""
        with replacing_folder(folder_of(job.out), kind.suffix) if kind.folder else replacing(job.out) as part:
            if not kind.pictures:
                _write_sound(job, part, sound, progress)
            elif kind.join is None:
                ranges[0].path.replace(part)
            else:
                rate, has_sound = job.project.sequence.frame_rate, _has_sound(job.project)
                with _ended(kind.join(part, ranges[0].path, rate, has_sound)) as joint:
                    joint.name_chapters(chapters_of(job))
                    _join(job, ranges, joint, sound, progress)
        return said
    finally:
        library.close()


def _so_far(job: ExportJob, kind: EncoderKind) -> tuple[int, int]:
    """Pictures done, and all, once the pictures are."""
    return job.span.length if kind.pictures else 0, job.span.length


def _join(job: ExportJob, ranges: list[Range], joint: Joint, sound: ExportSound, progress: Progress) -> None:
    """The ranges in order, each picture with its sound."""
    for wanted in ranges:
        for frame, _ in enumerate(joint.add_range(wanted.path), wanted.span.start):
            joint.add_sound(sound.of_frame(frame))
            if frame % _OFTEN == _OFTEN - 1:
                progress(job.span.length, job.span.length)


def _write_sound(job: ExportJob, part: Path, sound: ExportSound, progress: Progress) -> None:
    kind, rate = encoder_for(job.out, job.how.codec), job.project.sequence.frame_rate
    with _ended(kind.quality(job.how.quality).begin(part, job.picture_size, rate, True)) as writer:
        _hear(job, writer, sound, progress)


@contextmanager
def _ended(written: Written) -> Iterator[Written]:
    try:
        yield written
        written.close()
    except BaseException:
        written.abandon()
        raise


def _hear(job: ExportJob, writer: Encoder, sound: ExportSound, progress: Progress) -> None:
    """The sound alone; no picture is drawn for it."""
    progress(0, job.span.length)
    for frame in range(job.span.start, job.span.end):
        writer.add_sound(sound.of_frame(frame))
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


def written_by(job: ExportJob) -> Path:
    """The file, or the folder of pictures, that a job writes."""
    return folder_of(job.out) if encoder_for(job.out, job.how.codec).folder else job.out


def weight_of(path: Path) -> int:
    """Bytes of a file, or of those in a folder."""
    return sum(file.stat().st_size for file in path.iterdir()) if path.is_dir() else path.stat().st_size


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
