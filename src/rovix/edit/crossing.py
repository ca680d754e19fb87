"""Crawls and rolls of layers: set, changed, taken away, and clips as long as they need."""

from __future__ import annotations

from typing import Any

from rovix.edit.clips import trim_end
from rovix.edit.transform import layer_transform
from rovix.edit.tree import clip_of, replace, replace_clip, title_of
from rovix.errors import RovixError
from rovix.model import Clip, Crossing, Project
from rovix.model.crossing import Counted
from rovix.motion import Scene
from rovix.motion.crossing import CrossingWay, counted_speed


def set_crossing(project: Project, identity: str, **changes: Any) -> Project:
    """Let a layer cross the frame, or change how it does; it keeps what is not said."""

    def change(clip: Clip) -> Clip:
        layer_transform(clip)
        own: Crossing = getattr(clip, "crossing", None) or Crossing()
        return replace(clip, crossing=replace(own, **changes))

    return replace_clip(project, identity, change)


def start_at(project: Project, identity: str, at: float | None) -> Project:
    """Let a crossing start so many px from where the layer rests; None: off the frame."""
    return set_crossing(project, identity, from_rest=at is not None, start=at or 0.0)


def end_at(project: Project, identity: str, at: float | None) -> Project:
    """Let a crossing end so many px from where the layer rests; None: off the frame."""
    return set_crossing(project, identity, to_rest=at is not None, end=at or 0.0)


def give_crossing(project: Project, identity: str, crossing: Crossing | None) -> Project:
    """Let a layer cross the frame in one way, or stand where it rests."""

    def change(clip: Clip) -> Clip:
        layer_transform(clip)
        return replace(clip, crossing=crossing)

    return replace_clip(project, identity, change)


def remove_crossing(project: Project, identity: str) -> Project:
    """Let a layer stand where it rests."""

    def change(clip: Clip) -> Clip:
        if getattr(clip, "crossing", None) is None:
            raise RovixError(f"'{clip.title}' neither crawls nor rolls.")
        return replace(clip, crossing=None)

    return replace_clip(project, identity, change)


def keep_speed(project: Project, identity: str, counted: Counted = "second") -> Project:
    """Let a layer keep the speed that it has now, counted so, whatever its words and its clip become.

    RovixError for words a minute where it has no words.
    """
    speed = counted_speed(_way(project, identity), counted, project.sequence.frame_rate)
    if speed is None:
        raise RovixError(f"'{title_of(clip_of(project, identity))}' has no words; count its speed in px.")
    return set_crossing(project, identity, speed=max(0.001, round(speed, 3)), counted=counted)


def lengthen_for_crossing(project: Project, identity: str) -> Project:
    """Let a clip last until its layer is across at its speed; RovixError where another is in the way."""
    clip, way = clip_of(project, identity), _way(project, identity)
    made = trim_end(project, identity, clip.start + way.needed + 1)
    if clip_of(made, identity).length < way.needed + 1:
        raise RovixError(f"There is no room for a longer '{title_of(clip)}'. Move the clip behind it first.")
    return made


def _way(project: Project, identity: str) -> CrossingWay:
    clip: Any = clip_of(project, identity)
    way = Scene.of(project).motion(clip).crossing if getattr(clip, "crossing", None) is not None else None
    if way is None:
        raise RovixError(f"'{title_of(clip)}' neither crawls nor rolls.")
    return way
