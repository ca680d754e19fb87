"""Words typed piece by piece: when each comes, where the caret stands, how lines move up."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rovix.curve import easing
from rovix.model import Caret, Move, Typing
from rovix.motion.order import BY_PLACE, move_ranks
from rovix.motion.random import draws
from rovix.motion.stagger import PieceTimes, given_starts, snapped
from rovix.motion.subject import Subject
from rovix.motion.typed_middles import TypedMiddles, typed_middles
from rovix.text import Layout
from rovix.text.caret import caret_at, rises_at

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]
_STOPS = frozenset(".,;:!?…—–।॥،؛؟。、！？：；")


@dataclass(frozen=True, slots=True, eq=False)
class Typed:
    """Pieces (k,) of a move that types: when each comes or goes, in frames since its span began.

    `ends` are the characters behind each piece; `order` are the pieces as they are typed. `leaving`
    when they are taken back, within a `span` of so many frames. `middles` say how
    lines are kept about their middle as they are typed.
    """

    typing: Typing
    times: PieceTimes
    order: Ints
    ends: Ints
    layout: Layout | None
    span: int
    leaving: bool
    middles: TypedMiddles | None = None

    @classmethod
    def of(cls, move: Move, subject: Subject, span: int, fps: float) -> Typed:
        """The typing of a layer's words over a span in frames, of which there are `fps` in a second."""
        assert move.typing is not None
        count = subject.owners(move.pieces)[1]
        ranks = move_ranks(move, count, subject.places(move) if move.order in BY_PLACE else None)
        leaving = move.leaves
        # What is taken back was typed the other way about.
        typed = ranks.max(initial=0) - ranks if leaving else ranks
        ends = _ends(subject, move.pieces, count)
        starts = _starts(move, typed, _behind(subject, ends), span, fps)[typed]
        times = snapped(span - starts if leaving else starts)
        order = np.argsort(typed, kind="stable")
        middles = None
        if move.typing.centred and subject.layout is not None:
            middles = typed_middles(subject.layout, subject.starts, ends, order)
        return cls(move.typing, PieceTimes(times, times), order, ends, subject.layout, span, leaving, middles)

    def typed_last(self, time: Floats) -> Ints:
        """(t,): the place in the order of what was typed last, -1 before the first."""
        whole = np.floor(time)[:, None]
        starts = self.times.starts[self.order]
        there = (whole <= starts) & (whole < self.span) if self.leaving else whole >= starts
        return np.where(there, np.arange(len(self.order)), -1).max(axis=1, initial=-1)

    def rise(self, time: Floats) -> Floats:
        """(t,): px down (mostly below the place of rest) at which lines stand so that the typed one is
        where the one typed last rests."""
        if not self.typing.one_height or self.layout is None:
            return np.zeros(len(time))
        baselines = np.array([line.baseline for line in self.layout.lines])
        starts = np.array([line.start for line in self.layout.lines])
        # Behind the last moment all is typed, whatever the order.
        typed = np.append(np.maximum(self.typed_last(time), 0), len(self.order) - 1)
        at = np.maximum(self.ends[self.order[typed]] - 1, 0)
        down = baselines[np.searchsorted(starts, at, side="right") - 1]
        return np.asarray(down[-1] - down[:-1])

    def aside(self, time: Floats) -> Floats | None:
        """(t, n): px right by which pieces stand beside where they rest; None where they do not."""
        return None if self.middles is None else self.middles.of_pieces(self.typed_last(time))

    def carets(self, time: Floats, fps: float) -> Floats | None:
        """(t, 4): left, top, right, bottom of the caret in px of the words, NaN where there is none."""
        caret, layout = self.typing.caret, self.layout
        if caret is None or layout is None:
            return None
        last, rise = self.typed_last(time), self.rise(time)
        found = np.full((len(time), 4), np.nan)
        for number in np.flatnonzero(self._is_there(time, last, caret, fps)).tolist():
            piece = int(last[number])
            index = int(self.ends[self.order[piece]]) if piece >= 0 else self._before_first()
            across = 0.0 if self.middles is None else self.middles.of_caret(layout, piece, index)
            moved = np.array([across, rise[number], across, rise[number]])
            found[number] = caret_box(layout, caret, index) + moved
        return found

    def _before_first(self) -> int:
        """The character before which typing begins."""
        if not len(self.order):
            return 0
        piece = int(self.order[0])
        return int(self.ends[piece - 1]) if piece else 0

    def _is_there(self, time: Floats, last: Ints, caret: Caret, fps: float) -> NDArray[np.bool_]:
        """(t,): whether the caret is to be seen."""
        whole = np.floor(time)
        if self.leaving:
            return (whole > 0) & (whole < self.span)
        starts = np.append(self.times.starts[self.order], 0.0)  # -1 is before the first, from 0 on
        since = (whole - starts[last]) / fps
        over = last == len(self.order) - 1
        shown = (whole >= 0) & ~(over & (since >= caret.stays))
        return shown & (since % caret.wink < caret.wink / 2) if caret.wink else shown


def caret_box(layout: Layout, caret: Caret, index: int) -> Floats:
    """(4,): left, top, right, bottom of a caret before a character, px of the layout."""
    x, top, _, bottom = caret_at(layout, index)
    em = layout.size
    wide = {"bar": 0.06, "block": 0.5, "underline": 0.5}[caret.shape] * em
    gap = 0.03 * em  # to the letter before it
    if caret.shape == "underline":
        top, bottom = bottom - 0.08 * em, bottom
    # Where words run to the left, what comes next is on that side.
    left = x + gap if rises_at(layout, index) else x - gap - wide
    return np.array([left, top, left + wide, bottom])


def _ends(subject: Subject, kind: str, count: int) -> Ints:
    """(count,): the characters behind each of a move's pieces."""
    owners = subject.owners(kind)[0]
    total = sum(len(text) for text in subject.texts)
    stops = np.append(subject.starts[1:], total)
    ends = np.zeros(count, dtype=np.int64)
    np.maximum.at(ends, owners, stops)
    return ends


def _behind(subject: Subject, ends: Ints) -> list[str]:
    """What each piece ends with: `line`, `stop`, or nothing of note."""
    text = "".join(subject.texts)
    lines = {line.start for line in subject.layout.lines[1:]} if subject.layout is not None else set()
    stops = (text[:end].rstrip()[-1:] in _STOPS for end in ends.tolist())
    return [
        "line" if end in lines else ("stop" if stop else "")
        for end, stop in zip(ends.tolist(), stops, strict=True)
    ]


def gaps_of(move: Move, subject: Subject) -> tuple[Floats, bool]:
    """(K,): the gaps of a move that types unevenly or as tapped, and whether they are frames or seconds."""
    assert move.typing is not None
    count = subject.owners(move.pieces)[1]
    ranks = move_ranks(move, count, subject.places(move) if move.order in BY_PLACE else None)
    last = int(ranks.max(initial=0))
    if not last or _is_even(move.typing):
        return np.zeros(0), True
    if move.typing.rhythm == "uneven":
        typed = last - ranks if move.leaves else ranks
        return _drawn(move, move.typing, typed, _behind(subject, _ends(subject, move.pieces, count))), True
    return _tapped(move.typing, last), False


def _starts(move: Move, ranks: Ints, behind: list[str], span: int, fps: float) -> Floats:
    """(K + 1,): frames at which the pieces of each rank come: the first at 0, the last at the span's end, or
    by a pace when that says, faster where the span is too short for it."""
    typing, last = move.typing, int(ranks.max(initial=0))
    assert typing is not None
    if last == 0:
        return np.zeros(1)
    if move.pace is not None and move.starts:
        given = given_starts(move, last) * fps
        return np.floor(given * (min(1.0, span / given[-1]) if given[-1] else 1.0) + 0.5)
    if _is_even(typing):
        taken = float(span) if move.pace is None else min(float(span), last / move.pace.a_second * fps)
        return np.asarray(easing(move.order_curve)(np.arange(last + 1) / last) * taken)
    gaps = _drawn(move, typing, ranks, behind) if typing.rhythm == "uneven" else _tapped(typing, last)
    reached = np.concatenate([[0.0], np.cumsum(gaps)])
    if move.pace is not None:
        frames = reached if typing.rhythm == "uneven" else reached * fps
        return np.floor(frames * min(1.0, span / frames[-1]) + 0.5)
    # Rounding what is reached, not the gaps, leaves their sum exact.
    return np.floor(reached / reached[-1] * span + 0.5)


def _is_even(typing: Typing) -> bool:
    """A single tap says nothing of a rhythm."""
    return typing.rhythm == "even" or (typing.rhythm == "tapped" and len(typing.taps) < 2)


def _drawn(move: Move, typing: Typing, ranks: Ints, behind: list[str]) -> Floats:
    """(K,): gaps between neighbouring ranks by the seed, longer behind stops and line ends."""
    last = int(ranks.max())
    low, high = min(typing.least, typing.most), max(typing.least, typing.most)
    # The odd seed is the even one before it turned about, as in a shuffle.
    drawn = draws(move.seed & ~1, np.arange(last)) % np.uint64(high - low + 1)
    gaps = low + drawn.astype(np.float64)
    factors = {"line": typing.at_ends, "stop": typing.at_stops}
    for piece, said in enumerate(behind):
        if said and ranks[piece] < last:
            gaps[ranks[piece]] *= factors[said]
    return gaps


def _tapped(typing: Typing, last: int) -> Floats:
    """(last,): gaps between taps; where there are too few, the mean of them goes on."""
    gaps = np.maximum(np.diff(np.array(typing.taps)), 1e-3)
    if len(gaps) >= last:
        return gaps[:last]
    return np.concatenate([gaps, np.full(last - len(gaps), gaps.mean())])
