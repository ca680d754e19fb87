"""What the moves of a layer sound like: strikes as pieces start or land, a rush that follows the speed."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass
from math import ceil

import numpy as np
from numpy.typing import NDArray

from rovix.media.own_sounds import own_sound, own_speed_sound
from rovix.media.samples import SAMPLE_RATE, Material, resampled
from rovix.media.sound_names import PIECE_SOUNDS, SPEED_SOUNDS
from rovix.model import PictureClip, PieceSound, Sequence, SpeedSound
from rovix.model.identity import IdentityCache
from rovix.motion import LayerMotion, layer_motion
from rovix.motion.profile import move_speed
from rovix.motion.random import draws
from rovix.time import Rate

Samples = NDArray[np.float32]
Floats = NDArray[np.float64]
SoundOf = Callable[[str], Material | None]
_LONGEST = 4 * SAMPLE_RATE  # of a strike's file, all that is struck
_STEPS = 4  # pitches within a semitone
_EDGE = 0.004  # seconds in which a rush comes and goes at least


@dataclass(frozen=True, slots=True, eq=False)
class Hits:
    """Strikes of one move: frames of the clip, rising; factors, and pitches in quarters of a semitone."""

    piece_sound: PieceSound
    frames: Floats
    levels: Floats
    pitches: NDArray[np.int64]


@dataclass(frozen=True, slots=True, eq=False)
class Rush:
    """A sound of one move from a frame of the clip on, as loud as `levels` (n,) say."""

    speed_sound: SpeedSound
    start: int
    levels: Floats


Sounding = tuple[list[Hits], list[Rush]]
_sounding: IdentityCache[Sounding] = IdentityCache()


def sounds(clip: PictureClip) -> bool:
    """Whether a layer's moves sound."""
    return any(move.piece_sound is not None or move.speed_sound is not None for move in clip.moves)


def sounding(clip: PictureClip, sequence: Sequence) -> Sounding:
    """What sounds of a layer in a sequence, kept as long as the clip lives."""
    size, rate = sequence.size, sequence.frame_rate
    return _sounding.get(clip, lambda: _made(layer_motion(clip, size, rate), rate), (size, rate))


def add_move_sounds(
    total: Samples,
    first: int,
    clip: PictureClip,
    start: int,
    sequence: Sequence,
    sound_of: SoundOf,
    high: int,
) -> None:
    """Add a layer's strikes and rushes to samples from `first` on; it starts at frame `start`, and
    what begins at sample `high` or later is not heard."""
    strikes, rushes = sounding(clip, sequence)
    rate = sequence.frame_rate
    for hits in strikes:
        at = _samples(start + hits.frames, rate)
        _add_hits(total, first, hits, at, sound_of, high)
    for rush in rushes:
        sound = _rush(rush.speed_sound, len(rush.levels), sound_of)
        if sound is not None:
            begins = int(_samples(np.array(start + rush.start), rate))
            part = sound * rush.levels[: len(sound), None].astype(np.float32)
            _add(total, begins - first, part[: max(0, high - begins)])


def _samples(frames: Floats, rate: Rate) -> NDArray[np.int64]:
    """The samples nearest to frames of the sequence, halves up."""
    return np.floor(frames * SAMPLE_RATE / float(rate.fraction) + 0.5).astype(np.int64)


def _made(motion: LayerMotion, rate: Rate) -> Sounding:
    strikes, rushes = [], []
    for index, timing in enumerate(motion.timings):
        if timing.move.piece_sound is not None:
            strikes.append(_hits_of(motion, index, timing.move.piece_sound))
        if timing.move.speed_sound is not None:
            rushes.append(_rushing(motion, index, timing.move.speed_sound, rate))
    return strikes, rushes


def _hits_of(motion: LayerMotion, index: int, piece_sound: PieceSound) -> Hits:
    """One for each piece that has ink; those of a loop once a beat."""
    timing = motion.timings[index]
    inked = np.unique(timing.owners[np.isfinite(motion.subject.ink[:, 0])])
    times = timing.times
    moments = (times.starts if piece_sound.at == "start" else times.ends)[inked]
    if timing.beats is not None:
        beat = timing.beats.beat
        # Beats shorter than a frame are no beats any more; one strike a frame is enough of them.
        count = max(1, min(round(timing.beats.length / beat), ceil(timing.beats.length)))
        beat = max(beat, timing.beats.length / count)
        late = beat / 2 if piece_sound.at == "landing" else 0.0
        moments = (times.starts[inked][:, None] + late + beat * np.arange(count)).reshape(-1)
    frames = np.sort(timing.start + moments)
    sides = _sides(piece_sound.seed, len(frames))
    levels = 10.0 ** ((piece_sound.gain + sides[0] * piece_sound.level_spread) / 20)
    pitches = np.rint(sides[1] * piece_sound.pitch_spread * _STEPS).astype(np.int64)
    return Hits(piece_sound, frames, levels, pitches)


def _sides(seed: int, count: int) -> Floats:
    """(2, count) in -1..1: for each strike a draw of its level and one of its pitch."""
    drawn = draws(seed, np.arange(2)[:, None], np.arange(count)) >> np.uint64(11)
    return np.asarray(drawn.astype(np.float64) * 2.0**-52 - 1.0)


def _add_hits(
    total: Samples, first: int, hits: Hits, at: NDArray[np.int64], sound_of: SoundOf, high: int
) -> None:
    sound = _hit_sound(hits.piece_sound.sound, sound_of)
    if sound is None:
        return
    # A pitch an octave down takes twice as long.
    longest = len(sound) * 2.0 ** (hits.piece_sound.pitch_spread / 12)
    low = np.searchsorted(at, first - longest - 1)
    end = np.searchsorted(at, min(first + len(total), high))
    for number in range(int(low), int(end)):
        pitched = _pitched(sound, int(hits.pitches[number]))
        _add(total, int(at[number]) - first, pitched * np.float32(hits.levels[number]))


_heads: OrderedDict[int, tuple[Material, Samples]] = OrderedDict()


def _hit_sound(name: str, sound_of: SoundOf) -> Samples | None:
    """An own sound, or the beginning of a file: the same array for the same file."""
    if name in PIECE_SOUNDS:
        return own_sound(name)[:_LONGEST]
    found = sound_of(name)
    if found is None:
        return None
    kept = _heads.get(id(found))
    if kept is None or kept[0] is not found:
        kept = _heads[id(found)] = (found, found.read(0, min(len(found), _LONGEST)))
        while len(_heads) > 16:
            _heads.popitem(last=False)
    return kept[1]


def _add(total: Samples, at: int, part: Samples) -> None:
    low, high = max(0, at), min(len(total), at + len(part))
    if low < high:
        total[low:high] += part[low - at : high - at]


_pitched_kept: OrderedDict[tuple[int, int], tuple[Samples, Samples]] = OrderedDict()


def _pitched(sound: Samples, steps: int) -> Samples:
    """A strike's sound with its pitch moved by quarters of a semitone, as a tape does."""
    key = (id(sound), steps)
    kept = _pitched_kept.get(key)
    if kept is None or kept[0] is not sound:
        rate = round(SAMPLE_RATE * 2.0 ** (steps / _STEPS / 12))
        kept = sound, sound if steps == 0 else resampled(sound, rate)
        _pitched_kept[key] = kept
        while len(_pitched_kept) > 256:
            _pitched_kept.popitem(last=False)
    return kept[1]


def _rushing(motion: LayerMotion, index: int, speed_sound: SpeedSound, rate: Rate) -> Rush:
    """As loud as the move is fast: its fastest moment has the gain, its end is silent."""
    timing = motion.timings[index]
    span = timing.span if timing.beats is None else timing.beats.length
    start, speeds = move_speed(motion, index)
    per_frame = SAMPLE_RATE / float(rate.fraction)
    count = max(0, int(np.floor(span * per_frame + 0.5)))
    at = (np.arange(count) / per_frame + timing.start - start[0]) / max(1e-9, start[-1] - start[0])
    levels = np.interp(at, np.linspace(0.0, 1.0, len(speeds)), speeds) if count else np.zeros(0)
    edge = np.minimum(np.arange(count), np.arange(count)[::-1]) / (_EDGE * SAMPLE_RATE)
    return Rush(speed_sound, timing.start, levels * np.clip(edge, 0.0, 1.0) * 10.0 ** (speed_sound.gain / 20))


def _rush(speed_sound: SpeedSound, count: int, sound_of: SoundOf) -> Samples | None:
    """(count, 2) or fewer: an own rush, or a file from its start on."""
    if speed_sound.sound in SPEED_SOUNDS:
        return own_speed_sound(speed_sound.sound, count)
    found = sound_of(speed_sound.sound)
    return None if found is None else found.read(0, min(count, len(found)))
