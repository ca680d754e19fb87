"""A crawl or roll as keys, the same on every frame: for what it can no longer be as it is."""

from __future__ import annotations

from math import ceil, floor

from rovix.edit.tree import replace, title_of
from rovix.errors import RovixError
from rovix.model import Key, Keys, PictureClip, Project
from rovix.motion import Scene


def with_keys_for_crossing(project: Project, clip: PictureClip) -> PictureClip:
    """A layer that goes by keys where it crossed the frame; itself where it does not.

    RovixError where its place already goes by keys or a path.
    """
    way = Scene.of(project).motion(clip).crossing
    if way is None:
        return clip
    name = ("x", "y")[way.axis]
    own = getattr(clip.transform, name)
    if isinstance(own, Keys) or clip.transform.path is not None:
        said = "crawls" if way.axis == 0 else "rolls"
        raise RovixError(
            f"'{title_of(clip)}' {said} along keys of its own. Take the one or the other away, then go on."
        )
    # On every whole frame the very same place, also where it arrives between two.
    ends = {way.hold: way.start, way.hold + floor(way.frames): way.start + way.step * floor(way.frames)}
    ends[way.hold + ceil(way.frames)] = way.start + way.step * way.frames
    keys = Keys(keys=tuple(Key(frame=frame, value=own + value) for frame, value in sorted(ends.items())))
    return replace(clip, crossing=None, transform=replace(clip.transform, **{name: keys}))
