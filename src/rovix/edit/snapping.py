"""Frames that a dragged edge catches on."""

from __future__ import annotations

from rovix.model import Project, SoundClip
from rovix.motion import move_spans


def snap_frames(project: Project, playhead: int, without: str | None) -> list[int]:
    """Edges of clips, landing and leaving frames of moves, the playhead and frame 0, sorted."""
    rate = project.sequence.frame_rate
    found = {0, playhead}
    for track in project.sequence.tracks:
        for clip in track.clips:
            if clip.id == without:
                continue
            found |= {clip.start, clip.span.end}
            if not isinstance(clip, SoundClip) and clip.moves:
                spans = move_spans(clip.moves, clip.length, rate)
                found |= {clip.start + spans.entrance, clip.span.end - 1 - spans.exit}
    return sorted(found)


def snapped(frame: int, candidates: list[int], within: float) -> int:
    """The nearest candidate at most `within` frames away, else the frame itself."""
    nearest = min(candidates, key=lambda candidate: abs(candidate - frame), default=frame)
    return nearest if abs(nearest - frame) <= within else frame
