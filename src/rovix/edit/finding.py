"""Finding and replacing in the words of all text layers of a project."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

from rovix.edit.levels import Level
from rovix.edit.own_style import retyped
from rovix.edit.tree import replace
from rovix.errors import RovixError
from rovix.model import Project, TextClip, Track
from rovix.model.clip_kinds import has_words, holds_tracks
from rovix.text import words


@dataclass(frozen=True, slots=True)
class Wanted:
    """What is looked for: a text, in any case or just so, anywhere or as whole words."""

    text: str
    same_case: bool = False
    whole_words: bool = False


@dataclass(frozen=True, slots=True)
class Found:
    """A place: the level and layer, characters `start` to `end` of its words, and whether it is locked."""

    level: Level
    identity: str
    start: int
    end: int
    locked: bool
    text: str


def find_words(project: Project, wanted: Wanted) -> list[Found]:
    """Every place, sequence by sequence and track by track, in groups too."""
    if not wanted.text:
        return []
    return [
        found
        for sequence in project.sequences
        for found in _in_tracks(sequence.tracks, Level(sequence.id), wanted, False)
    ]


def replace_words(
    project: Project, wanted: Wanted, text: str, only: Found | None = None
) -> tuple[Project, int]:
    """The project with places replaced, all or `only` one, and how many were; locked tracks stay.

    Letters keep their styles as they do when words are retyped. RovixError when a text grows
    too long.
    """
    count = 0

    def change(clip: TextClip) -> TextClip:
        nonlocal count
        places = places_in(clip.text.content, wanted)
        if only is not None:
            places = [(only.start, only.end)] if clip.id == only.identity else []
        made = clip.text
        for start, end in reversed(places):
            made = retyped(made, made.content[:start] + text + made.content[end:])
            count += 1
        if len(made.content) > 100_000:
            raise RovixError(f"'{clip.title}' would have more than 100,000 characters.")
        return replace(clip, text=made) if places else clip

    sequences = tuple(
        _with_tracks(sequence, _changed(sequence.tracks, change)) for sequence in project.sequences
    )
    return (replace(project, sequences=sequences), count) if count else (project, 0)


def places_in(text: str, wanted: Wanted) -> list[tuple[int, int]]:
    """Start and end (not included) of each place in a text, none over another."""
    flags = 0 if wanted.same_case else re.IGNORECASE
    found = [match.span() for match in re.finditer(re.escape(wanted.text), text, flags)]
    if not wanted.whole_words:
        return found
    edges, at = {0}, 0
    for word in words(text):
        at += len(word)
        edges.add(at)
    return [(start, end) for start, end in found if start in edges and end in edges]


def _in_tracks(tracks: tuple[Track, ...], level: Level, wanted: Wanted, locked: bool) -> Iterator[Found]:
    for track in tracks:
        shut = locked or track.locked
        for clip in track.clips:
            if has_words(clip):
                for start, end in places_in(clip.text.content, wanted):
                    yield Found(level, clip.id, start, end, shut, clip.text.content)
            elif holds_tracks(clip):
                inside = Level(level.sequence, (*level.groups, clip.id))
                yield from _in_tracks(clip.tracks, inside, wanted, shut)


def _changed(tracks: tuple[Track, ...], change: Callable[[TextClip], TextClip]) -> tuple[Track, ...]:
    return tuple(track if track.locked else _changed_track(track, change) for track in tracks)


def _changed_track(track: Track, change: Callable[[TextClip], TextClip]) -> Track:
    clips: list[Any] = []
    for clip in track.clips:
        if has_words(clip):
            clips.append(change(clip))
        elif holds_tracks(clip):
            clips.append(_with_tracks(clip, _changed(clip.tracks, change)))
        else:
            clips.append(clip)
    same = all(new is old for new, old in zip(clips, track.clips, strict=True))
    return track if same else replace(track, clips=tuple(clips))


def _with_tracks(holder: Any, tracks: tuple[Track, ...]) -> Any:
    same = all(new is old for new, old in zip(tracks, holder.tracks, strict=True))
    return holder if same else replace(holder, tracks=tracks)
