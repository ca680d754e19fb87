"""What types cannot say: links, order and overlap. Each problem has its path in the file."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from itertools import pairwise

from rovix.curve import easing
from rovix.model.channel import ColourKey, Key, Keys
from rovix.model.fields import ANIMATED
from rovix.model.join import Join
from rovix.model.move import OWN_RUSHES, OWN_STRIKES, Departure, InnerKey, Move, Typing
from rovix.model.node import Node
from rovix.model.path import PathKey
from rovix.model.playing import Playing
from rovix.model.project import Project, Sequence
from rovix.model.sound import Sound
from rovix.model.track import (
    FootageClip,
    GroupClip,
    SequenceClip,
    ShapeClip,
    SoundClip,
    StillClip,
    TextClip,
    Track,
)
from rovix.model.treatment import Wipe
from rovix.model.words import Words

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
        *_endless_sequences(project),
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


def move_problems(move: Move) -> list[Problem]:
    """What is wrong within a move, as for a move of a project."""
    return [problem for path, node in _walk(move, "$.move") for problem in _of_node(path, node)]


def _repeated_ids(project: Project) -> Iterator[Problem]:
    seen: dict[str, str] = {}
    for path, node in _walk(project, "$"):
        identity = getattr(node, "id", None)
        if identity is None:
            continue
        if identity in seen:
            yield Problem(f"{path}.id", f"'{identity}' is also the id of {seen[identity]}")
        seen.setdefault(identity, path)


def _of_words(path: str, words: Words) -> Iterator[Problem]:
    """Dressings stand in order inside the text and do not overlap."""
    at = 0
    for number, dressing in enumerate(words.dressings):
        here = f"{path}.dressings[{number}]"
        if not dressing.start < dressing.end <= len(words.text):
            yield Problem(here, f"it is no part of a text of {len(words.text)} characters")
        elif dressing.start < at:
            yield Problem(f"{here}.start", f"{dressing.start} lies in the dressing before it")
        at = max(at, dressing.end)


def _of_node(path: str, node: Node) -> Iterator[Problem]:
    if isinstance(node, Words):
        yield from _of_words(path, node)
    if isinstance(node, ANIMATED):
        yield from _not_rising(path, [key.frame for key in node.keys], "frame")
        yield from _key_curves(path, node.keys)
    elif isinstance(node, Departure | Typing | Move):
        yield from _of_move(path, node)
    elif isinstance(node, Join):
        yield from _no_easing(f"{path}.curve", node.curve)
    elif isinstance(node, Sound):
        yield from _of_sound(path, node)
    elif isinstance(node, Playing) and node.and_back and node.span is None:
        yield Problem(f"{path}.span", "playing there and back needs a span to turn back from")
    elif isinstance(node, Sequence):
        yield from _of_sequence(path, node)


def _of_move(path: str, node: Departure | Typing | Move) -> Iterator[Problem]:
    if isinstance(node, Departure):
        yield from _not_rising(path, [key.at for key in node.keys], "at")
        yield from _no_easing(f"{path}.curve", node.curve or "linear")
        yield from _key_curves(path, node.keys)
        yield from _of_units(path, node)
    elif isinstance(node, Typing):
        if any(after <= before for before, after in pairwise(node.taps)):
            yield Problem(f"{path}.taps", "they do not rise, as seconds from the first tap do")
    else:
        yield from _no_easing(f"{path}.piece_curve", node.piece_curve)
        yield from _no_easing(f"{path}.sequence_curve", node.sequence_curve)


_UNITS_OF = {"off-frame": ("x", "y"), "number": ("figures",)}


def _of_units(path: str, departure: Departure) -> Iterator[Problem]:
    """Some units say nothing of some channels."""
    for amount in (departure.amount, *(key.amount for key in departure.keys)):
        meant = _UNITS_OF.get(amount.unit)
        if meant is not None and departure.channel not in meant:
            said = f"'{amount.unit}' is a unit of {' and '.join(meant)}, not of {departure.channel}"
            yield Problem(f"{path}.amount.unit", said)


def _key_curves(path: str, keys: Iterable[Key | ColourKey | PathKey | InnerKey]) -> Iterator[Problem]:
    for number, key in enumerate(keys):
        yield from _no_easing(f"{path}.keys[{number}].curve", key.curve)


def _of_sound(path: str, sound: Sound) -> Iterator[Problem]:
    yield from _no_easing(f"{path}.fade_in_curve", sound.fade_in_curve)
    yield from _no_easing(f"{path}.fade_out_curve", sound.fade_out_curve)
    for name, low, high in (("gain", -120, 60), ("pan", -1, 1)):
        channel = getattr(sound, name)
        for number, key in enumerate(channel.keys if isinstance(channel, Keys) else ()):
            if not low <= key.value <= high:
                where = f"{path}.{name}.keys[{number}].value"
                yield Problem(where, f"{key.value} does not lie from {low} to {high}")


def _of_sequence(path: str, sequence: Sequence) -> Iterator[Problem]:
    try:
        sequence.frame_rate  # noqa: B018 - reading it is the check
    except ValueError as wrong:
        yield Problem(f"{path}.rate", _lowered(str(wrong)))
    frames = [marker.frame for marker in sequence.markers]
    if frames != sorted(frames):
        yield Problem(f"{path}.markers", "they do not stand in order of their frames")


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
    yield from _link_problems(path, tracks)
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
            yield from _move_sound_problems(at, clip, project)
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


def _move_sound_problems(path: str, clip: object, project: Project) -> Iterator[Problem]:
    """Moves sound with sounds of ours, or with files of the project that have sound."""
    heard = {media.id for media in project.media if media.kind == "sound" or media.has_sound}
    for number, move in enumerate(getattr(clip, "moves", ())):
        for name, own in (("strike", OWN_STRIKES), ("whoosh", OWN_RUSHES)):
            part = getattr(move, name)
            if part is not None and part.sound not in own | heard:
                at = f"{path}.moves[{number}].{name}.sound"
                yield Problem(at, f"there is no sound '{part.sound}'; ours are {', '.join(sorted(own))}")


_LINKS = {"parent": "follow", "hug": "hug"}


def _link_problems(path: str, tracks: tuple[Track, ...]) -> Iterator[Problem]:
    """Layers follow or hug layers of the same tracks, never themselves."""
    layers = {
        clip.id: (f"{path}.tracks[{number}].clips[{index}]", clip)
        for number, track in enumerate(tracks)
        for index, clip in enumerate(track.clips)
        if not isinstance(clip, SoundClip)
    }
    links = {identity: layer_links(clip) for identity, (_, clip) in layers.items()}
    for identity, (at, clip) in layers.items():
        yield from _of_rides(at, identity, clip, set(layers))
        for field, target in links[identity].items():
            if target not in layers:
                yield Problem(f"{at}.{field}", f"there is no layer '{target}' among the same tracks")
            elif identity in _reached(target, links):
                yield Problem(
                    f"{at}.{field}", f"the layer would {_LINKS[field]} itself, through the layers it follows"
                )


def _of_rides(at: str, identity: str, clip: object, layers: set[str]) -> Iterator[Problem]:
    """Wipes ride other layers of the same tracks."""
    for number, treatment in enumerate(getattr(clip, "treatments", ())):
        target = treatment.ride.layer if isinstance(treatment, Wipe) and treatment.ride else None
        where = f"{at}.treatments[{number}].ride.layer"
        if target == identity:
            yield Problem(where, "the wipe would ride its own layer")
        elif target is not None and target not in layers:
            yield Problem(where, f"there is no layer '{target}' among the same tracks")


def layer_links(clip: object) -> dict[str, str]:
    """The ids of the layers that a layer's place comes from, by the field that names them."""
    found = {}
    parent = getattr(clip, "parent", None)
    if parent is not None:
        found["parent"] = parent
    if isinstance(clip, ShapeClip) and clip.hug is not None:
        found["hug"] = clip.hug.layer
    return found


def _reached(start: str, links: dict[str, dict[str, str]]) -> set[str]:
    found, waiting = set(), [start]
    while waiting:
        here = waiting.pop()
        if here not in found:
            found.add(here)
            waiting += links.get(here, {}).values()
    return found


def sequences_in(tracks: tuple[Track, ...]) -> set[str]:
    """The ids of the sequences that are clips on these tracks, or in groups on them."""
    found: set[str] = set()
    for track in tracks:
        for clip in track.clips:
            if isinstance(clip, SequenceClip):
                found.add(clip.sequence)
            elif isinstance(clip, GroupClip):
                found |= sequences_in(clip.tracks)
    return found


def sequences_under(project: Project, identity: str) -> set[str]:
    """The ids of all sequences that a sequence shows, through others too, and its own."""
    inside = {sequence.id: sequences_in(sequence.tracks) for sequence in project.sequences}
    found, waiting = set(), [identity]
    while waiting:
        here = waiting.pop()
        if here not in found:
            found.add(here)
            waiting += inside.get(here, ())
    return found


def _endless_sequences(project: Project) -> Iterator[Problem]:
    known = {sequence.id for sequence in project.sequences}
    for number, sequence in enumerate(project.sequences):
        for inner in sorted(sequences_in(sequence.tracks)):
            if inner not in known:
                yield Problem(f"$.sequences[{number}]", f"there is no sequence '{inner}' to show in it")
            elif sequence.id in sequences_under(project, inner):
                yield Problem(f"$.sequences[{number}]", f"'{sequence.name}' would show itself")


def used_families(project: Project) -> list[str]:
    """Every typeface family that text layers name, or parts of their words, in order, once each."""
    words = [node.words for _, node in _walk(project, "$") if isinstance(node, TextClip)]
    named = (name for own in words for name in (own.family, *(d.family for d in own.dressings)))
    return list(dict.fromkeys(name for name in named if name is not None))


def _lowered(sentence: str) -> str:
    return sentence[:1].lower() + sentence[1:].rstrip(".")
