"""All sounds of a sequence as one stretch of samples."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from itertools import chain
from math import floor

import numpy as np
from numpy.typing import NDArray

from rovix.media.level import fade_level, gain_factors, pan_factors
from rovix.media.move_sounds import SoundOf, add_move_sounds, sounds
from rovix.media.played import played_samples
from rovix.media.samples import BLOCK, SAMPLE_RATE, Material
from rovix.model import (
    Clip,
    FootageClip,
    GroupClip,
    PictureClip,
    Project,
    Sequence,
    SequenceClip,
    SoundClip,
    TimedClip,
    Track,
)
from rovix.model.clip_kinds import holds_tracks, is_heard, is_layer, is_played
from rovix.model.dependencies import Dependencies, beside
from rovix.model.identity import RecentCache
from rovix.time import Rate, Span

Samples = NDArray[np.float32]


@dataclass(frozen=True, slots=True)
class _Heard:
    """A clip in the sequence: the frame at which it starts, and the frames in which it is heard."""

    clip: TimedClip
    start: int
    audible: Span


_Struck = tuple[PictureClip, int, Span]


class Mixer:
    """Mixes a sequence. `sound_of` gives the sound of a media id, or None where it has none;
    `sequences` are those that may be shown in it."""

    def __init__(
        self,
        sequence: Sequence,
        sound_of: SoundOf,
        sequences: tuple[Sequence, ...] = (),
    ) -> None:
        self._sequence, self._sound_of = sequence, sound_of
        self._sequences = {other.id: other for other in sequences}
        self._inner: dict[str, Material] = {}

    def mix(self, span: Span) -> Samples:
        """(n, 2) float32 at 48 kHz of a span of frames; n is exact by the positions of its ends.

        The sum is not limited here: what goes beyond 1 is cut off by whoever plays or writes it.
        """
        rate, sequence = self._sequence.frame_rate, self._sequence
        first, last = sample_at(rate, span.start), sample_at(rate, span.end)
        total = np.zeros((last - first, 2), dtype=np.float32)
        for heard in _all_heard(sequence):
            if heard.audible.overlaps(span):
                material = self._material(heard.clip)
                if material is not None and len(material):
                    _add(total, first, heard, material, rate)
        for clip, start, audible in _all_struck(sequence):
            end = sample_at(rate, audible.end)
            add_move_sounds(total, first, clip, start, sequence, self._sound_of, end)
        return total

    def _material(self, clip: TimedClip) -> Material | None:
        """The material of a clip, from the material's own start."""
        if is_heard(clip):
            return self._sound_of(clip.media)
        if clip.id not in self._inner:
            self._inner[clip.id] = self._inside(clip)
        return self._inner[clip.id]

    def _inside(self, clip: GroupClip | SequenceClip) -> Material:
        if holds_tracks(clip):
            own = self._sequence
            inner = Sequence(id=clip.id, size=own.size, rate=own.rate, tracks=clip.tracks)
        else:
            found = self._sequences.get(clip.sequence)
            inner = Sequence(id=clip.id) if found is None else found
        return _Mixed(Mixer(inner, self._sound_of, tuple(self._sequences.values())))


class _Mixed(Material):
    """The mix of a whole sequence as material."""

    def __init__(self, mixer: Mixer) -> None:
        self._mixer, self._sequence = mixer, mixer._sequence
        self._length = sample_at(self._sequence.frame_rate, self._sequence.length)

    def __len__(self) -> int:
        return self._length

    def _block(self, number: int) -> Samples:
        rate, low = self._sequence.frame_rate, number * BLOCK
        out = np.zeros((BLOCK, 2), dtype=np.float32)
        first = max(0, floor(rate.position(Fraction(low, SAMPLE_RATE))) - 1)
        last = min(self._sequence.length, floor(rate.position(Fraction(low + BLOCK, SAMPLE_RATE))) + 2)
        if first < last:
            part = self._mixer.mix(Span(first, last))[max(0, low - sample_at(rate, first)) :][:BLOCK]
            out[: len(part)] = part
        return out


def mix_dependencies(project: Project) -> Dependencies:
    """What the mix of a project's first sequence depends on: all that :class:`Mixer` would sound."""
    sequence = project.sequence
    heard = [(h.clip, h.start, h.audible) for h in _all_heard(sequence)]
    hits = [*_all_struck(sequence)]
    clips = [clip for clip, _, _ in (*heard, *hits)]
    # Where moves sound, what they do in the frame decides how loud they are.
    size = sequence.size if hits else None
    places = tuple((start, audible) for _, start, audible in (*heard, *hits))
    plain = (sequence.rate, sequence.length, size, len(heard), places)
    return Dependencies(plain, [*clips, *beside(project, clips, heard=True)])


def sample_at(rate: Rate, frame: int) -> int:
    """The sample at which a frame starts, nearest, halves up."""
    return floor(rate.seconds(frame) * SAMPLE_RATE + Fraction(1, 2))


def _heard(tracks: tuple[Track, ...], shift: int, within: Span) -> Iterator[_Heard]:
    for track in _audible(tracks):
        yield from _heard_of(track.clips, shift, within)


def _heard_of(clips: tuple[Clip, ...], shift: int, within: Span) -> Iterator[_Heard]:
    for clip in clips:
        if not is_played(clip):
            continue
        audible = clip.span.shifted(shift).clipped(within)
        if holds_tracks(clip) and clip.playing.is_plain:
            yield from _heard(clip.tracks, shift + clip.start - clip.offset, audible)
        else:
            yield _Heard(clip, shift + clip.start, audible)


def _struck(tracks: tuple[Track, ...], shift: int, within: Span) -> Iterator[_Struck]:
    for track in _audible(tracks):
        if track.kind == "picture" and not track.hidden:
            yield from _struck_of(track.clips, shift, within)


def _struck_of(clips: tuple[Clip, ...], shift: int, within: Span) -> Iterator[_Struck]:
    """Layers whose moves sound: the frames at which they start and in which they are heard."""
    for clip in clips:
        if not is_layer(clip) or not (sounds(clip) or holds_tracks(clip)):
            continue
        audible = clip.span.shifted(shift).clipped(within)
        if sounds(clip) and audible.length > 0:
            yield clip, shift + clip.start, audible
        if holds_tracks(clip) and clip.playing.is_plain:
            yield from _struck(clip.tracks, shift + clip.start - clip.offset, audible)


def _audible(tracks: tuple[Track, ...]) -> Iterator[Track]:
    alone = any(track.solo for track in tracks)
    return (track for track in tracks if not track.muted and (track.solo or not alone))


_sounding: RecentCache[tuple[tuple[_Heard, ...], tuple[_Struck, ...]]] = RecentCache(512)


def _sounding_of(track: Track) -> tuple[tuple[_Heard, ...], tuple[_Struck, ...]]:
    """What is heard and what is struck on a track of the sequence itself. Kept: each block that is mixed asks
    for it, and of thousands of clips an edit changes a few."""
    clips, whole = track.clips, Span(0, track.length)
    return _sounding.get(
        clips, lambda: (tuple(_heard_of(clips, 0, whole)), tuple(_struck_of(clips, 0, whole)))
    )


def _all_heard(sequence: Sequence) -> Iterator[_Heard]:
    return chain.from_iterable(_sounding_of(track)[0] for track in _audible(sequence.tracks))


def _all_struck(sequence: Sequence) -> Iterator[_Struck]:
    seen = (t for t in _audible(sequence.tracks) if t.kind == "picture" and not t.hidden)
    return chain.from_iterable(_sounding_of(track)[1] for track in seen)


def _add(total: Samples, first: int, heard: _Heard, material: Material, rate: Rate) -> None:
    start = sample_at(rate, heard.start)
    low = max(first, sample_at(rate, heard.audible.start))
    high = min(first + len(total), sample_at(rate, heard.audible.end))
    if low >= high:
        return
    part = played_samples(heard.clip, material, rate, low - start, high - start)
    if is_heard(heard.clip):
        part = part * _levels(heard.clip, rate, low - start, high - start)
    total[low - first : high - first] += part


def _levels(clip: SoundClip | FootageClip, rate: Rate, low: int, high: int) -> NDArray[np.float32]:
    """(n, 2) or (1, 2): factors of both sides over samples counted from the clip's start."""
    sound = clip.sound
    frames = np.arange(low, high, dtype=np.float64) * (float(rate.fraction) / SAMPLE_RATE)
    level = gain_factors(sound.gain, frames)[:, None] * pan_factors(sound.pan, frames)
    if sound.fade_in or sound.fade_out:
        level = level * fade_level(sound, frames, clip.length)[:, None]
    return level.astype(np.float32)
