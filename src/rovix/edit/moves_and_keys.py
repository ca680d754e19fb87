"""A move written out as keys of the layer's place."""

from __future__ import annotations

import numpy as np

from rovix.edit.transform import layer_transform
from rovix.edit.tree import clip_of, replace, replace_clip
from rovix.errors import RovixError
from rovix.model import Clip, Key, Keys, Project, Transform
from rovix.model.clip_kinds import is_layer
from rovix.model.transform_channels import RESTING
from rovix.motion import LayerMotion, Scene
from rovix.motion.channels import CHANNELS
from rovix.motion.rest import rest_at

Values = dict[str, np.ndarray]
Frames = dict[str, tuple[int, ...]]
WAYS = ("x", "y", "z")
LINEAR = ("scale_x", "scale_y", "rotation_z", "slant", "rotation_x", "rotation_y")
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
    ways = {name: away[name] for name in WAYS if name in away}
    made = {n: CHANNELS[n].combine(rest[n], values) for n, values in away.items() if n not in WAYS}
    if ways:
        local = np.stack([ways.get(name, np.zeros(len(layers))) for name in WAYS], axis=1)
        moved = np.einsum("tij,tj->ti", layers[:, :3, :3], local)
        found = {name: rest[name] + moved[:, axis] for axis, name in enumerate(WAYS)}
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
    if set(away) & set(LINEAR) and not is_even(layer_transform(clip), clip.length):
        said = "the layer rests slanted, tipped, swung or unevenly scaled"
        raise RovixError(f"'{name}' turns or scales while {said}; that cannot be written as keys.")


def _overlaps(motion: LayerMotion, index: int) -> bool:
    """Whether another move goes on during one, where matrices would not just add up."""
    own = motion.timings[index]
    spans = [(t.start, t.start + t.span) for n, t in enumerate(motion.timings) if n != index]
    return any(start < own.start + own.span and own.start < end for start, end in spans)


def is_even(place: Transform, length: int) -> bool:
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
