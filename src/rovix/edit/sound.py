"""How loud clips are, from where they come, and how they fade."""

from __future__ import annotations

from typing import Any

from rovix.edit.tree import replace, replace_clip
from rovix.errors import RovixError
from rovix.model import Clip, FootageClip, Project, Sound, SoundClip
from rovix.model.clip_kinds import is_heard

HeardClip = SoundClip | FootageClip


def change_sound(project: Project, identity: str, **changes: Any) -> Project:
    """Change fields of a clip's sound: gain, pan, fade_in, fade_out, fade_in_curve, fade_out_curve.

    Fades together are never longer than the clip: the other one gives way.
    """

    def change(sound: Sound, length: int) -> Sound:
        return _with_room(replace(sound, **changes), length, "fade_out" in changes)

    return _with_sound(project, identity, change)


def _with_sound(project: Project, identity: str, change: Any) -> Project:
    def changed(clip: Clip) -> Clip:
        heard = heard_clip(clip)
        return replace(heard, sound=change(heard.sound, heard.length))

    return replace_clip(project, identity, changed)


def heard_clip(clip: Clip) -> HeardClip:
    """The clip, if it makes sound; RovixError else."""
    if not is_heard(clip):
        raise RovixError(f"'{clip.title}' makes no sound.")
    return clip


def _with_room(sound: Sound, length: int, out_leads: bool) -> Sound:
    lead, other = ("fade_out", "fade_in") if out_leads else ("fade_in", "fade_out")
    kept = min(getattr(sound, lead), length)
    return replace(sound, **{lead: kept, other: min(getattr(sound, other), length - kept)})
