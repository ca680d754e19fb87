"""Layers that follow another layer's place."""

from __future__ import annotations

from math import inf

import numpy as np
from numpy.typing import NDArray

from rovix.edit.arrange import picture_layer
from rovix.edit.transform import change_transform, transform_value
from rovix.edit.tree import clip_by_id, replace, replace_clip, title_of
from rovix.errors import RovixError
from rovix.model import Clip, PictureClip, Project, constant
from rovix.model.clip_kinds import is_layer
from rovix.model.consistency import followed_by, following_depths
from rovix.model.limits import DEEPEST
from rovix.motion import Scene
from rovix.motion.scene import world_of

Floats = NDArray[np.float64]


def follow(project: Project, identity: str, followed: str | None, frame: int) -> Project:
    """Let a layer follow another (None: none any more), standing still at the frame given.

    Its turn and scale go along where what it follows only moves, turns in the plane and scales evenly;
    animated channels are left as they are. RovixError where it would follow itself, or through too many.
    """
    clip = picture_layer(project, identity)
    scene = Scene.of(project)
    before = world_of(scene, clip, frame)
    made = replace_clip(project, identity, lambda c: replace(c, parent=followed))
    if followed is not None:
        _check_chain(made, clip, followed)
    now = picture_layer(made, identity)
    after = world_of(Scene.of(made), now, frame)
    return _kept_in_place(made, now, frame, np.linalg.pinv(after) @ before)


def _check_chain(made: Project, clip: PictureClip, followed: str) -> None:
    name, other = (f"'{title_of(picture_layer(made, identity))}'" for identity in (clip.id, followed))
    depth = max(following_depths(layers_of(made)).values(), default=0)
    if depth == inf:
        raise RovixError(f"{other} hangs on {name} itself, so {name} cannot follow it; free {other} first.")
    if depth > DEEPEST:
        raise RovixError(
            f"{name} cannot follow {other}: layers follow through at most {DEEPEST} others. Follow one "
            "nearer to the first."
        )


def _kept_in_place(project: Project, clip: PictureClip, frame: int, change: Floats) -> Project:
    place = clip.transform
    at = min(max(0, frame - clip.start), clip.length - 1)
    spot = np.array([transform_value(place, name, at) for name in ("x", "y", "z")] + [1.0])
    x, y, depth, _ = (change @ spot).tolist()
    values = {"x": x, "y": y, "z": depth}
    scale = float(np.hypot(change[0, 0], change[1, 0]))
    values["rotation_z"] = transform_value(place, "rotation_z", at) + float(
        np.degrees(np.arctan2(change[1, 0], change[0, 0]))
    )
    for name in ("scale_x", "scale_y"):
        values[name] = transform_value(place, name, at) * scale
    plain = {
        name: round(value, 6)
        for name, value in values.items()
        if constant(getattr(place, name)) is not None and abs(value - transform_value(place, name, at)) > 1e-9
    }
    return change_transform(project, clip.id, at, **plain) if plain else project


def layers_of(project: Project, without: str | None = None) -> list[PictureClip]:
    """All layers of the open tracks, or all but one."""
    clips = (clip for track in project.sequence.tracks for clip in track.clips)
    return [clip for clip in clips if is_layer(clip) and clip.id != without]


def followable(project: Project, identity: str) -> list[PictureClip]:
    """The layers that a layer can follow: those that do not hang on it themselves."""
    found = []
    for track in project.sequence.tracks:
        for clip in track.clips:
            if is_layer(clip) and not _hangs_on(project, clip, identity):
                found.append(clip)
    return found


def _hangs_on(project: Project, clip: Clip, identity: str) -> bool:
    waiting, seen = [clip], set()
    while waiting:
        here = waiting.pop()
        if here.id == identity:
            return True
        seen.add(here.id)
        others = (clip_by_id(project, target) for target in followed_by(here))
        waiting += [other for other in others if other is not None and other.id not in seen]
    return False
