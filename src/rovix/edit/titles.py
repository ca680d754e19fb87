"""Titles: made of layers, filled with other words, put into a sequence."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from pathlib import Path
from typing import Any

from rovix.edit.clips import put_or_above
from rovix.edit.fresh import fresh_ids
from rovix.edit.importing import with_media
from rovix.edit.media_paths import with_base
from rovix.edit.paste import copied
from rovix.edit.sequences import by_value
from rovix.edit.text import with_words
from rovix.edit.title_fit import bends_of, bent
from rovix.edit.tree import clip_of, replace, replace_clip, with_sequence
from rovix.errors import RovixError
from rovix.model import BackgroundClip, Clip, GroupClip, Media, Project, Sequence, StillClip, Track, new_id
from rovix.model.clip_kinds import has_words, is_layer
from rovix.model.colours_used import used_colours
from rovix.model.on_track import every_clip
from rovix.model.references import renamed
from rovix.model.title import Setting, Title
from rovix.model.title_use import SetLayer, TitleUse
from rovix.time import Rate

LENGTH = "length"
"""The setting that every title has: how long it is, in seconds."""
_ROOT = Path("/")
_IN_LAYERS = ("words", "file")
"""The kinds of settings whose value can be read from the layers that say or show it."""
_NAMED = 28
_COLOURS = 4


def made_title(project: Project, identities: Iterable[str], base: Path, group: str = "") -> Title:
    """A title of clips, with the words of each text layer to be set; its media by paths from `base`.

    RovixError without a layer, and for clips that show another sequence.
    """
    small = with_base(copied(project, tuple(identities), base), _ROOT, base)
    clips = [clip for track in small.sequence.tracks for clip in track.clips]
    if not any(is_layer(clip) for clip in clips):
        raise RovixError("Select the layers of the title first; sounds alone are none.")
    own = replace(
        project.sequence, id="title", name="Title", tracks=small.sequence.tracks, markers=(), guides=()
    )
    bends = bends_of(clips, own.size)
    return Title(group=group, sequence=own, media=small.media, settings=settings_of(clips), bends=bends)


def settings_of(clips: Iterable[Clip]) -> tuple[Setting, ...]:
    """The words of each text layer, those in groups too, named by its name or by what it says, the pictures,
    the families of letters and the colours; no name twice."""
    clips = tuple(every_clip((Track(id="clips", clips=tuple(clips)),)))
    made: list[Setting] = []

    def add(said: str, **fields: Any) -> None:
        taken = {setting.name for setting in made} | {LENGTH}
        name, number = said, 2
        while name in taken:
            name, number = f"{said} {number}", number + 1
        made.append(Setting(name=name, **fields))

    texts = [clip for clip in clips if has_words(clip)]
    for clip in texts:
        said = " ".join((clip.name or clip.text.content).split())[:_NAMED].strip()
        add(said or "Words", layers=(clip.id,))
    for still in (clip for clip in clips if isinstance(clip, StillClip)):
        add(still.name or "Picture", kind="file", layers=(still.id,))
    for family in dict.fromkeys(clip.text.family for clip in texts):
        own = tuple(clip.id for clip in texts if clip.text.family == family)
        add("Typeface", kind="family", layers=own, now=family)
    ground = used_colours(_alone(()))
    # What moves may use, such as a caret that is not shown, is none that anyone sees.
    resting = tuple(replace(clip, moves=()) if is_layer(clip) else clip for clip in clips)
    own_colours = dict.fromkeys(
        colour[:7] for colour in used_colours(_alone(resting)) if colour not in ground
    )
    for colour in list(own_colours)[:_COLOURS]:
        add("Colour", kind="colour", now=colour)
    return tuple(made)


def _alone(clips: tuple[Clip, ...]) -> Project:
    """A project of clips and nothing else."""
    track = Track(id="clips", clips=clips)
    return Project(sequences=(Sequence(id="title", tracks=(track,)),))


def filled(
    title: Title, values: Mapping[str, str], file_of: Callable[[str], Media] | None = None,
    like: tuple[int, int] | None = None,
) -> Title:  # fmt: skip
    """The title with what is given set, by the names of its settings or `length` (seconds), and its layers
    bent to fit, in a frame of the shape of `like` (px) if one is given.

    `file_of` gives the facts of a file by its path. RovixError for a name that it does not have, a length
    or a colour that is none, a file where none can be set."""
    return bent(title, with_values(title, values, file_of), like)


def with_values(
    title: Title, values: Mapping[str, str], file_of: Callable[[str], Media] | None = None
) -> Title:
    """The title with what is given set and nothing bent; errors as of :func:`filled`."""
    project = title.project
    known = {setting.name: setting for setting in title.settings}
    for name, value in values.items():
        if name == LENGTH:
            project = _as_long(project, _seconds(value))
        elif name in known:
            project = _SET[known[name].kind](project, known[name], value, file_of)
        else:
            names = ", ".join(f"'{setting.name}'" for setting in title.settings)
            raise RovixError(f"The title has nothing called '{name}' to set. It has {names or 'nothing'}.")
    return replace(title, sequence=project.sequence, media=project.media)


def put_title(
    project: Project, name: str, title: Title, start: int, track: int | None = None,
    values: Mapping[str, str] | None = None,
) -> tuple[Project, str]:  # fmt: skip
    """Put a title into the sequence as a group from a frame on, on a track or above all pictures; and its id.

    Its media are by paths as the project's are; `values` are what it was filled with, which the group
    remembers. It keeps its frames: where its own frame is of another size, it is scaled to fit into this one.
    """
    project, group = title_group(project, name, title, start, values or {})
    if track is not None:
        return put_or_above(project, track, group, "Titles"), group.id
    fresh = Track(id=new_id(), name="Titles", clips=(group,))
    own = project.sequence.tracks
    above = [number for number, other in enumerate(own) if other.kind == "picture"]
    at = above[-1] + 1 if above else 0
    return with_sequence(project, replace(project.sequence, tracks=(*own[:at], fresh, *own[at:]))), group.id


def title_group(
    project: Project, name: str, title: Title, start: int, values: Mapping[str, str]
) -> tuple[Project, GroupClip]:
    """A title as a group from a frame on, and the project with its files."""
    names: dict[str, str] = {}
    for file in title.media:
        project, known = with_media(project, renamed(file, names))
        names[file.id] = known.id
    share = min(one / own for one, own in zip(project.sequence.size, title.sequence.size, strict=True))
    group = GroupClip(
        id=new_id(), name=name, start=start, length=max(1, title.sequence.length),
        tracks=_reaching(title.sequence.tracks, share), made_of=_use(name, title, values, round(share, 4)),
    )  # fmt: skip
    if share != 1:
        place = replace(group.transform, scale_x=round(share, 4), scale_y=round(share, 4))
        group = replace(group, transform=place)
    return project, renamed(fresh_ids(group), names)


def _reaching(tracks: tuple[Track, ...], share: float) -> tuple[Track, ...]:
    """Grounds fill the frame, however large the group is shown that they are in."""

    def whole(clip: Clip) -> Clip:
        if not isinstance(clip, BackgroundClip) or share == 1:
            return clip
        place = clip.transform
        wide, high = (by_value(c, lambda v: v / share) for c in (place.scale_x, place.scale_y))
        return replace(clip, transform=replace(place, scale_x=wide, scale_y=high))

    return tuple(replace(t, clips=tuple(map(whole, t.clips))) for t in tracks)


def _use(called: str, title: Title, values: Mapping[str, str], scale: float) -> TitleUse:
    own = {setting.name for setting in title.settings if setting.kind in _IN_LAYERS}
    layers = tuple(
        SetLayer(setting=setting.name, layer=layer)
        for setting in title.settings if setting.kind in _IN_LAYERS for layer in setting.layers
    )  # fmt: skip
    other = tuple((name, value) for name, value in values.items() if name not in own)
    return TitleUse(name=called, version=title.version, scale=scale, layers=layers, values=other)


def updated(project: Project, identity: str, title: Title) -> Project:
    """The group that was made of a title made anew of it as it now is: it keeps its place, its time and all
    that is done to it as a whole, its words and files where the title still has them."""
    group = clip_of(project, identity)
    use = getattr(group, "made_of", None)
    if not isinstance(group, GroupClip) or use is None:
        raise RovixError(f"'{group.title}' was not made of a title.")
    said, shown = _said(project, group, use)
    known = {setting.name for setting in title.settings}
    values = {name: value for name, value in (*use.values, *said.items()) if name in known}
    files = {name: file for name, file in shown.items() if name in known}
    title = as_long_as(title, group.length, project.sequence.frame_rate)
    done = filled(title, values | {n: n for n in files}, files.__getitem__, project.sequence.size)
    project, made = title_group(project, use.name, done, group.start, dict(use.values))
    assert made.made_of is not None
    again = made.made_of.scale / use.scale
    scales = {n: by_value(getattr(group.transform, n), again.__mul__) for n in ("scale_x", "scale_y")}
    place = replace(group.transform, **scales)
    fresh = replace(group, tracks=made.tracks, made_of=made.made_of, transform=place)
    return replace_clip(project, identity, lambda _: fresh)


def as_long_as(title: Title, frames: int, rate: Rate) -> Title:
    """The title so many frames of a rate long; as it is where that is too short for what comes one after the
    other."""
    try:
        return with_values(title, {LENGTH: f"{float(rate.seconds(frames)):.6f}"})
    except RovixError:
        return title


def _said(project: Project, group: GroupClip, use: TitleUse) -> tuple[dict[str, str], dict[str, Media]]:
    """What the layers say and show that the title's settings set."""
    layers = {clip.id: clip for clip in every_clip(group.tracks)}
    media = {item.id: item for item in project.media}
    said: dict[str, str] = {}
    shown: dict[str, Media] = {}
    for held in use.layers:
        clip = layers.get(held.layer)
        if clip is not None and has_words(clip):
            said.setdefault(held.setting, clip.text.content)
        elif isinstance(clip, StillClip) and clip.media in media:
            shown.setdefault(held.setting, media[clip.media])
    return said, shown


def _seconds(value: str) -> float:
    try:
        seconds = float(value.replace(",", "."))
    except ValueError:
        raise RovixError(f"'{value}' is no length; write seconds, as in 3.5.") from None
    if not 0 < seconds <= 86_400:
        raise RovixError(f"A title of {value} s cannot be made; take more than 0 and up to a day.")
    return seconds


def _as_long(project: Project, seconds: float) -> Project:
    """What lasts to the title's end lasts to its new end; what would begin behind it is refused."""
    sequence = project.sequence
    before, after = sequence.length, max(1, sequence.frame_rate.frames(seconds))
    latest = max((c.start for t in sequence.tracks for c in t.clips), default=0)
    if latest >= after:
        raise RovixError(f"The title needs more than {latest} frames: a layer begins only there.")

    def stretched(clip: Clip) -> Clip:
        reaches = clip.end == before or clip.end > after
        return replace(clip, length=after - clip.start) if reaches else clip

    tracks = tuple(replace(t, clips=tuple(map(stretched, t.clips))) for t in sequence.tracks)
    return with_sequence(project, replace(sequence, tracks=tracks))


def _set_words(project: Project, setting: Setting, value: str, _: object) -> Project:
    return _changed(project, setting.layers, lambda clip: with_words(clip, content=value))


def _changed(project: Project, layers: tuple[str, ...], change: Callable[[Clip], Clip]) -> Project:
    """The project with layers changed, wherever in groups they are; the tracks need not be free."""

    def each(tracks: tuple[Track, ...]) -> tuple[Track, ...]:
        return tuple(replace(t, clips=tuple(map(changed, t.clips))) for t in tracks)

    def changed(clip: Clip) -> Clip:
        made = change(clip) if clip.id in layers else clip
        return replace(made, tracks=each(made.tracks)) if isinstance(made, GroupClip) else made

    return with_sequence(project, replace(project.sequence, tracks=each(project.sequence.tracks)))


def _set_colour(project: Project, setting: Setting, value: str, _: object) -> Project:
    if not _is_colour(value):
        raise RovixError(f"'{value}' is no colour for '{setting.name}'; write #rrggbb.")
    return _everywhere(project, setting.now.lower(), value.lower())


def _set_family(project: Project, setting: Setting, value: str, _: object) -> Project:
    return _changed(project, setting.layers, lambda clip: with_words(clip, family=value))


def _set_file(
    project: Project, setting: Setting, value: str, file_of: Callable[[str], Media] | None
) -> Project:
    if file_of is None:
        raise RovixError(f"No file can be set for '{setting.name}' here.")
    project, known = with_media(project, file_of(value))
    return _changed(
        project, setting.layers, lambda clip: renamed(clip, {str(getattr(clip, "media", "")): known.id})
    )


_SET: dict[str, Callable[..., Project]] = {
    "words": _set_words, "colour": _set_colour, "family": _set_family, "file": _set_file,
}  # fmt: skip


def _is_colour(text: str) -> bool:
    return len(text) == 7 and text[0] == "#" and all(c in "0123456789abcdefABCDEF" for c in text[1:])


def _everywhere(project: Project, old: str, new: str) -> Project:
    """One colour in place of another, its own opacity kept, wherever the layers have it."""
    tracks = _recoloured(project.sequence.tracks, old, new)
    return with_sequence(project, replace(project.sequence, tracks=tracks))


def _recoloured(value, old: str, new: str):  # type: ignore[no-untyped-def]
    if isinstance(value, str):
        return new + value[7:] if value[:7].lower() == old and _is_colour(value[:7]) else value
    if isinstance(value, tuple):
        return tuple(_recoloured(item, old, new) for item in value)
    if not hasattr(value, "__struct_fields__"):
        return value
    kept = {"extra", "content", "id", "name"}
    made = {n: _recoloured(getattr(value, n), old, new) for n in value.__struct_fields__ if n not in kept}
    changed = {
        n: item for n, item in made.items() if item is not getattr(value, n) and item != getattr(value, n)
    }
    return replace(value, **changed) if changed else value
