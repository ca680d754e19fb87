"""What a hand does to clips in the timeline, as edits."""

from __future__ import annotations

from dataclasses import dataclass, field

from rovix.edit import clip_by_id, set_move_length, trim_end, trim_start
from rovix.edit.clips import slip
from rovix.edit.each import ClipEdit, Left, edited_each
from rovix.edit.selected_clips import copy_clips, move_clips
from rovix.edit.snapping import snapped
from rovix.edit.sound import change_sound
from rovix.edit.transitions import change_transition
from rovix.edit.tree import clip_of
from rovix.model import Clip, Project
from rovix.model.clip_kinds import is_heard, is_layer
from rovix.motion import clip_spans
from rovix.motion.transitions import Joined
from rovix.time import Rate

SNAP_PX = 8
EDGE_PX = 6
TITLES = {
    "move": "Move", "copy": "Copy", "slip": "Slip", "start": "Trim the start of", "end": "Trim the end of",
    "entrance": "Change the entrance of", "exit": "Change the exit of", "fade_in": "Fade in",
    "fade_out": "Fade out", "transition": "Change the transition before",
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class Aim:
    """Where a hand is: a frame, a track, and the frames that an edge within so many catches on."""

    frame: float
    track: int
    marks: list[int]
    within: float


@dataclass(frozen=True, slots=True)
class Gesture:
    """A drag of a clip's `part`; `chosen` are all clips that go with it, `grip` is the frame grabbed."""

    part: str
    clip: str
    chosen: tuple[str, ...]
    grip: float
    track: int
    left: Left = field(default_factory=Left)
    """Those of the chosen clips that the drag does nothing to."""

    def edited(self, project: Project, aim: Aim) -> Project:
        """The project after dragging to where the hand is."""
        return self.made(project, aim)[0]

    def made(self, project: Project, aim: Aim) -> tuple[Project, list[str]]:
        """Like :meth:`edited`, with the ids of the clips that it made."""
        clip = clip_by_id(project, self.clip)
        assert clip is not None
        if self.part in ("move", "copy"):
            by, tracks = self._shift(project, clip, aim)
            if self.part == "copy":
                return copy_clips(project, self.chosen, by, tracks)
            return move_clips(project, self.chosen, by, tracks), []
        return self._changed(project, clip, aim), []

    def _changed(self, project: Project, clip: Clip, aim: Aim) -> Project:
        if self.part == "slip":
            return self._each(project, lambda p, i: slip(p, i, round(self.grip - aim.frame)))
        if self.part == "transition":
            frames = max(1, 2 * round(abs(aim.frame - clip.start)))
            return change_transition(
                project, self.clip, length=float(project.sequence.frame_rate.seconds(frames))
            )
        # An edge goes as far as the hand does, wherever near it the hand took hold.
        at = edge_of(clip, self.part, project.sequence.frame_rate)
        by = snapped(at + round(aim.frame - self.grip), aim.marks, aim.within) - at
        return self._each(project, lambda p, i: _pulled(p, clip_of(p, i), self.part, by))

    def _each(self, project: Project, edit: ClipEdit) -> Project:
        """What is pulled on one clip goes as far on all that are chosen with it."""
        with_it = [i for i in self.chosen if i != self.clip] if self.clip in self.chosen else []
        return edited_each(project, [self.clip, *with_it], edit, self.left)

    def _shift(self, project: Project, clip: Clip, aim: Aim) -> tuple[int, int]:
        """By how many frames and tracks the clips go, either edge of the grabbed one catching on marks."""
        start = max(0, clip.start + round(aim.frame - self.grip))
        by_start = snapped(start, aim.marks, aim.within)
        by_end = snapped(start + clip.length, aim.marks, aim.within) - clip.length
        near = abs(by_start - start) <= abs(by_end - start) and by_start != start
        moved = max(0, by_start if near else by_end)
        return moved - clip.start, self._tracks(project, aim.track)

    def _tracks(self, project: Project, target: int) -> int:
        tracks = project.sequence.tracks
        kind = [number for number, track in enumerate(tracks) if track.kind == tracks[self.track].kind]
        return kind.index(target) - kind.index(self.track) if target in kind else 0


def _pulled(project: Project, clip: Clip, part: str, by: int) -> Project:
    """The project with an edge or grip of a clip so many frames from where it is."""
    target = edge_of(clip, part, project.sequence.frame_rate) + by
    if part == "start":
        return trim_start(project, clip.id, target)
    if part == "end":
        return trim_end(project, clip.id, target)
    if part in ("fade_in", "fade_out"):
        frames = target - clip.start if part == "fade_in" else clip.span.end - target
        return change_sound(project, clip.id, **{part: max(0, frames)})
    length = target - clip.start if part == "entrance" else clip.span.end - 1 - target
    return set_move_length(project, clip.id, part, max(0, length))


def edge_of(clip: Clip, part: str, rate: Rate) -> int:
    """The frame of the sequence at which a part of a clip is grabbed."""
    if part in ("fade_in", "fade_out") and is_heard(clip):
        return clip.start + clip.sound.fade_in if part == "fade_in" else clip.span.end - clip.sound.fade_out
    if part in ("entrance", "exit") and is_layer(clip):
        spans = clip_spans(clip, rate)
        return clip.start + spans.entrance if part == "entrance" else clip.span.end - 1 - spans.exit
    return clip.start if part == "start" else clip.span.end


def part_at(
    clip: Clip, project: Project, frame: float, height: float, px: float, chosen: bool, joined: Joined | None
) -> str:
    """Which part of a clip a hand grabs at a frame and at a share of its height, 0 at the top.

    Grips of a chosen clip's fades lie at its top, those of moves low in it; edges come before moves.
    """
    reach = EDGE_PX / px
    if chosen and is_heard(clip) and height < 0.35:
        sound = clip.sound
        if abs(frame - clip.start - sound.fade_in) <= reach:
            return "fade_in"
        if abs(clip.span.end - sound.fade_out - frame) <= reach:
            return "fade_out"
    if joined is not None and height < 0.5 and abs(frame - joined.span.end) <= reach:
        return "transition"
    if frame - clip.start <= min(reach, clip.length / 3):
        return "start"
    if clip.span.end - frame <= min(reach, clip.length / 3):
        return "end"
    if height > 0.5 and is_layer(clip) and clip.moves:
        spans = clip_spans(clip, project.sequence.frame_rate)
        if spans.entrance and abs(frame - clip.start - spans.entrance) <= reach:
            return "entrance"
        if spans.exit and abs(clip.span.end - 1 - spans.exit - frame) <= reach:
            return "exit"
    return "move"
