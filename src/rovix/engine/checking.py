"""All checks of a sequence, on its real pictures and sound: what those who watch will see."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
from msgspec.structs import replace
from numpy.typing import NDArray

from rovix.check.audience import USUAL
from rovix.check.edges import Edges, Ground, edges, ground
from rovix.check.finding import KINDS, Finding
from rovix.check.flashes import MOST, Flashing, FlashMeter
from rovix.check.moving import moving_findings
from rovix.check.words import Watched, watch, word_findings
from rovix.errors import RovixError
from rovix.media.library import MediaLibrary
from rovix.media.mix import Mixer, sample_at
from rovix.model import Fill, Look, Plain, Project
from rovix.model.clip_kinds import has_words, holds_tracks, is_layer
from rovix.model.track import Clip, Track
from rovix.motion import picture_plan
from rovix.motion.subject import ink_box, subject_of
from rovix.paint.cache import LayerCache
from rovix.paint.painter import Painter
from rovix.text.catalogue import use_project_fonts
from rovix.time import Rate, Span

Pixels = NDArray[np.uint8]


@dataclass(frozen=True, slots=True)
class Step:
    """What one step of checking found: all there is of some `kinds`, of a `layer`, or of all where it is
    None."""

    kinds: frozenset[str]
    layer: str | None
    found: tuple[Finding, ...]


Part = Callable[[Step], None]
Tell = Callable[[int, int], None]
_HIGH = 540  # px of the pictures that letters are looked at in, unless the frame is smaller
_SMALL = 144  # px across the pictures that are looked at for flashes
_MOMENTS = 5
_LARGE, _SMALLER = 3.0, 4.5
"""Ratios that WCAG 2.2 (1.4.3) asks for of large letters, and of smaller ones."""
LARGE = 24 / 1080
"""Of the frame's height: 18 pt, 24 px of CSS, as if the frame were 1080 px high."""
_OF_WORDS = frozenset({"contrast", "busy"})
_DRAWN = _OF_WORDS | {"flash", "red-flash", "clipping"}
_TOGETHER = 50
_FULL = 1.0
_CACHE = 64 << 20
_RUN = 24


@dataclass(frozen=True, slots=True)
class Asked:
    """What is checked: for which audience, which layer first, whether pictures and sound are looked at."""

    audience: str = USUAL
    first: str = ""
    pictures: bool = True
    flashes: bool = True
    sound: bool = True


def checked(
    project: Project,
    base: Path,
    asked: Asked | None = None,
    tell: Tell | None = None,
    part: Part | None = None,
) -> list[Finding]:
    """Everything that is found in a project's first sequence, what was accepted left out, by kind and frame.

    `part` gets what each step found as soon as it is known; `tell` hears how many pictures of how many are
    looked at, and may raise to stop. RovixError for what cannot be drawn or heard."""
    asked, tell = asked or Asked(), tell or (lambda done, total: None)
    use_project_fonts(base)
    found: list[Finding] = []
    accepted = {(one.kind, one.layer or "") for one in project.sequence.accepted}
    for step in _steps(project, base, asked, tell):
        fresh = tuple(one for one in step.found if one.key not in accepted)
        found += fresh
        if part is not None:
            part(Step(step.kinds, step.layer, fresh))
    order = {kind: number for number, kind in enumerate(KINDS)}
    return sorted(found, key=lambda one: (order[one.kind], one.frame, one.name))


def checked_job(
    project: Project, base: Path, asked: Asked, progress: Tell, part: Callable[[Any], None]
) -> list[Finding]:
    """:func:`checked` as work beside editing."""
    return checked(project, base, asked, progress, part)


def _steps(project: Project, base: Path, asked: Asked, tell: Tell) -> Iterator[Step]:
    tell(0, 1)
    watched = watch(project)
    watched.sort(key=lambda one: one.owner != asked.first)
    missing = _missing(project, base)
    plain = (*word_findings(project, watched, asked.audience), *moving_findings(project.sequence), *missing)
    yield Step(frozenset(KINDS) - _DRAWN, None, plain)
    if missing or not project.sequence.length:
        return  # what cannot be drawn cannot be looked at
    looker = _Looker(project, base, tell, len(watched) * _MOMENTS + project.sequence.length)
    try:
        if asked.pictures:
            for one in watched:
                yield Step(_OF_WORDS, one.owner, tuple(looker.words(one)))
        if asked.sound:
            yield Step(frozenset({"clipping"}), None, tuple(looker.sound()))
        if asked.flashes:
            yield Step(frozenset({"flash", "red-flash"}), None, tuple(looker.flashes()))
    finally:
        looker.close()


def _missing(project: Project, base: Path) -> list[Finding]:
    """Files that are not there, each once."""
    return [
        Finding("media", "", item.title, 0, f"{item.path} is not there.", 1.0, 0.0)
        for item in project.media if not (base / item.path).exists()
    ]  # fmt: skip


class _Looker:
    """Draws what is looked at."""

    def __init__(self, project: Project, base: Path, tell: Tell, total: int) -> None:
        self._project, self._tell, self._total = project, tell, total
        self._library = MediaLibrary(project, base)
        self._painter = Painter(self._library, LayerCache(_CACHE))
        self._done = 0

    def close(self) -> None:
        self._library.close()

    def _step(self) -> None:
        self._done += 1
        self._tell(min(self._done, self._total), self._total)

    def words(self, one: Watched) -> list[Finding]:
        """Contrast and ground of a layer's words while they stand."""
        if not one.clip.text.content.strip():
            return []
        stay = [frame for frame, _ in (one.stay if one.clip.crossing is None else one.seen)]
        if not stay:
            self._done += _MOMENTS
            return []
        moments = sorted({stay[round(share * (len(stay) - 1))] for share in np.linspace(0, 1, _MOMENTS)})
        size = self._size()
        bare = faces_only(self._project, one.clip.id)
        told: list[tuple[int, Edges, Ground | None]] = []
        for frame in moments:
            self._step()
            cover = self._painted(bare, frame, size)[..., 3].astype(np.float64) / 255
            picture = self._painted(self._project, frame, size)[..., 2::-1]
            found = edges(picture, cover)
            if found is not None:
                told.append((frame, found, ground(picture, cover)))
        return list(self._told(one, told))

    def _told(self, one: Watched, told: list[tuple[int, Edges, Ground | None]]) -> Iterator[Finding]:
        if not told:
            return
        frame, worst, _ = min(told, key=lambda it: it[1].tenth)
        limit = _LARGE if self._is_large(one) else _SMALLER
        if worst.tenth < limit:
            said = f"{worst.tenth:.1f} : 1 against what is around it; WCAG 2.2 asks for {limit:g} : 1."
            yield Finding("contrast", one.owner, one.clip.title, frame, said, worst.tenth, limit)
        busy = [(at, it) for at, _, it in told if it is not None and it.is_busy]
        if busy and worst.tenth < _SMALLER:
            at, most = max(busy, key=lambda it: it[1].deviation)
            said = f"The ground varies by {most.deviation * 100:.0f} %, the strokes are thin."
            yield Finding("busy", one.owner, one.clip.title, at, said, most.deviation, 0.0)

    def _is_large(self, one: Watched) -> bool:
        """Whether its letters are large as WCAG means it, as they are seen."""
        seen = one.seen[len(one.seen) // 2][1]
        _, top, _, bottom = ink_box(subject_of(one.clip, (1, 1)))
        down = float(np.hypot(*(seen.rest[3] - seen.rest[0])))
        scale = down / (bottom - top) if bottom > top and np.isfinite(down) else 1.0
        return one.clip.text.size * scale >= LARGE * self._project.sequence.size[1]

    def _size(self) -> tuple[int, int]:
        width, height = self._project.sequence.size
        share = min(1.0, _HIGH / min(width, height))
        return max(2, round(width * share)), max(2, round(height * share))

    def _painted(self, project: Project, frame: int, size: tuple[int, int], run: int = 1) -> Pixels:
        try:
            return self._painter.paint(picture_plan(project, frame, run=run), size)
        except RovixError as wrong:
            raise RovixError(f"Frame {frame} could not be drawn. {wrong}") from wrong

    def flashes(self) -> list[Finding]:
        """Whether the video flashes, all of its pictures looked at."""
        sequence = self._project.sequence
        width, height = sequence.size
        size = _SMALL, max(2, round(_SMALL * height / width))
        meter = FlashMeter(sequence.frame_rate)
        for frame in range(sequence.length):
            self._step()
            run = min(_RUN, sequence.length - frame)
            meter.add(self._painted(self._project, frame, size, run)[..., 2::-1])
        return [*_flashing("flash", meter.general), *_flashing("red-flash", meter.red)]

    def sound(self) -> list[Finding]:
        """Whether the mix goes beyond full scale."""
        sequence = self._project.sequence
        mixer = Mixer(sequence, self._library.sound, self._project.sequences)
        worst, at = 0.0, 0
        for start in range(0, sequence.length, _TOGETHER):
            span = Span(start, min(sequence.length, start + _TOGETHER))
            samples = np.abs(mixer.mix(span))
            if samples.size and float(samples.max()) > worst:
                worst = float(samples.max())
                first = sample_at(sequence.frame_rate, start)
                loud = int(samples.max(axis=1).argmax()) + first
                at = next(
                    (f for f in range(span.start, span.end) if sample_at(sequence.frame_rate, f + 1) > loud),
                    start,
                )
            self._tell(min(self._done, self._total), self._total)
        if worst <= _FULL:
            return []
        over = 20 * float(np.log10(worst))
        return [Finding("clipping", "", "Sound", at, f"{over:.1f} dB beyond full scale.", over, 0.0)]


def _frame_of(sample: int, span: Span, rate: Rate) -> int:
    """The frame of a span in which a sample is."""
    return next((f for f in range(span.start, span.end) if sample_at(rate, f + 1) > sample), span.start)


def _flashing(kind: str, found: Flashing | None) -> list[Finding]:
    if found is None:
        return []
    said = f"{found.flashes:g} flashes within a second; {MOST} are the limit (WCAG 2.3.1)."
    return [Finding(kind, "", "The picture", found.frame, said, found.flashes, float(MOST))]


def faces_only(project: Project, identity: str) -> Project:
    """The project with the faces of one layer's letters alone, all else there but not to be seen."""
    bare = Look(parts=(Fill(id="face", paint=Plain(colour="#ffffff")),))

    def change(clip: Clip) -> Clip:
        if clip.id == identity and has_words(clip):
            return replace(clip, look=bare, blend="normal")
        if holds_tracks(clip) and any(_has(track, identity) for track in clip.tracks):
            return replace(clip, tracks=each(clip.tracks), blend="normal")
        return replace(clip, transform=replace(clip.transform, opacity=0.0)) if is_layer(clip) else clip

    def each(tracks: tuple[Track, ...]) -> tuple[Track, ...]:
        return tuple(replace(track, clips=tuple(map(change, track.clips))) for track in tracks)

    sequence = replace(project.sequence, tracks=each(project.sequence.tracks), background="#00000000")
    return replace(project, sequences=(sequence, *project.sequences[1:]))


def _has(track: Track, identity: str) -> bool:
    return any(
        clip.id == identity or (holds_tracks(clip) and any(_has(inner, identity) for inner in clip.tracks))
        for clip in track.clips
    )
