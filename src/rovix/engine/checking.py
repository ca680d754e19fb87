"""All checks of a sequence, on its real pictures and sound: what those who watch will see."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from pathlib import Path

import numpy as np
from msgspec.structs import replace
from numpy.typing import NDArray

from rovix.check.asked import Asked, Step
from rovix.check.edges import Edges, Ground, edges, ground
from rovix.check.finding import KINDS, Finding
from rovix.check.flashes import MOST, Flashing, FlashMeter
from rovix.check.moving import moving_findings
from rovix.check.words import Watched, looked_at, watch, word_findings
from rovix.errors import RovixError
from rovix.media.library import MediaLibrary
from rovix.media.mix import Mixer, sample_at
from rovix.model import Fill, Look, Media, Plain, Project
from rovix.model.clip_kinds import has_words, holds_tracks, is_layer
from rovix.model.track import Clip, Track
from rovix.motion import picture_plan
from rovix.motion.subject import ink_box, subject_of
from rovix.paint.cache import LayerCache
from rovix.paint.painter import Painter
from rovix.text.catalogue import use_project_fonts
from rovix.time import Rate, Span

Pixels = NDArray[np.uint8]


Part = Callable[[Step], None]
Tell = Callable[[int, int], None]
_HIGH = 540  # px of the pictures that letters are looked at in, unless the frame is smaller
_SMALL = 144  # px across the pictures that are looked at for flashes
_MOMENTS, _FIRST = 5, 3
OF_LARGE, OF_SMALLER = 3.0, 4.5
"""Ratios that WCAG 2.2 (1.4.3) asks for of large letters, and of smaller ones."""
LARGE = 24 / 1080
"""Of the frame's height: 18 pt, 24 px of CSS, as if the frame were 1080 px high."""
_OF_WORDS = frozenset({"contrast", "busy"})
_DRAWN = _OF_WORDS | {"flash", "red-flash", "clipping"}
_TOGETHER = 50
_FULL = 1.0
_CACHE = 64 << 20
_RUN = 24


class Gallery:
    """Draws pictures and gives sounds of a project; files stay open while the media stay the same."""

    def __init__(self) -> None:
        self._of: tuple[tuple[Media, ...], Path] | None = None
        self._cache = LayerCache(_CACHE)
        self.library: MediaLibrary | None = None
        self._painter: Painter | None = None

    def open(self, project: Project, base: Path) -> None:
        """Be there for a project."""
        if self._of != (project.media, base):
            self.close()
            self._of = project.media, base
            self.library = MediaLibrary(project, base)
            self._painter = Painter(self.library, self._cache)

    def close(self) -> None:
        if self.library is not None:
            self.library.close()
        self.library = self._painter = self._of = None

    def rest(self) -> None:
        """Nothing is asked for a while: let go of files and drawn layers, which come again when they are."""
        self.close()
        self._cache.clear()

    def painted(self, project: Project, frame: int, size: tuple[int, int], run: int = 1) -> Pixels:
        """(h, w, 4) BGRA of a frame, good until the next one."""
        assert self._painter is not None
        try:
            return self._painter.paint(picture_plan(project, frame, run=run), size)
        except RovixError as wrong:
            raise RovixError(f"Frame {frame} could not be drawn. {wrong}") from wrong


def checked(
    project: Project,
    base: Path,
    asked: Asked | None = None,
    tell: Tell | None = None,
    part: Part | None = None,
    gallery: Gallery | None = None,
) -> list[Finding]:
    """Everything that is found in a project's first sequence, what was accepted left out, by kind and frame.

    `part` gets what each step found as soon as it is known; `tell` hears how many pictures of how many are
    looked at, and may raise to stop. A `gallery` is used and stays open. RovixError for what cannot be drawn
    or heard."""
    own = gallery or Gallery()
    try:
        return _checked(project, base, asked, tell, part, own)
    finally:
        if gallery is None:
            own.close()


def _checked(
    project: Project, base: Path, asked: Asked | None, tell: Tell | None, part: Part | None, gallery: Gallery
) -> list[Finding]:
    asked, tell = asked or Asked(), tell or (lambda done, total: None)
    use_project_fonts(base)
    found: list[Finding] = []
    accepted = {(one.kind, one.layer or "") for one in project.sequence.accepted}
    for step in _steps(project, base, asked, tell, gallery):
        fresh = tuple(one for one in step.found if one.key not in accepted)
        # A later step of the same takes the place of an earlier one.
        same = {step.layer} if step.layer is not None else None
        found = [f for f in found if not (f.kind in step.kinds and (same is None or f.layer in same))]
        found += fresh
        if part is not None:
            part(Step(step.kinds, step.layer, fresh))
    order = {kind: number for number, kind in enumerate(KINDS)}
    return sorted(found, key=lambda one: (order[one.kind], one.frame, one.name))


def _steps(project: Project, base: Path, asked: Asked, tell: Tell, gallery: Gallery) -> Iterator[Step]:
    tell(0, 1)
    gallery.open(project, base)
    missing = _missing(project, base)
    if asked.first and not missing:
        yield from _first(project, asked, tell, gallery)
    span = asked.span(project.sequence.length)
    watched = watch(project, [frame for frame in looked_at(project.sequence) if frame in span])
    moving = (one for one in moving_findings(project.sequence) if one.frame in span)
    plain = (*word_findings(project, watched, asked.audience), *moving, *missing)
    yield Step(frozenset(KINDS) - _DRAWN, None, plain)
    if missing or not project.sequence.length:
        return  # what cannot be drawn cannot be looked at
    looker = _Looker(
        project, gallery, tell, watched if asked.pictures else [], span if asked.flashes else Span(0, 0)
    )
    if asked.sound:
        yield Step(frozenset({"clipping"}), None, tuple(looker.sound(span)))
    yield from looker.steps(asked.flashes)


def _first(project: Project, asked: Asked, tell: Tell, gallery: Gallery) -> Iterator[Step]:
    """A few pictures of the words that are asked for first, before all others are so much as found; later
    they are looked at as often as the others."""
    clip = next((c for t in project.sequence.tracks for c in t.clips if c.id == asked.first), None)
    if clip is None or not asked.pictures or not is_layer(clip):
        return
    span = asked.span(project.sequence.length)
    frames = [frame for frame in looked_at(project.sequence) if frame in clip.span and frame in span]
    own = [one for one in watch(project, frames) if one.owner == asked.first]
    yield from _Looker(project, gallery, tell, own, Span(0, 0), _FIRST).steps(flashes=False)


def _missing(project: Project, base: Path) -> list[Finding]:
    """Files that are not there, each once."""
    return [
        Finding("media", "", item.title, 0, f"{item.path} is not there.", 1.0, 0.0)
        for item in project.media if not (base / item.path).exists()
    ]  # fmt: skip


@dataclass(slots=True)
class _Look:
    """A text layer's words, alone, at some moments, and what was seen at those that are done."""

    one: Watched
    bare: Project
    moments: list[int]
    seen: int = 0
    told: list[tuple[int, Edges, Ground | None]] = field(default_factory=list)

    @property
    def is_done(self) -> bool:
        return self.seen >= len(self.moments)


def _moments(one: Watched, count: int) -> list[int]:
    """A few frames of a layer's stay, from its first to its last; none for words that never stand."""
    if not one.clip.text.content.strip():
        return []
    stay = [frame for frame, _ in (one.stay if one.clip.crossing is None else one.seen)]
    shares = np.linspace(0, 1, count)
    return sorted({stay[round(share * (len(stay) - 1))] for share in shares}) if stay else []


class _Looker:
    """Draws what is looked at: every frame once, in order, so that nothing is decoded twice."""

    def __init__(
        self,
        project: Project,
        gallery: Gallery,
        tell: Tell,
        watched: list[Watched],
        frames: Span,
        count: int = _MOMENTS,
    ) -> None:
        self._project, self._gallery, self._tell, self._frames = project, gallery, tell, frames
        self._looks = [_Look(one, faces_only(project, one.clip.id), _moments(one, count)) for one in watched]
        self._total = frames.length + sum(len(look.moments) for look in self._looks)
        self._done = 0

    def _step(self) -> None:
        self._done += 1
        self._tell(min(self._done, self._total), self._total)

    def steps(self, flashes: bool) -> Iterator[Step]:
        """All words and flashes in one go through the pictures."""
        for owner in dict.fromkeys(look.one.owner for look in self._looks):
            yield from self._judged(owner)
        left = [look for look in self._looks if not look.is_done]
        meter = FlashMeter(self._project.sequence.frame_rate) if flashes else None
        frames = (
            range(self._frames.start, self._frames.end)
            if meter
            else sorted({f for look in left for f in look.moments})
        )
        for frame in frames:
            if meter is not None:
                self._step()
                run = min(_RUN, self._frames.end - frame)
                meter.add(self._gallery.painted(self._project, frame, self._small(), run)[..., 2::-1])
            for look in (look for look in left if frame in look.moments):
                self._sample(look, frame)
                yield from self._judged(look.one.owner)
        if meter is not None:
            told = (
                *_flashing("flash", meter.general, self._frames.start),
                *_flashing("red-flash", meter.red, self._frames.start),
            )
            yield Step(frozenset({"flash", "red-flash"}), None, told)

    def _sample(self, look: _Look, frame: int) -> None:
        """Contrast and ground of a layer's words at one of its moments."""
        self._step()
        size = self._size()
        # Copied, or made of it, before the next one is painted.
        cover = self._gallery.painted(look.bare, frame, size)[..., 3].astype(np.float64) / 255
        picture = self._gallery.painted(self._project, frame, size)[..., 2::-1]
        found = edges(picture, cover)
        look.seen += 1
        if found is not None:
            # Where letters stand out well the ground around them is of no account.
            around = ground(picture, cover) if found.tenth < OF_SMALLER else None
            look.told.append((frame, found, around))

    def _judged(self, owner: str) -> Iterator[Step]:
        """What was found of a layer with all words in it, once all of them were looked at."""
        own = [look for look in self._looks if look.one.owner == owner]
        if all(look.is_done for look in own):
            found = tuple(one for look in own for one in self._told(look.one, look.told))
            yield Step(_OF_WORDS, owner, found)

    def _small(self) -> tuple[int, int]:
        width, height = self._project.sequence.size
        return _SMALL, max(2, round(_SMALL * height / width))

    def _told(self, one: Watched, told: list[tuple[int, Edges, Ground | None]]) -> Iterator[Finding]:
        if not told:
            return
        frame, worst, _ = min(told, key=lambda it: it[1].tenth)
        limit = OF_LARGE if self._is_large(one) else OF_SMALLER
        if worst.tenth < limit:
            said = f"{worst.tenth:.1f} : 1 against what is around it; WCAG 2.2 asks for {limit:g} : 1."
            yield Finding("contrast", one.owner, one.clip.title, frame, said, worst.tenth, limit)
        busy = [(at, it) for at, _, it in told if it is not None and it.is_busy]
        if busy:
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

    def sound(self, within: Span) -> list[Finding]:
        """Whether the mix goes beyond full scale."""
        sequence = self._project.sequence
        assert self._gallery.library is not None
        mixer = Mixer(sequence, self._gallery.library.sound, self._project.sequences)
        worst, at = 0.0, 0
        for start in range(within.start, within.end, _TOGETHER):
            span = Span(start, min(within.end, start + _TOGETHER))
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


def _flashing(kind: str, found: Flashing | None, first: int) -> list[Finding]:
    if found is None:
        return []
    said = f"{found.flashes:g} flashes within a second; {MOST} are the limit (WCAG 2.3.1)."
    return [Finding(kind, "", "The picture", first + found.frame, said, found.flashes, float(MOST))]


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
