"""What types cannot say: links, order and overlap. Each problem has its path in the file."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from functools import cache, lru_cache
from itertools import pairwise
from math import inf
from typing import Any

from rovix.curve import easing
from rovix.model.channel import ColourKey, Key, Keys
from rovix.model.clip_kinds import holds_tracks, is_layer, track_kind
from rovix.model.contour import ContourKey, ContourKeys
from rovix.model.fields import ANIMATED, Animated
from rovix.model.limits import DEEPEST, MOST_CLIPS, MOST_SHOWN
from rovix.model.media import Media, shown_name
from rovix.model.motion_path import PathKey
from rovix.model.move import Departure, InnerKey, Move, Typing
from rovix.model.move_channels import MOVE_CHANNELS
from rovix.model.node import Node
from rovix.model.playing import Playing
from rovix.model.project import Project, Sequence
from rovix.model.references import ROOT, Named, Trail, path_of, references, targets
from rovix.model.sound import Sound
from rovix.model.structure import held_structs
from rovix.model.text import Text
from rovix.model.track import Clip, TextClip, Track
from rovix.model.transition import Transition


@dataclass(frozen=True, slots=True)
class Problem:
    """What is wrong at a place; `path` as in `$.sequences[0].tracks[2]`."""

    path: str
    text: str

    def __str__(self) -> str:
        return f"{self.path}: {self.text}"


def inconsistencies(project: Project) -> list[Problem]:
    """Everything that breaks the project's own rules; empty for a sound project."""
    return [*too_large(project)] or [
        *([] if _is_clean(project) else _of_nodes(project, ROOT)),
        *(problem for at, tracks in _levels(project) for problem in _of_tracks(at, tracks)),
        *_unknown(project, references(project)),
        *_endless_sequences(project),
    ]


def move_problems(move: Move) -> list[Problem]:
    """What is wrong within a move, as for a move of a project."""
    return [*_of_nodes(move, (None, "$.move"))]


def _walk(value: object, trail: Trail) -> Iterator[tuple[Trail, Node]]:
    """Every struct below a value with where it stands, in the order of the file."""
    waiting: list[tuple[Trail, object]] = [(trail, value)]
    while waiting:
        trail, value = waiting.pop()
        if isinstance(value, Node):
            yield trail, value
            for name in reversed(held_structs(type(value))):
                held = getattr(value, name)
                if held.__class__ is not float and held is not None:
                    waiting.append(((trail, name), held))
        elif isinstance(value, tuple):
            waiting += [((trail, number), value[number]) for number in reversed(range(len(value)))]


def _is_clean(project: Project) -> bool:
    """Whether :func:`_of_nodes` would find nothing: without keeping where things stand, which takes most
    of the time in a large project."""
    ids: list[str] = []
    waiting: list[Any] = [project]
    while waiting:
        node = waiting.pop()
        has_id, check, names = _facts_of(node.__class__)
        if has_id:
            ids.append(node.id)
        if check is not None and next(check("", node), None) is not None:
            return False
        for name in names:
            held = getattr(node, name)
            if isinstance(held, Node):
                waiting.append(held)
            elif held.__class__ is tuple:
                waiting += held
    return len(set(ids)) == len(ids)


_Check = Callable[[str, Any], Iterator[Problem]]


@lru_cache(maxsize=512)
def _facts_of(struct: Any) -> tuple[bool, _Check | None, tuple[str, ...]]:
    """Whether a struct has an id, what checks it, and the fields in which there are structs."""
    if not issubclass(struct, Node):
        return False, None, ()
    return "id" in struct.__struct_fields__, _CHECKS.get(struct), tuple(held_structs(struct))


def _of_nodes(value: Node, start: Trail) -> Iterator[Problem]:
    """What each struct breaks by itself, and ids that stand twice."""
    seen: dict[str, Trail] = {}
    for trail, node in _walk(value, start):
        identity = getattr(node, "id", None)
        if identity is not None:
            first = seen.setdefault(identity, trail)
            if first is not trail:
                said = f"'{identity}' is also the id of {path_of(first)}"
                yield Problem(f"{path_of(trail)}.id", said)
        check = _CHECKS.get(type(node))
        if check is not None:
            for problem in check("", node):
                yield Problem(path_of(trail) + problem.path, problem.text)


def _of_words(path: str, words: Text) -> Iterator[Problem]:
    """Dressings stand in order inside the text and do not overlap."""
    at = 0
    for number, style in enumerate(words.styles):
        here = f"{path}.styles[{number}]"
        if not style.start < style.end <= len(words.content):
            yield Problem(here, f"it is no part of a text of {len(words.content)} characters")
        elif style.start < at:
            yield Problem(f"{here}.start", f"{style.start} lies in the style before it")
        at = max(at, style.end)


def _of_keys(path: str, node: Animated) -> Iterator[Problem]:
    yield from _not_rising(path, [key.frame for key in node.keys], "frame")
    yield from _key_curves(path, node.keys)
    if isinstance(node, ContourKeys) and len({len(key.value) for key in node.keys}) > 1:
        yield Problem(path, "its keys have not all as many points")


def _of_transition(path: str, node: Transition) -> Iterator[Problem]:
    yield from _no_easing(f"{path}.curve", node.curve)


def _of_playing(path: str, node: Playing) -> Iterator[Problem]:
    if node.and_back and node.span is None:
        yield Problem(f"{path}.span", "playing there and back needs a span to turn back from")


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
        yield from _no_easing(f"{path}.order_curve", node.order_curve)


def _of_units(path: str, departure: Departure) -> Iterator[Problem]:
    """Some units say nothing of some channels."""
    for amount in (departure.amount, *(key.amount for key in departure.keys)):
        meant = _channels_of(amount.unit)
        if meant and departure.channel not in meant:
            said = f"'{amount.unit}' is a unit of {' and '.join(meant)}, not of {departure.channel}"
            yield Problem(f"{path}.amount.unit", said)


@cache
def _channels_of(unit: str) -> tuple[str, ...]:
    """The channels that alone have a unit; none for a unit of all lengths."""
    return tuple(name for name, row in MOVE_CHANNELS.items() if unit in row.units)


def _key_curves(
    path: str, keys: Iterable[Key | ColourKey | PathKey | ContourKey | InnerKey]
) -> Iterator[Problem]:
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
    wrong = _wrong_easing(text)
    if wrong:
        yield Problem(path, wrong)


@lru_cache(maxsize=1024)
def _wrong_easing(text: str) -> str:
    try:
        easing(text)
    except ValueError as wrong:
        return _lowered(str(wrong))
    return ""


def _levels(project: Project) -> Iterator[tuple[Trail, tuple[Track, ...]]]:
    """The tracks of every sequence, and of every group in them, with what they stand in."""
    for number, sequence in enumerate(project.sequences):
        yield from _level(((ROOT, "sequences"), number), sequence.tracks)


def _level(trail: Trail, tracks: tuple[Track, ...]) -> Iterator[tuple[Trail, tuple[Track, ...]]]:
    yield trail, tracks
    for number, track in enumerate(tracks):
        for index, clip in enumerate(track.clips):
            if holds_tracks(clip):
                yield from _level(_clip_at(trail, number, index), clip.tracks)


def _clip_at(trail: Trail, track: int, index: int) -> Trail:
    return (((trail, "tracks"), track), "clips"), index


def _of_tracks(trail: Trail, tracks: tuple[Track, ...]) -> Iterator[Problem]:
    yield from _link_problems(trail, tracks)
    for number, track in enumerate(tracks):
        for index, clip in enumerate(track.clips):
            at = _clip_at(trail, number, index)
            if track_kind(clip) != track.kind:
                kind = type(clip).__struct_config__.tag
                yield Problem(path_of(at), f"a {kind} clip does not belong on a {track.kind} track")
            if index and clip.start < track.clips[index - 1].span.end:
                yield Problem(f"{path_of(at)}.start", f"frame {clip.start} lies inside the clip before it")


def _unknown(project: Project, named: list[Named]) -> Iterator[Problem]:
    """Files and sequences that the project does not have, and files that what names them cannot play."""
    media = {item.id: item for item in project.media}
    sequences = {sequence.id for sequence in project.sequences}
    for name in named:
        if name.reference.kind == "media":
            yield from _file_problems(name, media.get(name.target))
        elif name.reference.kind == "sequence" and name.target not in sequences:
            yield Problem(name.path, f"there is no sequence '{name.target}' to show")


def _file_problems(named: Named, found: Media | None) -> Iterator[Problem]:
    reference = named.reference
    if found is None:
        ours = f"; ours are {', '.join(sorted(reference.own))}" if reference.own else ""
        what = "sound" if reference.own else "media with the id"
        yield Problem(named.path, f"there is no {what} '{named.target}'{ours}")
    elif found.kind not in reference.files:
        said = f"'{shown_name(found.path)}' is {found.kind}, not what this clip plays"
        yield Problem(named.path, said)
    elif reference.heard and found.kind == "footage" and not found.has_sound:
        yield Problem(named.path, f"'{shown_name(found.path)}' has no sound")


def _link_problems(trail: Trail, tracks: tuple[Track, ...]) -> Iterator[Problem]:
    """Layers name other layers of the same tracks; where their places come from runs in no circle."""
    layers = {
        clip.id: (clip, _clip_at(trail, number, index))
        for number, track in enumerate(tracks)
        for index, clip in enumerate(track.clips)
        if is_layer(clip)
    }
    depths = following_depths(clip for clip, _ in layers.values())
    if max(depths.values(), default=0) < inf:
        yield from _too_long_a_chain(trail, depths)
    for identity, (clip, at) in layers.items():
        for named in _named_by(clip, at) if targets(clip, "layer", inner=False) else ():
            reference = named.reference
            if named.target == identity:
                yield Problem(named.path, f"the layer would {reference.verb} itself")
            elif named.target not in layers:
                yield Problem(named.path, f"there is no layer '{named.target}' among the same tracks")
            elif reference.places and depths[identity] == inf:
                said = f"the layer would {reference.verb} itself, through the layers it follows"
                yield Problem(named.path, said)


def _too_long_a_chain(trail: Trail, depths: dict[str, float]) -> Iterator[Problem]:
    deepest = max(depths, key=lambda identity: depths[identity], default="")
    if depths and depths[deepest] > DEEPEST:
        said = f"'{deepest}' follows through {depths[deepest]:.0f} layers; at most {DEEPEST} are possible"
        yield Problem(path_of(trail), said)


def _named_by(clip: Clip, trail: Trail) -> list[Named]:
    """The layers that a clip names, those inside a group left out."""
    return references(clip, "layer", trail, inner=False)


def followed_by(clip: Clip) -> list[str]:
    """The ids of the layers that decide where a layer rests."""
    if not targets(clip, "layer", inner=False):
        return []
    return [n.target for n in references(clip, "layer", inner=False) if n.reference.places]


def following_depths(clips: Iterable[Clip]) -> dict[str, float]:
    """How many layers each layer's rest hangs on, one through the other; inf where it hangs on itself."""
    links = {clip.id: followed_by(clip) for clip in clips}
    depths: dict[str, float] = {}
    for start in links:
        _set_depths(start, links, depths)
    return depths


def _set_depths(start: str, links: dict[str, list[str]], depths: dict[str, float]) -> None:
    """Depths of a layer and all below it, without recursion: chains may be long in a bad file."""
    way = [start]
    while way:
        here = way[-1]
        if here in depths and depths[here] != -1:
            way.pop()
            continue
        below = [other for other in links[here] if other in links]
        if here in depths:  # all below it are known by now, but for those it hangs in a circle with
            depths[here] = max((inf if depths[o] == -1 else depths[o] + 1 for o in below), default=0)
            way.pop()
            continue
        depths[here] = -1
        way += [other for other in below if other not in depths]


def sequences_under(project: Project, identity: str) -> set[str]:
    """The ids of all sequences that a sequence shows, through others too, and its own."""
    inside = {sequence.id: targets(sequence, "sequence") for sequence in project.sequences}
    found, waiting = set(), [identity]
    while waiting:
        here = waiting.pop()
        if here not in found:
            found.add(here)
            waiting += inside.get(here, ())
    return found


def too_large(project: Project) -> Iterator[Problem]:
    """What goes beyond the limits of what a project can hold (:mod:`rovix.model.limits`)."""
    clips = sum(_clip_count(sequence.tracks) for sequence in project.sequences)
    if clips > MOST_CLIPS:
        yield Problem("$", f"it has {clips} clips; at most {MOST_CLIPS} are possible")
    for number, sequence in enumerate(project.sequences):
        depth = _group_depth(sequence.tracks)
        if depth > DEEPEST:
            said = f"its groups stand {depth} deep in each other; at most {DEEPEST} are possible"
            yield Problem(f"$.sequences[{number}]", said)
    yield from _too_much_shown(project)


def _inner_tracks(tracks: tuple[Track, ...]) -> list[tuple[Track, ...]]:
    return [clip.tracks for track in tracks for clip in track.clips if holds_tracks(clip)]


def _clip_count(tracks: tuple[Track, ...]) -> int:
    return sum(len(track.clips) for track in tracks) + sum(map(_clip_count, _inner_tracks(tracks)))


def _group_depth(tracks: tuple[Track, ...]) -> int:
    """How many groups stand in each other, at most; without recursion, as a bad file may hold any number."""
    depth, level = 0, _inner_tracks(tracks)
    while level:
        depth, level = depth + 1, [inner for tracks in level for inner in _inner_tracks(tracks)]
    return depth


def _too_much_shown(project: Project) -> Iterator[Problem]:
    """Sequences in sequences: how deep, and how many clips all in all, counted as often as shown."""
    own = {sequence.id: _clip_count(sequence.tracks) for sequence in project.sequences}
    shown = {sequence.id: targets(sequence, "sequence") for sequence in project.sequences}
    counts, level = Counter(own), 0
    while level <= DEEPEST:
        wider = Counter({i: own[i] + sum(counts.get(inner, 0) for inner in shown[i]) for i in own})
        if wider == counts:
            break
        counts, level = wider, level + 1
    circles = any(s.id in sequences_under(project, i) for s in project.sequences for i in {*shown[s.id]})
    if circles:  # which is named as such
        return
    for number, sequence in enumerate(project.sequences):
        if counts[sequence.id] > MOST_SHOWN:
            said = f"it shows {counts[sequence.id]} clips through the sequences in it; at most {MOST_SHOWN}"
            yield Problem(f"$.sequences[{number}]", f"{said} are possible")
    if level > DEEPEST:
        yield Problem("$.sequences", f"they show each other more than {DEEPEST} deep")


def _endless_sequences(project: Project) -> Iterator[Problem]:
    for number, sequence in enumerate(project.sequences):
        below = set(targets(sequence, "sequence"))
        if any(sequence.id in sequences_under(project, inner) for inner in below):
            yield Problem(f"$.sequences[{number}]", f"'{sequence.name}' would show itself")


def used_families(project: Project) -> list[str]:
    """Every typeface family that text layers name, or parts of their words, in order, once each."""
    words = [node.text for _, node in _walk(project, ROOT) if isinstance(node, TextClip)]
    named = (name for own in words for name in (own.family, *(d.family for d in own.styles)))
    return list(dict.fromkeys(name for name in named if name is not None))


def _lowered(sentence: str) -> str:
    return sentence[:1].lower() + sentence[1:].rstrip(".")


_CHECKS: dict[type[Node], _Check] = {
    Text: _of_words,
    **dict.fromkeys(ANIMATED, _of_keys),
    **dict.fromkeys((Departure, Typing, Move), _of_move),
    Transition: _of_transition,
    Sound: _of_sound,
    Playing: _of_playing,
    Sequence: _of_sequence,
}
