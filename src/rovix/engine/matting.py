"""A thing cut out of a video: a grey video of where it is, losslessly coded."""

from __future__ import annotations

import zlib
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import av
import numpy as np
from av import VideoFrame

from rovix.engine.film import Box, Film, Pixels
from rovix.engine.matte_files import MATTE_SUFFIX
from rovix.errors import RovixError
from rovix.formats import replacing
from rovix.vision.outlines import Outline, outlines_of
from rovix.vision.subject_matte import Mark, Patch, SubjectMatte

Progress = Callable[[int, int], None]
Part = Callable[[Any], None]


@dataclass(frozen=True, slots=True)
class Subject:
    """What is in a box (x, y, width, height in px) of a `frame` of a video, or under strokes in it where
    there is none; strokes in any frame say what belongs to it and what does not; looked for from frame
    `first` to `last`, None being the last there is."""

    frame: int
    box: Box | None
    marks: tuple[tuple[int, Mark], ...] = ()
    first: int = 0
    last: int | None = None

    def marks_at(self, frame: int) -> list[Mark]:
        return [mark for at, mark in self.marks if at == frame]


def write_matte(path: Path, frame: int, box: Box, out: Path, progress: Progress | None = None) -> None:
    """Cut what is in a box of a frame out of every frame of a video, see :func:`write_cut_out`."""
    write_cut_out(path, Subject(frame, box), out, progress or (lambda done, total: None))


def write_cut_out(
    path: Path, subject: Subject, out: Path, progress: Progress, part: Part = lambda _: None
) -> None:
    """Cut a subject out of a video, and write where it is as grey: FFV1 in Matroska, as large and as fast as
    the video and as long, black where it was not looked for; whole or not at all.

    `progress` is called with (frames done, frames in all), and may raise to stop; `part` gets (frame,
    outlines) of what there is. RovixError for a file that is no video, a frame or a box that it does not
    have, and a place that cannot be written to."""
    if out.suffix.lower() != MATTE_SUFFIX:
        raise RovixError(f"{out.name} should end in {MATTE_SUFFIX}.")
    film = Film(path)
    try:
        film.check(subject.frame, subject.box)
        if subject.box is None and not any(mark.belongs for mark in subject.marks_at(subject.frame)):
            raise RovixError("Nothing says what is to be cut out; draw a stroke over it.")
        patches = _Search(film, subject, progress, part).found()
        with replacing(out) as written:
            _write(written, film, patches)
    except OSError as wrong:
        raise RovixError(
            f"{out} could not be written: {wrong.strerror or wrong}. Take another place."
        ) from wrong
    finally:
        film.close()


class _Search:
    """The matte in each frame: carried on from the picked one both ways, corrected where there are strokes,
    and from there back half of the way to the frame that it was sure of before."""

    def __init__(self, film: Film, subject: Subject, progress: Progress, part: Part) -> None:
        self._film, self._subject, self._tell, self._part = film, subject, progress, part
        self._last = film.count - 1 if subject.last is None else min(subject.last, film.count - 1)
        self._first = min(subject.first, subject.frame)
        inside = {at for at, _ in subject.marks if self._first <= at <= self._last}
        self._anchors = sorted({subject.frame, *inside})
        self._found: dict[int, _Packed] = {}
        self._known: dict[int, SubjectMatte] = {}
        self._done = 0

    def found(self) -> dict[int, _Packed]:
        picked = self._subject.frame
        for forwards in (True, False):
            frames = self._frames(picked, self._last if forwards else self._first)
            _, first = next(frames)
            if picked not in self._known:
                self._known[picked] = self._picked(first)
            self._go(self._known[picked].copy(), frames, True)
        for start, end in self._back():
            frames = self._frames(start, end)
            next(frames)
            self._go(self._known[start].copy(), frames, False)
        return self._found

    def _picked(self, picture: Pixels) -> SubjectMatte:
        subject = self._subject
        matte = SubjectMatte(picture, subject.box, subject.marks_at(subject.frame))
        self._keep(subject.frame, matte.picked)
        return matte

    def _back(self) -> list[tuple[int, int]]:
        """From each corrected frame towards the picked one, and how far."""
        picked, ways = self._subject.frame, []
        for before, after in zip(self._anchors, self._anchors[1:], strict=False):
            middle = (before + after) // 2
            if after > picked and middle + 1 < after:
                ways.append((after, middle + 1))
            elif before < picked and middle > before:
                ways.append((before, middle))
        return ways

    def _frames(self, start: int, end: int) -> Iterator[tuple[int, Pixels]]:
        if start <= end:
            return self._film.forwards(start, end)
        return self._film.backwards(start, end)

    def _go(self, matte: SubjectMatte, frames: Iterator[tuple[int, Pixels]], corrects: bool) -> None:
        for number, picture in frames:
            patch = matte.follow(picture)
            marks = self._subject.marks_at(number) if corrects else []
            if marks:
                patch = matte.correct(marks)
                self._known[number] = matte.copy()
            self._keep(number, patch)

    def _keep(self, number: int, patch: Patch) -> None:
        self._found[number] = _Packed(patch)
        self._part((number, outlines_of(patch)))
        self._done += 1
        total = self._last - self._first + 1 + sum(abs(end - start) for start, end in self._back())
        self._tell(min(self._done, total), total)


class _Packed:
    """A patch, small: those of a long film stay in memory until they are written."""

    def __init__(self, patch: Patch) -> None:
        self._place, self._shape = (patch.left, patch.top), patch.alpha.shape
        self._bytes = zlib.compress(patch.alpha.tobytes(), 1)

    def patch(self) -> Patch:
        alpha = np.frombuffer(zlib.decompress(self._bytes), np.uint8).reshape(self._shape)
        return Patch(*self._place, alpha)


def outlines_in(path: Path, frame: int) -> tuple[Outline, ...]:
    """What a matte's file covers in a frame of it; nothing where it cannot be read."""
    try:
        film = Film(path, grey=True)
    except (RovixError, OSError):
        return ()
    try:
        _, grey = next(film.forwards(min(frame, film.count - 1)))
        return outlines_of(Patch(0, 0, grey))
    finally:
        film.close()


def _written(patches: dict[int, _Packed], count: int) -> list[int]:
    """The frames that are written: those there are, and black ones where they begin and end, which stand
    for all before and after them."""
    ends = {0, count - 1} | {n for n in (min(patches) - 1, max(patches) + 1) if 0 <= n < count}
    return sorted(ends | set(patches))


def _write(part: Path, film: Film, patches: dict[int, _Packed]) -> None:
    nothing = np.zeros(film.size[::-1], np.uint8)
    # Without numbers of chance in it, a matte that is made again is the same file.
    with av.open(str(part), "w", format="matroska", options={"fflags": "+bitexact"}) as container:
        stream = container.add_stream("ffv1", rate=film.rate)
        stream.width, stream.height, stream.pix_fmt = *film.size, "gray"
        for number in _written(patches, film.count):
            packed = patches.get(number)
            grey = nothing if packed is None else packed.patch().laid_out(film.size)
            frame = VideoFrame.from_ndarray(grey, format="gray")
            frame.pts, frame.time_base = number, 1 / film.rate
            container.mux(stream.encode(frame))
        container.mux(stream.encode(None))
