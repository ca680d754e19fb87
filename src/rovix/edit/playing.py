"""How clips run through their material: direction, repetition, speed, standing still."""

from __future__ import annotations

from fractions import Fraction
from math import ceil, floor
from typing import Any

from rovix.edit.clips import split_clip
from rovix.edit.fresh import fresh_ids
from rovix.edit.tree import clip_by_id, free_span, in_order, replace, replace_clip, unlocked_spot, with_track
from rovix.errors import RovixError
from rovix.model import Clip, Playing, Project, TimedClip
from rovix.model.clip_kinds import is_layer, is_played
from rovix.motion.material import material_frame
from rovix.time import pass_length

SLOWEST, FASTEST = 0.01, 100.0


def timed(clip: Clip | None) -> TimedClip:
    """The clip, if it plays material; RovixError else."""
    if not is_played(clip):
        said = (clip.title) if clip is not None else "Nothing"
        raise RovixError(f"'{said}' plays no material of its own; group it first.")
    return clip


def used_frames(clip: TimedClip) -> int:
    """How many frames of its material one pass of a clip shows."""
    return clip.playing.span or max(1, ceil(clip.length * clip.playing.speed))


def play_backwards(project: Project, identity: str) -> Project:
    """Turn a clip round in time; a second time puts it back exactly."""

    def change(clip: Clip) -> Clip:
        playing = timed(clip).playing
        return replace(clip, playing=replace(playing, backwards=not playing.backwards))

    return replace_clip(project, identity, change)


def play_there_and_back(project: Project, identity: str) -> Project:
    """Let a clip play to its end and back to its start, and grow for it as far as there is room.

    A clip that does so already shows its material once again.
    """
    clip = timed(clip_by_id(project, identity))
    playing = _moving(clip).playing
    used = used_frames(clip)
    if playing.and_back:
        once = replace(clip, playing=replace(playing, and_back=False, span=None, lead=0))
        return _resized(project, once, max(1, round(used / playing.speed)))
    turned = replace(clip, playing=replace(playing, and_back=True, span=used))
    return _resized(project, turned, frames_of_times(turned, 1.0))


def play_times(project: Project, identity: str, times: float) -> Project:
    """Let a clip run through its material so many times, and be that long as far as there is room."""
    clip = _moving(timed(clip_by_id(project, identity)))
    repeated = replace(clip, playing=replace(clip.playing, span=used_frames(clip)))
    return _resized(project, repeated, frames_of_times(repeated, times))


def _moving(clip: TimedClip) -> TimedClip:
    if clip.playing.speed == 0:
        raise RovixError(f"'{clip.title}' stands still; give it a speed first.")
    return clip


def frames_of_times(clip: TimedClip, times: float) -> int:
    """Frames of the clip that so many passes take."""
    playing = clip.playing
    going = pass_length(used_frames(clip), playing.and_back) * times
    if playing.and_back:
        going += 1  # the first frame shows once more where it has come back
    return max(1, round(going / (playing.speed or 1)))


def times_of(clip: TimedClip) -> float:
    """How many times a clip runs through its material."""
    playing = clip.playing
    extra = 1 if playing.and_back else 0
    return max(0.0, clip.length * playing.speed - extra) / pass_length(used_frames(clip), playing.and_back)


def set_speed(project: Project, identity: str, speed: float) -> Project:
    """Play a clip at a share of true speed (0.01 to 100): the same material in another length.

    What has no room before the next clip is cut off.
    """
    clip = timed(clip_by_id(project, identity))
    speed = min(max(speed, SLOWEST), FASTEST)
    before = clip.playing.speed or 1.0
    ratio = before / speed
    playing = replace(clip.playing, speed=speed, lead=round(clip.playing.lead * ratio))
    return _resized(project, replace(clip, playing=playing), max(1, round(clip.length * ratio)))


def set_length_by_speed(project: Project, identity: str, frames: int) -> Project:
    """Play a clip's material in so many frames, at the speed that this takes."""
    clip = timed(clip_by_id(project, identity))
    _, high = free_span(_track(project, identity), identity, clip.start)
    frames = max(1, frames if high is None else min(frames, high - clip.start))
    speed = (clip.playing.speed or 1.0) * clip.length / frames
    return set_speed(project, identity, speed)


def freeze(project: Project, identity: str, frame: int, frames: int) -> Project:
    """Hold what a clip shows at a frame of the sequence for so many frames, then let it go on.

    The clip is cut there; what follows on the track moves later by as much.
    """
    clip = timed(clip_by_id(project, identity))
    if frame not in clip.span:
        raise RovixError(f"'{clip.title}' is not under the playhead, so nothing was frozen.")
    shown = material_frame(clip, Fraction(frame - clip.start))
    if frame > clip.start:
        project = split_clip(project, identity, frame)
    number = unlocked_spot(project, identity).track
    clips = []
    for other in project.sequence.tracks[number].clips:
        clips.append(replace(other, start=other.start + frames) if other.start >= frame else other)
    still = _frozen(clip, frame, frames, floor(shown))
    track = replace(project.sequence.tracks[number], clips=in_order((*clips, still)))
    return with_track(project, number, track)


def _frozen(clip: TimedClip, start: int, frames: int, offset: int) -> TimedClip:
    changes: dict[str, Any] = {"moves": (), "transition": None} if is_layer(clip) else {}
    still = fresh_ids(replace(clip, **changes))
    name = f"{clip.name} frozen" if clip.name else ""
    return replace(still, name=name, start=start, length=frames, offset=offset, playing=Playing(speed=0.0))


def _track(project: Project, identity: str) -> Any:
    return project.sequence.tracks[unlocked_spot(project, identity).track]


def _resized(project: Project, clip: TimedClip, frames: int) -> Project:
    """The clip in place of the one with its id, so long as there is room for."""
    _, high = free_span(_track(project, clip.id), clip.id, clip.start)
    length = max(1, frames if high is None else min(frames, high - clip.start))
    return replace_clip(project, clip.id, lambda _: _shorter_fades(replace(clip, length=length)))


def _shorter_fades(clip: Any) -> Any:
    sound = getattr(clip, "sound", None)
    if sound is None or sound.fade_in + sound.fade_out <= clip.length:
        return clip
    fade_in = min(sound.fade_in, clip.length)
    return replace(clip, sound=replace(sound, fade_in=fade_in, fade_out=clip.length - fade_in))
