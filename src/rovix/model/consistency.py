"""What types cannot say: links, order and overlap. Each problem has its path in the file."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from rovix.curve import easing
from rovix.model.channel import Keys
from rovix.model.move import Departure, Move
from rovix.model.node import Node
from rovix.model.project import Project, Sequence
from rovix.model.track import FootageClip, GroupClip, SoundClip, StillClip, TextClip, Track

_MEDIA_KIND = {FootageClip: ("footage",), StillClip: ("still",), SoundClip: ("sound", "footage")}


@dataclass(frozen=True, slots=True)
class Problem:
    """What is wrong at a place; `path` as in `$.sequences[0].tracks[2]`."""

    path: str
    text: str

    def __str__(self) -> str:
        return f"{self.path}: {self.text}"


def inconsistencies(project: Project) -> list[Problem]:
    """Everything that breaks the project's own rules; empty for a sound project."""
    return [
        *_repeated_ids(project),
        *(problem for at, node in _walk(project, "$") for problem in _of_node(at, node)),
        *(
            problem
            for number, sequence in enumerate(project.sequences)
            for problem in _of_tracks(f"$.sequences[{number}]", sequence.tracks, project)
        ),
    ]


def _walk(value: object, path: str) -> Iterator[tuple[str, Node]]:
    """Every struct below a value with its path."""
    if isinstance(value, tuple):
        for number, item in enumerate(value):
            yield from _walk(item, f"{path}[{number}]")
    elif isinstance(value, Node):
        yield path, value
        for name in value.__struct_fields__:
            if name != "extra":
                yield from _walk(getattr(value, name), f"{path}.{name}")


def _repeated_ids(project: Project) -> Iterator[Problem]:
    seen: dict[str, str] = {}
    for path, node in _walk(project, "$"):
        identity = getattr(node, "id", None)
        if identity is None:
            continue
        if identity in seen:
            yield Problem(f"{path}.id", f"'{identity}' is also the id of {seen[identity]}")
        seen.setdefault(identity, path)


def _of_node(path: str, node: Node) -> Iterator[Problem]:
    if isinstance(node, Keys):
        yield from _not_rising(path, [key.frame for key in node.keys], "frame")
        for number, key in enumerate(node.keys):
            yield from _no_easing(f"{path}.keys[{number}].curve", key.curve)
    elif isinstance(node, Departure):
        yield from _not_rising(path, [key.at for key in node.keys], "at")
        if node.curve is not None:
            yield from _no_easing(f"{path}.curve", node.curve)
        for number, inner in enumerate(node.keys):
            yield from _no_easing(f"{path}.keys[{number}].curve", inner.curve)
    elif isinstance(node, Move):
        yield from _no_easing(f"{path}.piece_curve", node.piece_curve)
        yield from _no_easing(f"{path}.sequence_curve", node.sequence_curve)
    elif isinstance(node, Sequence):
        try:
            node.frame_rate  # noqa: B018 - reading it is the check
        except ValueError as wrong:
            yield Problem(f"{path}.rate", _lowered(str(wrong)))


def _not_rising(path: str, places: list[float] | list[int], name: str) -> Iterator[Problem]:
    for number in range(1, len(places)):
        if places[number] <= places[number - 1]:
            yield Problem(
                f"{path}.keys[{number}].{name}", f"{places[number]} does not come after {places[number - 1]}"
            )


def _no_easing(path: str, text: str) -> Iterator[Problem]:
    try:
        easing(text)
    except ValueError as wrong:
        yield Problem(path, _lowered(str(wrong)))


def _of_tracks(path: str, tracks: tuple[Track, ...], project: Project) -> Iterator[Problem]:
    yield from _parent_problems(path, tracks)
    for number, track in enumerate(tracks):
        here = f"{path}.tracks[{number}]"
        for index, clip in enumerate(track.clips):
            at = f"{here}.clips[{index}]"
            if isinstance(clip, SoundClip) != (track.kind == "sound"):
                kind = type(clip).__struct_config__.tag
                yield Problem(at, f"a {kind} clip does not belong on a {track.kind} track")
            if index and clip.start < track.clips[index - 1].span.end:
                yield Problem(f"{at}.start", f"frame {clip.start} lies inside the clip before it")
            yield from _media_problems(at, clip, project)
            if isinstance(clip, GroupClip):
                yield from _of_tracks(at, clip.tracks, project)


def _media_problems(path: str, clip: object, project: Project) -> Iterator[Problem]:
    if not isinstance(clip, FootageClip | StillClip | SoundClip):
        return
    found = next((media for media in project.media if media.id == clip.media), None)
    if found is None:
        yield Problem(f"{path}.media", f"there is no media with the id '{clip.media}'")
    elif found.kind not in _MEDIA_KIND[type(clip)]:
        yield Problem(f"{path}.media", f"'{found.path}' is {found.kind}, not what this clip plays")


def _parent_problems(path: str, tracks: tuple[Track, ...]) -> Iterator[Problem]:
    layers = {
        clip.id: (f"{path}.tracks[{number}].clips[{index}]", clip)
        for number, track in enumerate(tracks)
        for index, clip in enumerate(track.clips)
        if not isinstance(clip, SoundClip)
    }
    for at, clip in layers.values():
        if clip.parent is None:
            continue
        if clip.parent not in layers:
            yield Problem(f"{at}.parent", f"there is no layer '{clip.parent}' among the same tracks")
        elif clip.id in _ancestors(clip.id, {name: layer.parent for name, (_, layer) in layers.items()}):
            yield Problem(f"{at}.parent", "the layer would follow itself, through the layers it follows")


def _ancestors(start: str, parents: dict[str, str | None]) -> set[str]:
    found: set[str] = set()
    following = parents.get(start)
    while following is not None and following not in found:
        found.add(following)
        following = parents.get(following)
    return found


def used_families(project: Project) -> list[str]:
    """The font families that the project's words ask for, once each."""
    return list(
        dict.fromkeys(node.words.family for _, node in _walk(project, "$") if isinstance(node, TextClip))
    )


def _lowered(sentence: str) -> str:
    return sentence[:1].lower() + sentence[1:].rstrip(".")
