"""The rest place of layers. A channel that has keys gets a key; one that has none changes as a whole."""

from __future__ import annotations

import numpy as np

from rovix.edit.tree import replace, replace_clip
from rovix.errors import RovixError
from rovix.model import Channel, Clip, Key, Keys, Place, Project, SoundClip
from rovix.motion.rest import channel_at


def change_place(project: Project, identity: str, frame: int, **values: float) -> Project:
    """Set channels of a layer's place, at a frame of its clip where they are animated."""

    def change(clip: Clip) -> Clip:
        place = _place(clip)
        changes = {name: _set(getattr(place, name), frame, value) for name, value in values.items()}
        return replace(clip, place=replace(place, **changes))

    return replace_clip(project, identity, change)


def reset_place(project: Project, identity: str, *names: str) -> Project:
    """Put channels back to what a new layer has, without keys."""
    fresh = Place()
    changes = {name: getattr(fresh, name) for name in names}
    return replace_clip(project, identity, lambda clip: replace(clip, place=replace(_place(clip), **changes)))


def place_value(place: Place, name: str, frame: int) -> float:
    """A channel's rest value at a frame of the clip."""
    return float(channel_at(getattr(place, name), np.array([float(frame)]))[0])


def _set(channel: Channel, frame: int, value: float) -> Channel:
    if not isinstance(channel, Keys):
        return float(value)
    kept = [key for key in channel.keys if key.frame != frame]
    here = next((key for key in channel.keys if key.frame == frame), None)
    before = [key for key in kept if key.frame < frame]
    # A new key goes on with the curve of the one before it.
    curve = here.curve if here else (before[-1].curve if before else "linear")
    key = Key(frame=frame, value=float(value), curve=curve)
    return replace(channel, keys=tuple(sorted([*kept, key], key=lambda k: k.frame)))


def _place(clip: Clip) -> Place:
    if isinstance(clip, SoundClip):
        raise RovixError("A sound has no place in the picture.")
    return clip.place
