"""Some layers of a sequence alone, over nothing: a title to be laid over a video elsewhere."""

from __future__ import annotations

from collections.abc import Sequence as Several

from rovix.edit.tree import replace, with_sequence
from rovix.errors import RovixError
from rovix.model import Clip, Project, Track
from rovix.model.clip_kinds import is_layer

_CLEAR = "#00000000"


def alone(project: Project, wanted: Several[str]) -> Project:
    """The sequence with those layers alone that have these names or ids, over a clear ground; sounds stay.

    What they follow or fit, and what their edges go by, stays to be followed, unseen. RovixError, with those
    there are, for a name that none has.
    """
    tracks = project.sequence.tracks
    layers = [clip for track in tracks for clip in track.clips if is_layer(clip)]
    for name in wanted:
        if not any(_is(clip, name) for clip in layers):
            known = ", ".join(dict.fromkeys(f"'{clip.title}'" for clip in layers)) or "none"
            raise RovixError(f"There is no layer '{name}'. There are {known}.")
    made = tuple(_only(track, wanted) for track in tracks)
    return with_sequence(project, replace(project.sequence, tracks=made, background=_CLEAR))


def _only(track: Track, wanted: Several[str]) -> Track:
    return replace(track, clips=tuple(_seen(clip, wanted) for clip in track.clips))


def _seen(clip: Clip, wanted: Several[str]) -> Clip:
    """The clip where it is wanted, else so that nothing of it is to be seen; what hangs on it stays put."""
    if not is_layer(clip) or any(_is(clip, name) for name in wanted):
        return clip
    return replace(clip, transform=replace(clip.transform, opacity=0.0))


def _is(clip: Clip, name: str) -> bool:
    return name in (clip.id, clip.name, clip.title)
