"""How loud clips are, and how they fade."""

from __future__ import annotations

from typing import Any

from rovix.edit.tree import replace, replace_clip
from rovix.errors import RovixError
from rovix.model import Clip, FootageClip, Project, SoundClip


def change_sound(project: Project, identity: str, **changes: Any) -> Project:
    """Change gain (dB) of a sound or footage, or fade_in, fade_out (frames) of a sound.

    Fades together are never longer than the clip: the other one gives way.
    """

    def change(clip: Clip) -> Clip:
        if not isinstance(clip, SoundClip | FootageClip):
            raise RovixError(f"'{clip.name or clip.id}' makes no sound.")
        changed = replace(clip, **changes)
        return _with_room(changed, "fade_out" in changes) if isinstance(changed, SoundClip) else changed

    return replace_clip(project, identity, change)


def _with_room(clip: SoundClip, out_leads: bool) -> SoundClip:
    lead, other = ("fade_out", "fade_in") if out_leads else ("fade_in", "fade_out")
    length = min(getattr(clip, lead), clip.length)
    return replace(clip, **{lead: length, other: min(getattr(clip, other), clip.length - length)})
