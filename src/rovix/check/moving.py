"""Checks of how layers move: jumps from frame to frame, turns that seem to stand still, jolts, loops that do
not join."""

from __future__ import annotations

from collections.abc import Iterator

from rovix.check.finding import Finding
from rovix.check.legibility import legibility
from rovix.model import Departure, Keys, MotionPath, PictureClip, Sequence, TextClip
from rovix.model.clip_kinds import has_words, is_layer
from rovix.motion.crossing import counted_speed
from rovix.motion.layer import layer_motion
from rovix.motion.reading import reading, slopes_at
from rovix.time import Rate

JUMP = 0.16
"""Of the frame's width a frame, from which a way falls apart into pictures while something comes or goes;
common practice, no source."""
STEADY = 0.012
"""The same for what goes on at one speed, as what crawls does; common practice, no source: an object that
crosses the frame in less than some three seconds of 25 pictures each judders."""
_TURNS = ("rotation_z", "rotation_x", "rotation_y")
_SOFT = ("blur", "blur_x", "blur_y", "echo")
"""Channels of moves that fill the gaps from picture to picture as motion blur does."""
_WHOLE = 360.0
_LITTLE = 1e-6


def moving_findings(sequence: Sequence) -> Iterator[Finding]:
    """What the layers on a sequence's own tracks have."""
    for track in sequence.tracks:
        if track.kind != "picture" or track.hidden:
            continue
        for clip in track.clips:
            if is_layer(clip):
                yield from layer_findings(clip, sequence)


def layer_findings(clip: PictureClip, sequence: Sequence) -> Iterator[Finding]:
    """What one layer has."""
    rate = sequence.frame_rate
    if has_words(clip):
        yield from _of_speed(clip, sequence, rate)
    yield from _of_keys(clip)
    yield from _of_loops(clip)


def _found(kind: str, clip: PictureClip, frame: int, said: str, amount: float, limit: float) -> Finding:
    return Finding(kind, clip.id, clip.title, frame, said, amount, limit)


def _of_speed(clip: TextClip, sequence: Sequence, rate: Rate) -> Iterator[Finding]:
    blurred = (clip.shutter or sequence.shutter).on or any(
        departure.channel in _SOFT for move in clip.moves if not move.beats_on for departure in move.channels
    )
    if clip.crossing is not None:
        way = layer_motion(clip, sequence.size, rate).crossing
        speed = None if way is None else counted_speed(way, "frame", rate)
        limit = STEADY * sequence.size[0]
        if speed is not None and speed > limit and not blurred:
            said = f"It goes {speed:.0f} px a frame without motion blur."
            yield _found("jump", clip, clip.start, said, speed, limit)
        return
    found = legibility(clip, sequence.size, rate)
    limit = JUMP * sequence.size[0]
    if found.fastest is not None and found.fastest > limit and not blurred:
        said = f"Up to {found.fastest:.0f} px from one frame to the next without motion blur."
        yield _found("jump", clip, clip.start, said, found.fastest, limit)
    if found.seems_still and found.turning is not None:
        said = f"It turns {abs(found.turning):.0f}\N{DEGREE SIGN} a frame, nearly whole turns."
        yield _found("still", clip, clip.start, said, abs(found.turning), _WHOLE)


def _of_keys(clip: PictureClip) -> Iterator[Finding]:
    for name in clip.transform.__struct_fields__:
        held = getattr(clip.transform, name)
        if not isinstance(held, Keys | MotionPath):
            continue
        breaks = reading(held).breaks
        if breaks:
            before, after = slopes_at(held, float(breaks[0]))
            more = f", and at {len(breaks) - 1} more" if len(breaks) > 1 else ""
            said = f"{name.replace('_', ' ')}: {before:.4g} a frame before, {after:.4g} after{more}."
            yield _found("jolt", clip, clip.start + breaks[0], said, abs(after - before), 0.0)


def _of_loops(clip: PictureClip) -> Iterator[Finding]:
    for move in clip.moves:
        if not move.beats_on:
            continue
        for departure in move.channels:
            off = apart(departure)
            if off > _LITTLE:
                said = f"{move.name or 'Its loop'}: {departure.channel.replace('_', ' ')} ends {off:.4g} off."
                yield _found("loop", clip, clip.start, said, off, 0.0)


def apart(departure: Departure) -> float:
    """How far a beat's end is from its beginning, where that is seen as a jump."""
    if len(departure.keys) < 2 or departure.keys[-2].curve == "hold":
        return 0.0
    first, last = departure.keys[0].amount, departure.keys[-1].amount
    off = abs(last.value - first.value)
    if departure.channel in _TURNS:
        off = min(off % _WHOLE, _WHOLE - off % _WHOLE)
    if departure.channel in ("offset_x", "offset_y") and last.unit == "frame":
        off = min(off % 1.0, 1.0 - off % 1.0)
    return off
