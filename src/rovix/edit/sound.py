"""How loud clips are, from where they come, and how they fade."""

from __future__ import annotations

from typing import Any

from rovix.edit.channels import channel_value, set_channel, with_key, without_key
from rovix.edit.tree import replace, replace_clip
from rovix.errors import RovixError
from rovix.model import Clip, FootageClip, Keys, Project, Sound, SoundClip

HeardClip = SoundClip | FootageClip


def change_sound(project: Project, identity: str, **changes: Any) -> Project:
    """Change fields of a clip's sound: gain, pan, fade_in, fade_out, fade_in_curve, fade_out_curve.

    Fades together are never longer than the clip: the other one gives way.
    """

    def change(sound: Sound, length: int) -> Sound:
        return _with_room(replace(sound, **changes), length, "fade_out" in changes)

    return _with_sound(project, identity, change)


def set_sound(project: Project, identity: str, frame: int, **values: float) -> Project:
    """Set gain (dB) or pan (-1 to 1), at a frame of the clip where they are animated."""

    def change(sound: Sound, _length: int) -> Sound:
        set_to = {name: set_channel(getattr(sound, name), frame, value) for name, value in values.items()}
        return replace(sound, **set_to)

    return _with_sound(project, identity, change)


def toggle_key(project: Project, identity: str, name: str, frame: int) -> Project:
    """Set a key of gain or pan at a frame of the clip, or take the one there away."""

    def change(sound: Sound, _length: int) -> Sound:
        channel = getattr(sound, name)
        here = isinstance(channel, Keys) and any(key.frame == frame for key in channel.keys)
        value = channel_value(channel, frame)
        return replace(
            sound, **{name: without_key(channel, frame) if here else with_key(channel, frame, value)}
        )

    return _with_sound(project, identity, change)


def _with_sound(project: Project, identity: str, change: Any) -> Project:
    def changed(clip: Clip) -> Clip:
        heard = heard_clip(clip)
        return replace(heard, sound=change(heard.sound, heard.length))

    return replace_clip(project, identity, changed)


def heard_clip(clip: Clip) -> HeardClip:
    """The clip, if it makes sound; RovixError else."""
    if not isinstance(clip, HeardClip):
        raise RovixError(f"'{clip.name or clip.id}' makes no sound.")
    return clip


def _with_room(sound: Sound, length: int, out_leads: bool) -> Sound:
    lead, other = ("fade_out", "fade_in") if out_leads else ("fade_in", "fade_out")
    kept = min(getattr(sound, lead), length)
    return replace(sound, **{lead: kept, other: min(getattr(sound, other), length - kept)})
