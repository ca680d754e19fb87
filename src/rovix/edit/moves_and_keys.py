"""A move written out as keys, and keys that begin or end at rest made a move."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from rovix.curve import TANGENTS
from rovix.edit.address import held_at, put_held
from rovix.edit.transform import layer_transform
from rovix.edit.tree import clip_of, replace, replace_clip
from rovix.errors import RovixError
from rovix.model import Amount, Clip, Departure, InnerKey, Key, Keys, Move, Project, Transform
from rovix.model.clip_kinds import is_layer
from rovix.model.transform_channels import RESTING
from rovix.motion import LayerMotion, Scene
from rovix.motion.channels import CHANNELS
from rovix.motion.rest import channel_at, rest_at

Values = dict[str, np.ndarray]
Frames = dict[str, tuple[int, ...]]
_WAYS = ("x", "y", "z")
_LINEAR = ("scale_x", "scale_y", "rotation_z", "slant", "rotation_x", "rotation_y")
_TOLERANCE = 1e-9


def move_to_keys(project: Project, identity: str, move: str) -> Project:
    """Write a move out as keys of the layer's place, one a frame where the value bends.

    The picture stays the same on every frame. RovixError for a move that deals with pieces, or with
    what a place does not have.
    """
    clip = clip_of(project, identity)
    index = _index(clip, move)
    assert is_layer(clip)
    motion = Scene.of(project).motion(clip)
    frames = np.arange(float(clip.length))
    away = {name: values[:, 0] for name, values in motion.departures_of(index, frames).items()}
    _check(clip, index, motion, away)
    rest = rest_at(clip.transform, frames)
    departed = _combined(rest, away, motion.at(frames).layer)
    made = {name: _keyed(getattr(clip.transform, name), values) for name, values in departed.items()}
    others = tuple(own for own in clip.moves if own.id != move)
    place = replace(clip.transform, **made)
    return replace_clip(project, identity, lambda c: replace(c, moves=others, transform=place))


def _combined(rest: Values, away: Values, layers: np.ndarray) -> Values:
    """Rest and departure together; ways are turned and scaled as the resting layer is."""
    ways = {name: away[name] for name in _WAYS if name in away}
    made = {n: CHANNELS[n].combine(rest[n], values) for n, values in away.items() if n not in _WAYS}
    if ways:
        local = np.stack([ways.get(name, np.zeros(len(layers))) for name in _WAYS], axis=1)
        moved = np.einsum("tij,tj->ti", layers[:, :3, :3], local)
        found = {name: rest[name] + moved[:, axis] for axis, name in enumerate(_WAYS)}
        made |= {n: v for n, v in found.items() if n in ways or np.abs(v - rest[n]).max() > _TOLERANCE}
    return made


def _index(clip: Clip, move: str) -> int:
    moves = clip.moves if is_layer(clip) else ()
    found = next((number for number, own in enumerate(moves) if own.id == move), None)
    if found is None:
        raise RovixError("Select a layer with an entrance, loop or exit to turn into keys.")
    return found


def _check(clip: Clip, index: int, motion: LayerMotion, away: Values) -> None:
    move = clip.moves[index]  # type: ignore[union-attr]
    name = move.name or move.role
    if move.pieces != "whole" and len(motion.subject) > 1:
        said = "piece by piece; keys move the layer as a whole. Set its pieces to Whole first"
        raise RovixError(f"'{name}' goes {said}.")
    beyond = [channel for channel in away if channel not in RESTING]
    if beyond:
        raise RovixError(f"'{name}' changes {beyond[0].replace('_', ' ')}, which a layer's place has not.")
    if move.before == "hidden":
        raise RovixError(f"'{name}' hides the layer before its start; let it be away first.")
    if move.pivot in ("letter", "line") and len(motion.subject) > 1:
        raise RovixError(f"'{name}' turns about its own pivot; set that to Block first.")
    if len(clip.moves) > 1 and _overlaps(motion, index):  # type: ignore[union-attr]
        raise RovixError(f"'{name}' goes on together with another move; keys can stand for one at a time.")
    if set(away) & set(_LINEAR) and not _is_even(layer_transform(clip), clip.length):
        said = "the layer rests slanted, tipped, swung or unevenly scaled"
        raise RovixError(f"'{name}' turns or scales while {said}; that cannot be written as keys.")


def _overlaps(motion: LayerMotion, index: int) -> bool:
    """Whether another move goes on during one, where matrices would not just add up."""
    own = motion.timings[index]
    spans = [(t.start, t.start + t.span) for n, t in enumerate(motion.timings) if n != index]
    return any(start < own.start + own.span and own.start < end for start, end in spans)


def _is_even(place: Transform, length: int) -> bool:
    """Whether a place only turns and scales evenly, so that more turning and scaling adds up with it."""
    rest = rest_at(place, np.arange(float(length)))
    flat = all(not rest[name].any() for name in ("slant", "rotation_x", "rotation_y"))
    return flat and bool(np.array_equal(rest["scale_x"], rest["scale_y"]))


def _keyed(channel: float | Keys, values: np.ndarray) -> float | Keys:
    """Keys through values of whole frames, straight between, none where the way is straight anyway."""
    if np.ptp(values) <= _TOLERANCE and not isinstance(channel, Keys):
        # At rest it has its own value, so nowhere another.
        return channel
    bends = np.abs(np.diff(values, 2)) > _TOLERANCE
    wanted = [0, *(np.flatnonzero(bends) + 1).tolist(), len(values) - 1]
    keys = tuple(Key(frame=frame, value=float(values[frame])) for frame in dict.fromkeys(wanted))
    return replace(channel, keys=keys) if isinstance(channel, Keys) else Keys(keys=keys)


def keys_to_move(project: Project, identity: str, chosen: dict[str, tuple[int, ...]], role: str) -> Project:
    """Make keys of a layer's place that begin (exit) or end (entrance) at rest a move of the whole.

    Rest is the value of the last key for an entrance, of the first for an exit; the move is as long
    as the keys, from the clip's start or to its end. RovixError where keys would be lost.
    """
    clip = clip_of(project, identity)
    layer_transform(clip)
    assert is_layer(clip)
    tracks = {name: held_at(clip, name) for name in chosen}
    _check_keys(clip, tracks, chosen, role)
    frames = [frame for own in chosen.values() for frame in own]
    first, last = min(frames), max(frames)
    span = max(1, last if role == "entrance" else clip.length - 1 - first)
    start = 0 if role == "entrance" else first
    found = {a: h for a, h in tracks.items() if isinstance(h, Keys)}
    share = _scale_at_rest(clip, found, role)
    channels = tuple(_departure(a, h, role, start, span, share) for a, h in found.items())
    rate = project.sequence.frame_rate
    move = Move(
        name="Own keys", role="entrance" if role == "entrance" else "exit", pivot="block",
        length=float(rate.seconds(span)), piece_curve="linear", channels=channels,
    )  # fmt: skip
    resting = {a: h.keys[-1 if role == "entrance" else 0].value for a, h in found.items()}
    kept = tuple(own for own in clip.moves if own.role != role)
    project = put_held(project, identity, resting)
    return replace_clip(project, identity, lambda c: replace(c, moves=(*kept, move)))


def _check_keys(
    clip: Clip, tracks: Mapping[str, object], chosen: dict[str, tuple[int, ...]], role: str
) -> None:
    if not chosen or not any(len(own) > 1 for own in chosen.values()):
        raise RovixError("Select at least two keys of a channel to make a move of.")
    for address, held in tracks.items():
        name = address.rpartition(".")[2]
        if not isinstance(held, Keys) or not address.startswith("transform.") or name not in RESTING:
            raise RovixError(f"'{name}' is no channel that a move has; leave its keys out.")
        if len(held.keys) != len(set(chosen[address])):
            raise RovixError(f"'{name}' has keys that are not selected; a move takes all of a channel's.")
        rest = held.keys[-1 if role == "entrance" else 0].value
        if CHANNELS[name].how == "multiply" and rest == 0:
            raise RovixError(f"'{name}' rests at 0, from which a move cannot depart.")


def _scale_at_rest(clip: Clip, found: dict[str, Keys], role: str) -> float:
    """How large the layer rests, by which its ways are divided; RovixError where they bend."""
    names = {address.rpartition(".")[2] for address in found}
    ends = {a.rpartition(".")[2]: h.keys[-1 if role == "entrance" else 0].value for a, h in found.items()}
    place = replace(layer_transform(clip), **ends)
    frames = np.arange(float(clip.length))
    rest = rest_at(place, frames)
    linear = {name: rest[name] for name in _LINEAR}
    still = all(np.ptp(values) == 0 for values in linear.values())
    if names & {*_WAYS, *_LINEAR} and not (_is_even(place, clip.length) and still):
        raise RovixError("The layer rests slanted, tipped or unevenly scaled, or has other keys of those.")
    if names & set(_WAYS) and rest["rotation_z"][0] != 0:
        raise RovixError("The layer rests turned, so its ways bend; a move of it would go elsewhere.")
    return float(rest["scale_x"][0])


def _departure(address: str, held: Keys, role: str, start: int, span: int, scale: float) -> Departure:
    """Inner keys at shares of the span, as departures from rest."""
    name = address.rpartition(".")[2]
    rule = CHANNELS[name]
    rest = held.keys[-1 if role == "entrance" else 0].value
    # A layer's scale is across and down; depth goes unscaled.
    size = scale if name in ("x", "y") else 1.0
    keys = list(_plain_ways(held).keys)
    shares = [(key.frame - start) / span for key in keys]
    ends = [(0.0, keys[0])] if shares[0] > 0 else []
    if shares[-1] < 1:
        keys_at = [*ends, *zip(shares, keys, strict=True), (1.0, keys[-1])]
    else:
        keys_at = [*ends, *zip(shares, keys, strict=True)]
    inner = tuple(
        InnerKey(
            at=at, amount=Amount(value=_away(rule.how == "multiply", key.value, rest) / size), curve=key.curve
        )
        for at, key in keys_at
    )
    return Departure(channel=name, keys=inner)


def _away(multiply: bool, value: float, rest: float) -> float:
    return value / rest if multiply else value - rest


def _plain_ways(held: Keys) -> Keys:
    """Keys without tangents, which inner keys do not have: a key a frame in their place."""
    if all(key.curve != TANGENTS for key in held.keys[:-1]):
        return held
    made: list[Key] = []
    for number, key in enumerate(held.keys):
        made.append(replace(key, before=None, after=None))
        if key.curve == TANGENTS and number + 1 < len(held.keys):
            made[-1] = replace(made[-1], curve="linear")
            between = np.arange(key.frame + 1, held.keys[number + 1].frame)
            values = channel_at(held, between.astype(np.float64)).tolist()
            made += [Key(frame=f, value=v) for f, v in zip(between.tolist(), values, strict=True)]
    return replace(held, keys=tuple(made))
