"""Inner keys of a move's channels: put in, taken out, shaped, moved in time, copied from move to move."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterable, Mapping
from itertools import pairwise

import msgspec
import numpy as np

from rovix.curve import reversed_easing
from rovix.edit.departures import change_departures
from rovix.edit.tree import clip_of, replace
from rovix.errors import RovixError
from rovix.model import Amount, Clip, Departure, InnerKey, Move, Project
from rovix.model.clip_kinds import is_layer
from rovix.model.move import MovedChannel
from rovix.model.move_channels import MOVE_CHANNELS
from rovix.motion import Scene
from rovix.motion.departure_keys import DepartureKeys, departure_keys
from rovix.motion.reading import values_of

Chosen = Mapping[tuple[str, int], Collection[int]]
"""Numbers of inner keys, by the id of the move and the number of its channel."""
Change = Callable[[Move, Departure], Departure]
_CLOSE = 1e-3
"""Of the way: nearer than this two keys are one."""


class CopiedChannel(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """Inner keys of one channel, at shares of the way."""

    channel: MovedChannel
    keys: tuple[InnerKey, ...]


def all_inner_keys(clip: Clip | None) -> dict[tuple[str, int], tuple[int, ...]]:
    """The numbers of every inner key of a clip's moves; channels that have none are left out."""
    moves = clip.moves if is_layer(clip) else ()
    found = ((move.id, n, departure.keys) for move in moves for n, departure in enumerate(move.channels))
    return {(identity, number): tuple(range(len(keys))) for identity, number, keys in found if keys}


def keys_for(move: Move, departure: Departure) -> tuple[InnerKey, ...]:
    """A departure's inner keys, or those that do the same in place of its amount."""
    if departure.keys:
        return departure.keys
    curve = departure.curve or move.piece_curve
    rest = _at_rest(departure)
    if move.beats_on:
        there = InnerKey(at=0.5, amount=departure.amount, curve=reversed_easing(curve))
        return InnerKey(at=0.0, amount=rest, curve=curve), there, InnerKey(at=1.0, amount=rest)
    first, last = (departure.amount, rest) if move.enters else (rest, departure.amount)
    return InnerKey(at=0.0, amount=first, curve=curve), InnerKey(at=1.0, amount=last)


def _at_rest(departure: Departure) -> Amount:
    """No departure, counted as the departure is; figures rest at the words' own, which is nothing added."""
    unit = departure.amount.unit
    return Amount(value=MOVE_CHANNELS[departure.channel].neutral, unit="px" if unit == "number" else unit)


def add_inner_key(
    project: Project, identity: str, move: str, number: int, at: float, value: float
) -> Project:
    """One more key at a share `at` of a channel's way, `value` in the departure's own unit.

    It goes on with the curve of the key before it. RovixError where a key is already, or beyond the way.
    """

    def change(own: Move, departure: Departure) -> Departure:
        keys = keys_for(own, departure)
        unit = (departure.keys[0].amount if departure.keys else departure.amount).unit
        before = [key for key in keys if key.at < at]
        curve = before[-1].curve if before else keys[0].curve
        made = InnerKey(at=at, amount=Amount(value=value, unit=unit), curve=curve)
        return replace(departure, keys=_in_order((*keys, made), departure))

    if not 0 < at < 1:
        raise RovixError("An inner key lies between the start and the end of the move's way.")
    return change_departures(project, identity, {(move, number): change})


def turn_inner_key(
    project: Project, identity: str, move: str, number: int, frame: float, piece: int = 0
) -> Project:
    """A key on a frame of the clip where the piece's way has none, in place; else that key away.

    A plain amount becomes inner keys by it.
    """
    clip = clip_of(project, identity)
    held = keys_on_frames(project, clip, move, number, piece)
    near = key_near(held, frame)
    if near is not None and _departure(clip, move, number).keys:
        return remove_inner_keys(project, identity, {(move, number): [near]})
    value = held.own(float(values_of(held.keys, np.array([float(frame)]))[0]))
    return add_inner_key(project, identity, move, number, held.share(frame), value)


def keys_on_frames(project: Project, clip: Clip, move: str, number: int, piece: int = 0) -> DepartureKeys:
    """The keys that stand for a move's channel on the way of one piece; RovixError where it is gone."""
    _departure(clip, move, number)
    assert is_layer(clip), "only layers move"
    index = next(n for n, own in enumerate(clip.moves) if own.id == move)
    return departure_keys(Scene.of(project).motion(clip), index, number, piece)


def key_near(held: DepartureKeys, frame: float) -> int | None:
    """The number of the key within half a frame; None where there is none."""
    return next((n for n, key in enumerate(held.keys.keys) if abs(key.frame - frame) <= 0.5), None)


def _departure(clip: Clip, move: str, number: int) -> Departure:
    own = next((m for m in (clip.moves if is_layer(clip) else ()) if m.id == move), None)
    if own is None or number >= len(own.channels):
        raise RovixError(f"'{clip.title}' has no such move any more.")
    return own.channels[number]


def remove_inner_keys(project: Project, identity: str, chosen: Chosen) -> Project:
    """Take keys between the first and the last away; where no more is left, the plain amount is back.

    RovixError where none of the chosen can go.
    """

    def taking(numbers: Collection[int]) -> Change:
        def change(own: Move, departure: Departure) -> Departure:
            last = len(departure.keys) - 1
            kept = tuple(k for n, k in enumerate(departure.keys) if n not in numbers or n in (0, last))
            return _as_amount(own, replace(departure, keys=kept))

        return change

    made = change_departures(project, identity, {spot: taking(numbers) for spot, numbers in chosen.items()})
    if made == project:
        raise RovixError("The first and the last key of a move's way stay; take the channel away instead.")
    return made


def _as_amount(move: Move, departure: Departure) -> Departure:
    """The departure by its amount and curve, where its keys do no more than those."""
    if move.beats_on or len(departure.keys) != 2 or [key.at for key in departure.keys] != [0.0, 1.0]:
        return departure
    first, last = departure.keys
    away, rest = (first, last) if move.enters else (last, first)
    if rest.amount.value != MOVE_CHANNELS[departure.channel].neutral:
        return departure
    curve = None if first.curve == move.piece_curve else first.curve
    return replace(departure, keys=(), amount=away.amount, curve=curve)


def set_inner_curves(project: Project, identity: str, chosen: Chosen, curve: str) -> Project:
    """The way on from each of the keys."""

    def shaping(numbers: Collection[int]) -> Change:
        def change(_: Move, departure: Departure) -> Departure:
            keys = (replace(k, curve=curve) if n in numbers else k for n, k in enumerate(departure.keys))
            return replace(departure, keys=tuple(keys))

        return change

    return change_departures(project, identity, {spot: shaping(numbers) for spot, numbers in chosen.items()})


def move_inner_keys(project: Project, identity: str, chosen: Chosen, ways: Mapping[str, float]) -> Project:
    """Move keys in time by a share of the way, given by move; the first and last of a channel stay.

    RovixError where one would meet another.
    """

    def moving(numbers: Collection[int], by: float) -> Change:
        def change(_: Move, departure: Departure) -> Departure:
            last = len(departure.keys) - 1
            free = [n in numbers and n not in (0, last) for n in range(last + 1)]
            keys = (
                replace(k, at=k.at + by) if own else k for k, own in zip(departure.keys, free, strict=True)
            )
            return replace(departure, keys=_risen(tuple(keys), departure))

        return change

    changes = {spot: moving(numbers, ways[spot[0]]) for spot, numbers in chosen.items()}
    return change_departures(project, identity, changes)


def copied_inner_keys(clip: Clip, chosen: Chosen) -> tuple[CopiedChannel, ...]:
    """Chosen keys to be put on the clipboard, by channel."""
    moves = {move.id: move for move in (clip.moves if is_layer(clip) else ())}
    made = []
    for (identity, number), numbers in chosen.items():
        departure = moves[identity].channels[number]
        keys = tuple(departure.keys[n] for n in sorted(numbers) if n < len(departure.keys))
        made.append(CopiedChannel(departure.channel, keys))
    return tuple(made)


def paste_inner_keys(
    project: Project, identity: str, move: str, copied: Iterable[CopiedChannel], at: float
) -> tuple[Project, dict[tuple[str, int], tuple[int, ...]]]:
    """Put copied keys into a move, the first at a share `at` of the way, in place of those that they meet.

    Channels that the move has not got are left out. Also gives the numbers of the keys that were put in.
    RovixError where the move has none of the channels, or a key would lie beyond the way.
    """
    channels = {c.channel: c.keys for c in copied if c.keys}
    own = next(m for m in clip_of(project, identity).moves if m.id == move)  # type: ignore[union-attr]
    by = at - min((keys[0].at for keys in channels.values()), default=0.0)
    placed: dict[tuple[str, int], tuple[int, ...]] = {}
    changes = {}
    for number, departure in enumerate(own.channels):
        if departure.channel in channels:
            new = tuple(replace(key, at=key.at + by) for key in channels[departure.channel])
            keys = _met(keys_for(own, departure), new, departure)
            placed[(move, number)] = tuple(n for n, key in enumerate(keys) if key in new)
            changes[(move, number)] = lambda _, d, keys=keys: replace(d, keys=keys)
    if not changes:
        raise RovixError(f"'{own.name or own.role}' has none of the channels whose keys were copied.")
    return change_departures(project, identity, changes), placed


def _met(old: tuple[InnerKey, ...], new: tuple[InnerKey, ...], departure: Departure) -> tuple[InnerKey, ...]:
    """Old and new keys together; ends stay, and between them a new one replaces an old one."""
    if not all(_CLOSE <= key.at <= 1 - _CLOSE for key in new):
        said = MOVE_CHANNELS[departure.channel].label.lower()
        raise RovixError(f"The copied keys of {said} would lie beyond the move's way; paste them earlier.")
    kept = (k for k in old[1:-1] if all(abs(k.at - other.at) >= _CLOSE for other in new))
    return _in_order((old[0], *kept, *new, old[-1]), departure)


def _in_order(keys: tuple[InnerKey, ...], departure: Departure) -> tuple[InnerKey, ...]:
    return _risen(tuple(sorted(keys, key=lambda key: key.at)), departure)


def _risen(keys: tuple[InnerKey, ...], departure: Departure) -> tuple[InnerKey, ...]:
    """Keys that rise in time; RovixError where two meet."""
    if any(key.at - before.at < _CLOSE for before, key in pairwise(keys)):
        said = MOVE_CHANNELS[departure.channel].label.lower()
        raise RovixError(f"Two inner keys of {said} would lie at one moment; leave them more room.")
    return keys
