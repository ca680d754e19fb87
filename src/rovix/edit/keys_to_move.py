"""Keys of a layer that begin or end at rest, or both, made a move of the whole."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from rovix.curve import TANGENTS
from rovix.edit.address import held_at, put_held
from rovix.edit.moved_channels import Moved, as_shares, away_from, check_rest, moved_by, rest_of
from rovix.edit.moves_and_keys import LINEAR, WAYS, is_even
from rovix.edit.transform import layer_transform
from rovix.edit.tree import clip_of, replace, replace_clip
from rovix.errors import RovixError
from rovix.model import Amount, Beats, Clip, ColourKeys, Departure, InnerKey, Key, Keys, Move, Project
from rovix.model.clip_kinds import is_layer
from rovix.model.move_channels import MOVE_CHANNELS
from rovix.model.roles import Role
from rovix.motion.rest import channel_at, rest_at

Chosen = Mapping[str, tuple[int, ...]]
_Held = Keys | ColourKeys


def keys_to_move(project: Project, identity: str, chosen: Chosen, role: Role) -> Project:
    """Make keys of a layer that begin (exit) or end (entrance) at rest a move of the whole.

    Rest is the value of the last key for an entrance, of the first for an exit, of both for a loop. The
    move is as long as the keys, from the clip's start or to its end; a loop's beat is, and beats over the
    whole clip. RovixError, naming them, for keys that no move does the same as, or that would be lost.
    """
    clip = clip_of(project, identity)
    layer_transform(clip)
    assert is_layer(clip)
    ways = _ways_of(clip, chosen, role)
    frames = [frame for own in chosen.values() for frame in own]
    start, span = _span(clip, role, min(frames), max(frames))
    scale = _scale_at_rest(clip, [moved.channel for moved, _ in ways.values()], chosen, role)
    channels = tuple(
        _departure(clip, address, moved, held, (role, start, span), scale)
        for address, (moved, held) in ways.items()
    )
    rate = project.sequence.frame_rate
    move = Move(
        name="Own keys", role=role, pivot="block", length=float(rate.seconds(span)), piece_curve="linear",
        channels=channels, beats=Beats(over="clip", fitted=False, ramp=0.0) if role == "loop" else Beats(),
    )  # fmt: skip
    kept = tuple(own for own in clip.moves if own.role != role)
    project = put_held(project, identity, {address: rest_of(clip, address, role) for address in ways})
    return replace_clip(project, identity, lambda c: replace(c, moves=(*kept, move)))


def _span(clip: Clip, role: Role, first: int, last: int) -> tuple[int, int]:
    """The first frame of the move, and how many it takes."""
    if role == "loop":
        return first, max(1, last - first)
    start = 0 if role == "entrance" else first
    return start, max(1, last if role == "entrance" else clip.length - 1 - first)


def _ways_of(clip: Clip, chosen: Chosen, role: Role) -> dict[str, tuple[Moved, _Held]]:
    """What of a move stands for each of the channels, and its keys; RovixError where they cannot be one."""
    if not any(len(own) > 1 for own in chosen.values()):
        raise RovixError("Select at least two keys of a channel to make a move of.")
    found: dict[str, tuple[Moved, _Held]] = {}
    for address, frames in chosen.items():
        name, held, moved = address.rpartition(".")[2], held_at(clip, address), moved_by(clip, address)
        if not isinstance(held, Keys | ColourKeys) or len(held.keys) != len(set(frames)):
            raise RovixError(f"'{name}' has keys that are not selected; a move takes all of a channel's.")
        if role == "loop" and held.keys[0].value != held.keys[-1].value:
            raise RovixError(f"'{name}' ends elsewhere than it begins; a loop comes back to where it rests.")
        check_rest(clip, address, moved, role)
        found[address] = moved, held
    return found


def _scale_at_rest(clip: Clip, names: list[str], chosen: Chosen, role: Role) -> float:
    """How large the layer rests, by which its ways are divided; RovixError where they bend."""
    ends = {a.rpartition(".")[2]: rest_of(clip, a, role) for a in chosen if a.startswith("transform.")}
    place = replace(layer_transform(clip), **ends)
    rest = rest_at(place, np.arange(float(clip.length)))
    still = all(np.ptp(rest[name]) == 0 for name in LINEAR)
    if set(names) & {*WAYS, *LINEAR} and not (is_even(place, clip.length) and still):
        raise RovixError("The layer rests slanted, tipped or unevenly scaled, or has other keys of those.")
    if set(names) & set(WAYS) and rest["rotation_z"][0] != 0:
        raise RovixError("The layer rests turned, so its ways bend; a move of it would go elsewhere.")
    return float(rest["scale_x"][0])


def _departure(
    clip: Clip, address: str, moved: Moved, held: _Held, when: tuple[Role, int, int], scale: float
) -> Departure:
    """Inner keys at shares of the span, as departures from rest."""
    role, start, span = when
    rest = rest_of(clip, address, role)
    fields = dict(moved.fields)
    if isinstance(held, ColourKeys):
        fields["colour"], values = as_shares(held, rest)
        fields["mix"] = held.mix
        keys = [Key(frame=k.frame, value=v, curve=k.curve) for k, v in zip(held.keys, values, strict=True)]
    else:
        how = MOVE_CHANNELS[moved.channel].how
        # A layer's scale is across and down; depth goes unscaled.
        size = scale if moved.channel in ("x", "y") else 1.0
        keys = [replace(key, value=away_from(how, key.value, rest) / size) for key in _plain_ways(held).keys]
    inner = tuple(
        InnerKey(at=at, amount=Amount(value=key.value, unit=moved.unit), curve=key.curve)  # type: ignore[arg-type]
        for at, key in _at_shares(keys, start, span)
    )
    return Departure(channel=moved.channel, keys=inner, **fields)


def _at_shares(keys: list[Key], start: int, span: int) -> list[tuple[float, Key]]:
    """Keys by their shares of a span; where they do not reach its ends, what is held there is keyed too."""
    made = [((key.frame - start) / span, key) for key in keys]
    first = [(0.0, replace(keys[0], curve="linear"))] if made[0][0] > 0 else []
    return [*first, *made, *([(1.0, keys[-1])] if made[-1][0] < 1 else [])]


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
