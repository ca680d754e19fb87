"""The rest place of layers. A channel that has keys gets a key; one that has none changes as a whole."""

from __future__ import annotations

from rovix.edit.channels import channel_value
from rovix.edit.tree import clip_of, replace, replace_clip
from rovix.edit.values import reset_channels, set_channels
from rovix.errors import RovixError
from rovix.model import Clip, Project, Transform
from rovix.model.clip_kinds import is_layer


def change_transform(project: Project, identity: str, frame: int, **values: float) -> Project:
    """Set channels of a layer's place, at a frame of its clip where they are animated."""

    layer_transform(clip_of(project, identity))
    return set_channels(project, identity, frame, {f"transform.{n}": value for n, value in values.items()})


def reset_transform(project: Project, identity: str, *names: str) -> Project:
    """Put channels back to what a new layer has, without keys."""
    return reset_channels(project, identity, [f"transform.{name}" for name in names])


def transform_value(place: Transform, name: str, frame: int) -> float:
    """A channel's rest value at a frame of the clip."""
    return channel_value(getattr(place, name), frame)


def layer_transform(clip: Clip) -> Transform:
    """The place of a layer; RovixError for a sound, which has none."""
    if not is_layer(clip):
        raise RovixError("A sound has no place in the picture.")
    return clip.transform


def set_blend(project: Project, identity: str, mode: str) -> Project:
    """Lay a layer over what is below by another blend mode; see :mod:`rovix.model.blend`."""

    def change(clip: Clip) -> Clip:
        layer_transform(clip)
        return replace(clip, blend=mode)

    return replace_clip(project, identity, change)
