"""A move's departures as keys over the clip's frames, for one piece: to be drawn and taken hold of."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from rovix.curve import reversed_easing
from rovix.model import Amount, Departure, Key, Keys, Move
from rovix.motion.channels import CHANNELS, moved
from rovix.motion.layer import LayerMotion


@dataclass(frozen=True, slots=True)
class DepartureKeys:
    """`keys` lie on frames of the clip, whole or between: from `start` for `length` frames.

    `unit` is how much one of the departure's unit is in the channel's own, px for most;
    `fixed` are the numbers of the keys at rest, whose values are not free.
    """

    channel: str
    keys: Keys
    start: float
    length: float
    unit: float
    fixed: tuple[int, ...]

    def own(self, value: float) -> float:
        """A value of the channel as an amount in the departure's own unit."""
        # One of the unit has the sign of its side, so a value keeps its own.
        return value / abs(self.unit)

    def share(self, frame: float) -> float:
        """How far on its way the piece is at a frame of the clip; below 0 and above 1 beyond it."""
        return (frame - self.start) / self.length if self.length else 0.0


def departure_keys(motion: LayerMotion, index: int, number: int, piece: int) -> DepartureKeys:
    """What a move's departure does to one piece of the layer, in the channel's own unit.

    Of a loop that is the piece's first beat.
    """
    timing = motion.timings[index]
    departure = timing.move.channels[number]
    name = moved(departure.channel)[0]
    owner = timing.owners[min(piece, len(timing.owners) - 1)]
    start = timing.start + float(timing.times.starts[owner])
    length = float(timing.times.ends[owner] - timing.times.starts[owner])
    if timing.beats is not None:
        length = min(length, timing.beats.beat)
    neutral = CHANNELS[name].neutral
    if _counts_from(departure):
        return _counting(motion, departure, timing.move, start, length)
    if departure.keys:
        shares = [
            (key.at, _value(motion, index, name, key.amount, piece), key.curve) for key in departure.keys
        ]
    else:
        away = _value(motion, index, name, departure.amount, piece)
        shares = _way(timing.move, departure, away, neutral)
    # Pieces start between frames too; a track takes any number, as does a key that is only drawn.
    keys = tuple(Key(frame=start + at * length, value=v, curve=c) for at, v, c in shares)  # type: ignore[arg-type]
    unit = _value(motion, index, name, _one(departure), piece)
    return DepartureKeys(name, Keys(keys=keys), start, length, unit or 1.0, _fixed(timing.move, len(keys)))


def _counts_from(departure: Departure) -> bool:
    amounts = [key.amount for key in departure.keys] or [departure.amount]
    return any(amount.unit == "number" for amount in amounts)


def _counting(
    motion: LayerMotion, departure: Departure, move: Move, start: float, length: float
) -> DepartureKeys:
    """Figures as the number that is shown, that of the words at rest: the first of them."""
    own = float(next(iter(number for number in motion.subject.numbers() if number), 0.0))
    # A key at rest says that nothing is added.
    added = {"number": 0.0}
    ways = [(k.at, k.amount.value + added.get(k.amount.unit, own), k.curve) for k in departure.keys]
    shares = ways or _way(move, departure, departure.amount.value, own)
    keys = tuple(Key(frame=start + at * length, value=v, curve=c) for at, v, c in shares)  # type: ignore[arg-type]
    return DepartureKeys("figures", Keys(keys=keys), start, length, 1.0, _fixed(move, len(keys)))


def _way(move: Move, departure: Departure, away: float, neutral: float) -> list[tuple[float, float, str]]:
    """Shares, values and curves of a departure without inner keys."""
    curve = departure.curve or move.piece_curve
    if move.beats_on:
        back = reversed_easing(curve)
        return [(0.0, neutral, curve), (0.5, away, back), (1.0, neutral, "linear")]
    ends = (away, neutral) if move.enters else (neutral, away)
    return [(0.0, ends[0], curve), (1.0, ends[1], "linear")]


def _fixed(move: Move, count: int) -> tuple[int, ...]:
    return {"entrance": (count - 1,), "exit": (0,)}.get(move.role, (0, count - 1))


def _value(motion: LayerMotion, index: int, name: str, amount: Amount, piece: int) -> float:
    amounts = motion.stage_of(index).amounts(name, amount)
    return float(np.asarray(amounts)[min(piece, len(amounts) - 1)])


def _one(departure: Departure) -> Amount:
    """One of the unit, to the side on which the departure lies: just off the frame differs by side."""
    amounts = [key.amount for key in departure.keys] or [departure.amount]
    return Amount(value=-1.0 if min(a.value for a in amounts) < 0 else 1.0, unit=amounts[0].unit)
