"""What a hand does to clips in the timeline, as edits."""

from __future__ import annotations

from dataclasses import dataclass

from rovix.edit import clip_by_id, move_clip, set_move_length, trim_end, trim_start
from rovix.edit.snapping import snap_frames, snapped
from rovix.model import Clip, Project, SoundClip
from rovix.motion import move_spans

SNAP_PX = 8
EDGE_PX = 6
TITLES = {
    "move": "Move", "start": "Trim the start of", "end": "Trim the end of",
    "entrance": "Change the entrance of", "exit": "Change the exit of",
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class Gesture:
    """A drag of a clip: `part` is move, start, end, entrance or exit; `grip` is the frame grabbed."""

    part: str
    clip: str
    grip: float
    track: int

    def edited(self, project: Project, frame: float, track: int, playhead: int, within: float) -> Project:
        """The project after dragging to a frame and track; edges catch within that many frames."""
        clip = clip_by_id(project, self.clip)
        assert clip is not None
        marks = snap_frames(project, playhead, self.clip)
        if self.part == "move":
            return self._moved(project, clip, frame, track, marks, within)
        target = snapped(round(frame), marks, within)
        if self.part == "start":
            return trim_start(project, self.clip, target)
        if self.part == "end":
            return trim_end(project, self.clip, target)
        length = target - clip.start if self.part == "entrance" else clip.span.end - 1 - target
        return set_move_length(project, self.clip, self.part, max(0, length))

    def _moved(
        self, project: Project, clip: Clip, frame: float, track: int, marks: list[int], within: float
    ) -> Project:
        start = max(0, clip.start + round(frame - self.grip))
        by_start = snapped(start, marks, within)
        by_end = snapped(start + clip.length, marks, within) - clip.length
        moved = by_start if abs(by_start - start) <= abs(by_end - start) and by_start != start else by_end
        target = project.sequence.tracks[track]
        fitting = (target.kind == "sound") == isinstance(clip, SoundClip) and not target.locked
        return move_clip(project, self.clip, max(0, moved), track if fitting else self.track)


def part_at(clip: Clip, project: Project, frame: float, low: bool, px: float) -> str:
    """Which part of a clip a hand grabs at a frame; grips lie low in the clip, edges come first."""
    reach = EDGE_PX / px
    if frame - clip.start <= min(reach, clip.length / 3):
        return "start"
    if clip.span.end - frame <= min(reach, clip.length / 3):
        return "end"
    if low and not isinstance(clip, SoundClip) and clip.moves:
        spans = move_spans(clip.moves, clip.length, project.sequence.frame_rate)
        if spans.entrance and abs(frame - clip.start - spans.entrance) <= reach:
            return "entrance"
        if spans.exit and abs(clip.span.end - 1 - spans.exit - frame) <= reach:
            return "exit"
    return "move"
