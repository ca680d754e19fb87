"""Layers put behind a thing in footage: a copy of the footage, cut out by a matte, over them."""

from __future__ import annotations

from collections.abc import Iterable

from rovix.edit.fresh import fresh_ids
from rovix.edit.importing import with_media
from rovix.edit.tree import clip_by_id, clip_of, replace, spot_of, title_of, unlocked_spot, with_sequence
from rovix.errors import RovixError
from rovix.model import FootageClip, GroupClip, Media, Project, Sound, Track, new_id
from rovix.model.clip_kinds import is_layer
from rovix.model.effects.matte import Matte, Through
from rovix.model.references import targets


def put_behind(project: Project, layers: Iterable[str], footage: str, matte: Media) -> tuple[Project, str]:
    """Let layers pass behind what a matte shows of the footage under them: a group with a copy of it that
    shows through the matte, on a track right above the highest of them, as long as they and the footage are
    seen together; and the group's id.

    RovixError where a layer does not lie over the footage, or is never seen with it.
    """
    film = clip_of(project, footage)
    if not isinstance(film, FootageClip):
        raise RovixError(f"'{title_of(film)}' is no footage; nothing can be cut out of it.")
    start, end, number = _together(project, tuple(layers), film)
    project, known = with_media(project, matte)
    group = replace(_group(film, known), start=start, length=end - start, offset=start - film.start)
    tracks = project.sequence.tracks
    track = Track(id=new_id(), name="In front", clips=(group,))
    tracks = (*tracks[: number + 1], track, *tracks[number + 1 :])
    return with_sequence(project, replace(project.sequence, tracks=tracks)), group.id


def _together(project: Project, layers: tuple[str, ...], film: FootageClip) -> tuple[int, int, int]:
    """From which frame to which (not included) layers and footage are seen together, and the highest
    track."""
    if not layers:
        raise RovixError("Select the words that are to pass behind something first.")
    below = spot_of(project, film.id).track
    spans, numbers = [], []
    for identity in layers:
        clip, number = clip_of(project, identity), unlocked_spot(project, identity).track
        if not is_layer(clip) or number <= below:
            raise RovixError(f"'{title_of(clip)}' does not lie over the footage; move its track above that.")
        start, end = max(clip.start, film.start), min(clip.end, film.end)
        if start >= end:
            raise RovixError(f"'{title_of(clip)}' is never seen together with the footage.")
        spans.append((start, end))
        numbers.append(number)
    return min(start for start, _ in spans), max(end for _, end in spans), max(numbers)


def _group(film: FootageClip, matte: Media) -> GroupClip:
    """The footage's copy, its matte hidden above it; tied and laid over as the footage is."""
    alone = replace(film, start=0, parent=None, transition=None, blend="normal", sound=Sound())
    shape = replace(fresh_ids(alone), name="Matte", media=matte.id, effects=())
    copy = fresh_ids(alone)
    through = Matte(through=Through(layer=shape.id, at="light"))
    copy = replace(copy, name=f"{film.title}, cut out", effects=(*copy.effects, through))
    tracks = (
        Track(id=new_id(), name="Cut out", clips=(copy,), muted=True),
        Track(id=new_id(), name="Matte", clips=(shape,), muted=True, hidden=True),
    )
    return GroupClip(
        id=new_id(),
        name="In front",
        tracks=tracks,
        parent=film.parent,
        blend=film.blend,
        shutter=film.shutter,
    )


def cut_out_in(project: Project, identity: str | None) -> Media | None:
    """The matte of a group that :func:`put_behind` made, or of a clip in one; None where it has none."""
    mattes = [item for item in project.media if item.cut_out is not None]
    clip = clip_by_id(project, identity) if mattes else None
    named = set(targets(clip, "media")) if clip is not None else set()
    return next((item for item in mattes if item.id in named), None)


def change_matte(project: Project, old: Media, new: Media) -> Project:
    """Let another matte take the place of one, wherever that is shown."""
    media = tuple(
        replace(new, id=old.id, name=old.name) if item.id == old.id else item for item in project.media
    )
    return replace(project, media=media)
