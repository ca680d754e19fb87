"""Departures of a move: added, changed, taken away; and by the keys that stand for them in lanes."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from functools import partial
from typing import Any

from rovix.edit.tree import replace, replace_clip
from rovix.errors import RovixError
from rovix.model import Amount, Chance, Clip, Departure, Move, Project
from rovix.model.clip_kinds import is_layer
from rovix.model.move_channels import MOVE_CHANNELS


def add_departure(project: Project, identity: str, move: str, channel: str) -> Project:
    """One more channel in a move, departing by what is usual for it."""

    def change(own: Move) -> Move:
        row = MOVE_CHANNELS[channel]
        value, unit = row.beating if own.beats_on and row.beating else row.away
        amount = Amount(value=value, unit=unit)  # type: ignore[arg-type]
        chance = Chance(rate=15.0) if channel == "letters" else None
        made = Departure(channel=channel, amount=amount, chance=chance)
        return replace(own, channels=(*own.channels, made))

    return _with_move(project, identity, move, change)


def remove_departure(project: Project, identity: str, move: str, number: int) -> Project:
    """A move without one of its channels."""

    def change(own: Move) -> Move:
        return replace(own, channels=tuple(d for n, d in enumerate(own.channels) if n != number))

    return _with_move(project, identity, move, change)


def change_departure(project: Project, identity: str, move: str, number: int, **changes: Any) -> Project:
    """Change fields of one of a move's departures."""
    return _changed(project, identity, move, number, lambda departure: replace(departure, **changes))


def set_departure_key(
    project: Project, identity: str, move: str, number: int, key: int, value: float, at: float | None = None
) -> Project:
    """Set how far a move's channel departs at one of its keys, in the departure's own unit.

    Inner keys also move to a share `at` of the way, between their neighbours.
    """

    def change(departure: Departure) -> Departure:
        if not departure.keys:
            return replace(departure, amount=replace(departure.amount, value=value))
        keys = list(departure.keys)
        old = keys[key]
        low = keys[key - 1].at if key else 0.0
        high = keys[key + 1].at if key + 1 < len(keys) else 1.0
        place = old.at if at is None or key in (0, len(keys) - 1) else min(max(at, low + 1e-3), high - 1e-3)
        keys[key] = replace(old, at=place, amount=Amount(value=value, unit=old.amount.unit))
        return replace(departure, keys=tuple(keys))

    return _changed(project, identity, move, number, change)


def set_departure_curve(
    project: Project, identity: str, move: str, number: int, key: int, curve: str
) -> Project:
    """The way on from one of a departure's keys; without inner keys that is its whole way."""

    def change(departure: Departure) -> Departure:
        if not departure.keys:
            return replace(departure, curve=curve)
        keys = (replace(k, curve=curve) if n == key else k for n, k in enumerate(departure.keys))
        return replace(departure, keys=tuple(keys))

    return _changed(project, identity, move, number, change)


def change_departures(
    project: Project,
    identity: str,
    changes: Mapping[tuple[str, int], Callable[[Move, Departure], Departure]],
) -> Project:
    """Change several departures of a clip's moves, by the id of the move and the number of the channel."""
    for (move, number), change in changes.items():
        project = _with_move(project, identity, move, partial(_one_changed, number=number, change=change))
    return project


def _one_changed(own: Move, number: int, change: Callable[[Move, Departure], Departure]) -> Move:
    if number >= len(own.channels):
        raise RovixError("The move has no such channel any more.")
    channels = tuple(change(own, c) if n == number else c for n, c in enumerate(own.channels))
    return replace(own, channels=channels)


def _changed(
    project: Project, identity: str, move: str, number: int, change: Callable[[Departure], Departure]
) -> Project:
    return change_departures(project, identity, {(move, number): lambda _, departure: change(departure)})


def _with_move(project: Project, identity: str, move: str, change: Callable[[Move], Move]) -> Project:
    def on_clip(clip: Clip) -> Clip:
        moves = clip.moves if is_layer(clip) else ()
        own = next((m for m in moves if m.id == move), None)
        if own is None:
            raise RovixError("The layer has no such move any more.")
        made = change(own)
        return replace(clip, moves=tuple(made if m is own else m for m in moves))

    return replace_clip(project, identity, on_clip)
