"""Frames that a dragged edge catches on."""

from __future__ import annotations

from collections.abc import Collection

from rovix.edit.address import animated_of
from rovix.model import Clip, Project
from rovix.model.clip_kinds import is_layer
from rovix.motion import clip_spans
from rovix.time import Rate


def snap_frames(
    project: Project, playhead: int, without: Collection[str] = (), keys: bool = True
) -> list[int]:
    """Edges of clips, landing and leaving frames of moves, markers, the playhead, frame 0, and `keys` where
    asked for; sorted."""
    rate = project.sequence.frame_rate
    found = {0, playhead, *(marker.frame for marker in project.sequence.markers)}
    for track in project.sequence.tracks:
        for clip in track.clips:
            if clip.id not in without:
                found |= _frames_of(clip, rate, keys)
    return sorted(found)


def _frames_of(clip: Clip, rate: Rate, keys: bool) -> set[int]:
    found = {clip.start, clip.span.end}
    if not is_layer(clip):
        return found
    if clip.moves:
        spans = clip_spans(clip, rate)
        found |= {clip.start + spans.entrance, clip.span.end - 1 - spans.exit}
    if not keys:
        return found
    return found | {clip.start + frame for frame in key_frames(clip) if 0 <= frame < clip.length}


def key_frames(clip: Clip) -> set[int]:
    """The frames of a clip on which any of its channels has a key."""
    return {key.frame for held in animated_of(clip).values() for key in held.keys}


def snapped(frame: int, candidates: list[int], within: float) -> int:
    """The nearest candidate at most `within` frames away, else the frame itself."""
    nearest = min(candidates, key=lambda candidate: abs(candidate - frame), default=frame)
    return nearest if abs(nearest - frame) <= within else frame
