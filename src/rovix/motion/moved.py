"""All moves of a layer together: how far its pieces are from rest at some times."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from rovix.model import Echoes
from rovix.model.channel import Mix
from rovix.motion.channels import CHANNELS, SIDES
from rovix.motion.departure import Moments, MoveTiming, departures, shares_of
from rovix.motion.distance import Stage
from rovix.motion.subject import Subject, pivot_kind
from rovix.motion.tracking import tracking_shifts
from rovix.motion.transform import affine
from rovix.motion.typing import Typed
from rovix.motion.windows import OpeningWindow, Window, WipeWindow, times_of

Floats = NDArray[np.float64]
Flags = NDArray[np.bool_]


@dataclass(frozen=True, slots=True, eq=False)
class ColourMix:
    """A colour, and by which shares (t, n) it lies over each piece's fill; mixed in code values or light."""

    colour: str
    shares: Floats
    mix: Mix

    def part(self, part: slice) -> ColourMix:
        """At some of the moments alone."""
        return ColourMix(self.colour, times_of(self.shares, part), self.mix)


class Channels(dict[str, Floats]):
    """Departures (t, n) by channel; what no move touches is neutral, and made when it is asked for."""

    def __init__(self, shape: tuple[int, int]) -> None:
        super().__init__()
        self.shape = shape

    def part(self, part: slice) -> Channels:
        """At some of the moments alone."""
        made = Channels((len(range(self.shape[0])[part]), self.shape[1]))
        made.update({name: times_of(values, part) for name, values in self.items()})
        return made

    def __missing__(self, name: str) -> Floats:
        self[name] = _neutral(self.shape, CHANNELS[name].neutral)
        return self[name]


_SMALL = 4096


def _neutral(shape: tuple[int, int], value: float) -> Floats:
    """One number everywhere, not to be written to; of small shapes the very same array each time."""
    return _kept_neutral(shape, value) if shape[0] * shape[1] <= _SMALL else _made_neutral(shape, value)


def _made_neutral(shape: tuple[int, int], value: float) -> Floats:
    made = np.full(shape, value)
    made.setflags(write=False)
    return made


_kept_neutral = lru_cache(maxsize=512)(_made_neutral)


@dataclass(slots=True, eq=False)
class Moved:
    """Departures of n pieces at t times, move after move.

    `values` (t, n) by channel; `pivots` (t, n, 2); `pivoted` about which kind of pieces each move
    turns them, and when; `shown` (t, n).
    """

    subject: Subject
    frames: Floats
    turning: Floats
    values: Channels
    pivots: Floats
    shown: Flags
    pivoted: list[tuple[str, Flags]] = field(default_factory=list)
    windows: list[Window] = field(default_factory=list)
    mixes: list[ColourMix] = field(default_factory=list)
    echoes: Echoes | None = None
    caret: Floats | None = None

    @classmethod
    def at_rest(cls, subject: Subject, frames: Floats, turning: Floats) -> Moved:
        """Before any move; `turning` (t, 2) is what the layer turns about."""
        shape = (len(frames), len(subject))
        pivots = np.broadcast_to(turning[:, None], (*shape, 2))
        return cls(subject, frames, turning, Channels(shape), pivots, np.ones(shape, dtype=bool))

    def add(self, timing: MoveTiming, stage: Stage) -> None:
        """What one more move does."""
        moments = Moments(timing, self.frames)
        found = departures(moments, stage)
        for name, departure in found.items():
            kept = self.values.get(name)
            self.values[name] = departure if kept is None else CHANNELS[name].combine(kept, departure)
        active = moments.of(False)[1] < 1.0
        self.pivots = np.where(active[..., None], self.subject.pivots(timing.move, self.turning), self.pivots)
        self.pivoted.append((pivot_kind(timing.move), active))
        if timing.typed is not None:
            self._add_typed(timing, timing.typed)
        if timing.move.before == "hidden" or timing.typed is not None:
            self.shown &= ~timing.hidden(self.frames)
        if "typed" in found:
            self.shown &= _typed(timing.owners, found["typed"])
        self._add_windows(moments, stage, found, active)
        self._add_mixes(moments, stage)
        if "echo" in found and found["echo"].any():
            self.echoes = next(d.echoes for d in timing.move.channels if d.channel == "echo")

    def _add_typed(self, timing: MoveTiming, typed: Typed) -> None:
        """The caret of what is typed, and how far lines typed before have moved up."""
        rose = typed.rise(self.frames - timing.start)
        self.values["y"] = self.values["y"] + rose[:, None]
        aside = typed.aside(self.frames - timing.start)
        if aside is not None:
            self.values["x"] = self.values["x"] + aside
        found = typed.carets(self.frames - timing.start, timing.fps)
        if found is not None:
            self.caret = found if self.caret is None else np.where(np.isnan(found), self.caret, found)

    def _add_windows(self, moments: Moments, stage: Stage, found: dict[str, Floats], active: Flags) -> None:
        for departure in moments.timing.move.channels:
            if departure.channel == "wipe":
                shares = shares_of(moments, departure, stage)
                self.windows.append(WipeWindow(shares, departure.angle, stage.boxes))
                self.shown &= shares > 0
        if any(side in found for side in SIDES):
            left, top, right, bottom = (found.get(side) for side in SIDES)
            self.windows.append(OpeningWindow((left, top, right, bottom), active, stage.boxes))

    def _add_mixes(self, moments: Moments, stage: Stage) -> None:
        for departure in moments.timing.move.channels:
            if departure.channel == "colour":
                shares = shares_of(moments, departure, stage)
                self.mixes.append(ColourMix(departure.colour, shares, departure.mix))


def _typed(owners: NDArray[np.int64], shares: Floats) -> Flags:
    """(t, n): the letters among the first share of those of their piece."""
    counts = np.bincount(owners)[owners]
    first = np.searchsorted(owners, owners)
    # What rounding takes from a whole number of letters must not hide one.
    return np.arange(len(owners)) - first < np.floor(shares * counts + 1e-9)


def placed(
    subject: Subject, values: dict[str, Floats], pivots: Floats, pivoted: list[tuple[str, Flags]]
) -> tuple[Floats, Floats]:
    """(t, n, 4, 4) and (t, n): the pieces' matrices, and px to the right that tracking moves each.

    Letters part first; what a piece turns about goes with the middle of its letters, unless it is
    the block's own pivot. `pivoted` says for each move about which kind of pieces it turns, and when.
    """
    if "tracking" not in values or not values["tracking"].any():
        return affine(values, pivots), _neutral(pivots.shape[:2], 0.0)
    shifts = tracking_shifts(subject, values["tracking"])
    pivots = np.broadcast_to(pivots, (*shifts.shape, 2)).copy()
    pivots[..., 0] += _pivot_shifts(subject, shifts, pivoted)
    local = affine(values, pivots)
    # Moved to the right before anything else: the matrix's last column takes the way along.
    local[..., :3, 3] += local[..., :3, 0] * shifts[..., None]
    return local, shifts


def _pivot_shifts(subject: Subject, shifts: Floats, pivoted: list[tuple[str, Flags]]) -> Floats:
    """(t, n): how far the points that pieces turn about go with the letters."""
    found = np.zeros_like(shifts)
    for kind, active in pivoted:
        if kind == "whole":
            moved = np.zeros_like(shifts)
        else:
            owners, count = subject.owners(kind)
            member = np.bincount(owners, minlength=count)
            sums = np.zeros((len(shifts), count))
            np.add.at(sums.T, owners, shifts.T)
            moved = (sums / np.maximum(member, 1))[:, owners]
        found = np.where(active, moved, found)
    return found
