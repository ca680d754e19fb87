"""A move's departures as keys over the clip's frames, for one piece: to be drawn and taken hold of."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from rovix.model import Amount, Departure, Key, Keys
from rovix.motion.channels import CHANNELS, moved
from rovix.motion.layer import LayerMotion


@dataclass(frozen=True, slots=True)
class DepartureKeys:
    """`keys` lie on frames of the clip, whole or between: from `start` for `length` frames.

    `unit` is how much one of the departure's unit is in the channel's own, px for most;
    `fixed` is the number of the key at rest, whose value is not free.
    """

    channel: str
    keys: Keys
    start: float
    length: float
    unit: float
    fixed: int


def departure_keys(motion: LayerMotion, index: int, number: int, piece: int) -> DepartureKeys:
    """What a move's departure does to one piece of the layer, in the channel's own unit."""
    timing = motion.timings[index]
    departure = timing.move.channels[number]
    name = moved(departure.channel)[0]
    owner = timing.owners[min(piece, len(timing.owners) - 1)]
    start = timing.start + float(timing.times.starts[owner])
    length = float(timing.times.ends[owner] - timing.times.starts[owner])
    entrance, neutral = timing.move.role == "entrance", CHANNELS[name].neutral
    if departure.keys:
        shares = [
            (key.at, _value(motion, index, name, key.amount, piece), key.curve) for key in departure.keys
        ]
    else:
        away = _value(motion, index, name, departure.amount, piece)
        curve = departure.curve or timing.move.piece_curve
        ends = (away, neutral) if entrance else (neutral, away)
        shares = [(0.0, ends[0], curve), (1.0, ends[1], "linear")]
    # Pieces start between frames too; a track takes any number, as does a key that is only drawn.
    keys = tuple(Key(frame=start + at * length, value=v, curve=c) for at, v, c in shares)  # type: ignore[arg-type]
    unit = _value(motion, index, name, _one(departure), piece)
    fixed = len(keys) - 1 if entrance else 0
    return DepartureKeys(name, Keys(keys=keys), start, length, unit or 1.0, fixed)


def _value(motion: LayerMotion, index: int, name: str, amount: Amount, piece: int) -> float:
    amounts = motion.stage_of(index).amounts(name, amount)
    return float(np.asarray(amounts)[min(piece, len(amounts) - 1)])


def _one(departure: Departure) -> Amount:
    """One of the unit, to the side on which the departure lies: just off the frame differs by side."""
    amounts = [key.amount for key in departure.keys] or [departure.amount]
    return Amount(value=-1.0 if min(a.value for a in amounts) < 0 else 1.0, unit=amounts[0].unit)
