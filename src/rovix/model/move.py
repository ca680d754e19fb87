"""A move: a reusable departure from rest, dealt out to pieces."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

import msgspec

from rovix.model import limits
from rovix.model.channel import Mix
from rovix.model.colour import Colour
from rovix.model.move_channels import MOVE_CHANNELS
from rovix.model.node import Id, Node, new_id
from rovix.model.reference import refers
from rovix.model.roles import ROLES, Role

Pieces = Literal["whole", "lines", "words", "letters"]
Order = Literal["reading", "reversed", "centre-out", "ends-in", "shuffled", "from-point", "to-point"]
Pivot = Literal["letter", "piece", "line", "block"]
if TYPE_CHECKING:
    MovedChannel = str
else:
    MovedChannel = Literal[tuple(MOVE_CHANNELS)]
Unit = Literal["px", "frame", "block", "em", "piece", "off-frame", "number"]


class Amount(Node, frozen=True, kw_only=True):
    """How far a channel departs.

    For ways, offsets, blurs and edges the unit counts: px; shares of the frame, of the block or of
    the move's piece (across or down, as the channel goes; down a piece is as high as its line); em
    of the words' size; for x and y also off-frame, the least distance that clears the frame on the
    side of the value's sign, times its size. `number` is for figures: what they count from. The
    other channels take the plain number: degrees, em of tracking, the factor that scale and
    opacity have when fully away, the share of a colour, of a wipe, of letters typed or swapped, or
    the strength that each echo keeps of the one before.
    """

    value: limits.Amount
    unit: Unit = "px"


class InnerKey(Node, frozen=True, kw_only=True):
    """An amount at a share (0 to 1) of a piece's way, and the easing on to the next."""

    at: Annotated[float, msgspec.Meta(ge=0, le=1)]
    amount: Amount
    curve: limits.Curve = "linear"


class Chance(Node, frozen=True, kw_only=True):
    """Random draws, so many a second, of a seed; `smooth` goes from one to the next without a step."""

    rate: Annotated[float, msgspec.Meta(gt=0, le=1000)] = 12.0
    seed: Annotated[int, msgspec.Meta(ge=0, le=2**53)] = 1
    smooth: bool = False


class Echoes(Node, frozen=True, kw_only=True):
    """How many copies trail a move, and how many seconds each is behind the one before."""

    copies: Annotated[int, msgspec.Meta(ge=1, le=60)] = 4
    gap: Annotated[float, msgspec.Meta(gt=0, le=60)] = 0.08


class Departure(Node, frozen=True, kw_only=True):
    """One channel of a move: an amount that the piece curve takes back, or inner keys.

    Inner keys run in forward time, an entrance's to neutral, an exit's from neutral. With `keys`
    present `amount` and `curve` do nothing. `curve` replaces the move's piece curve.

    In a loop an amount is reached in the middle of each beat, there and back along the curve; inner
    keys cover one beat, and where they end other than they began each beat begins anew.

    With a `chance` the departure shakes: it is that far to one side or the other at random, piece by
    piece. Letters that are swapped are drawn by it. `colour` and `mix` are of the channel colour,
    `angle` (the way the edge goes, degrees clockwise from rightwards) of wipe, `echoes` of echo.
    """

    channel: MovedChannel
    amount: Amount = Amount(value=0.0)
    curve: limits.Curve | None = None
    keys: tuple[InnerKey, ...] = ()
    chance: Chance | None = None
    colour: Colour = "#f2b13c"
    mix: Mix = "srgb"
    angle: limits.Far = 0.0
    echoes: Echoes = Echoes()


class Beats(Node, frozen=True, kw_only=True):
    """How a loop's beats fill the clip.

    They run from the entrance's end to the exit's start, or `over` the whole clip. `count` 0 fills
    that span, another number rests after so many. `fitted` beats are stretched or squeezed to whole
    ones; free ones keep their length and swell and ebb over `ramp` seconds at both ends. `phase` is
    how many beats the last piece is behind the first.
    """

    over: Literal["stay", "clip"] = "stay"
    count: Annotated[int, msgspec.Meta(ge=0, le=100_000)] = 0
    fitted: bool = True
    ramp: Annotated[float, msgspec.Meta(ge=0, le=3600)] = 0.4
    phase: Annotated[float, msgspec.Meta(ge=0, le=1000)] = 0.0


class Caret(Node, frozen=True, kw_only=True):
    """Stands behind what was typed last, in the fill's paint; gone `stays` seconds after the last piece.

    While nothing is typed it winks once in `wink` seconds, shown for the first half; 0 never.
    """

    shape: Literal["bar", "block", "underline"] = "bar"
    wink: Annotated[float, msgspec.Meta(ge=0, le=60)] = 1.0
    stays: Annotated[float, msgspec.Meta(ge=0, le=3600)] = 0.0


Tap = Annotated[float, msgspec.Meta(ge=0, le=1_000_000)]


class Typing(Node, frozen=True, kw_only=True):
    """Pieces come at once, one after the other in a rhythm; an exit takes them back.

    `even` gaps go by the sequence curve. `uneven` ones are drawn by the move's seed between `least`
    and `most` frames, times `at_stops` behind punctuation and `at_ends` behind a line; `tapped` ones
    are those between `taps`, seconds rising from 0. Both are then stretched to the move's length.
    With `one_height` lines that were typed before move up, a line at a time, so that the line being
    typed is always where the last one rests. With `centred` what is typed of a line stands about the
    middle of the whole line across, and comes to rest with the line's last piece.
    """

    rhythm: Literal["even", "uneven", "tapped"] = "even"
    least: Annotated[int, msgspec.Meta(ge=1, le=1000)] = 3
    most: Annotated[int, msgspec.Meta(ge=1, le=1000)] = 9
    at_stops: Annotated[float, msgspec.Meta(ge=0.1, le=100)] = 2.0
    at_ends: Annotated[float, msgspec.Meta(ge=0.1, le=100)] = 3.0
    taps: Annotated[tuple[Tap, ...], msgspec.Meta(max_length=20_000)] = ()
    caret: Caret | None = None
    one_height: bool = False
    centred: bool = False


OWN_PIECE_SOUNDS = frozenset({"key", "tick", "knock", "drop", "thump"})
OWN_SPEED_SOUNDS = frozenset({"rush", "rumble"})
"""The names of the sounds that come with Rovix for strikes, and of those that follow a speed."""
_HEARD = ("sound", "footage")
PieceSoundId = Annotated[str, refers("media", "play", files=_HEARD, heard=True, own=OWN_PIECE_SOUNDS)]
SpeedSoundId = Annotated[str, refers("media", "play", files=_HEARD, heard=True, own=OWN_SPEED_SOUNDS)]


class PieceSound(Node, frozen=True, kw_only=True):
    """A sound on each piece as it starts or lands; of a loop on each beat, its landing in the middle.

    `sound` is the name of one that comes with Rovix or the id of a file. Level and pitch are up to
    the spreads, dB and semitones, to either side, by the seed.
    """

    sound: PieceSoundId = "key"
    at: Literal["start", "landing"] = "start"
    gain: Annotated[float, msgspec.Meta(ge=-120, le=60)] = -6.0
    level_spread: Annotated[float, msgspec.Meta(ge=0, le=60)] = 2.0
    pitch_spread: Annotated[float, msgspec.Meta(ge=0, le=24)] = 1.0
    seed: Annotated[int, msgspec.Meta(ge=0, le=2**53)] = 1


class SpeedSound(Node, frozen=True, kw_only=True):
    """A sound as loud as the move is fast: `gain` dB where it is fastest, silent at its end."""

    sound: SpeedSoundId = "rush"
    gain: Annotated[float, msgspec.Meta(ge=-120, le=60)] = -6.0


class Pace(Node, frozen=True, kw_only=True):
    """How fast a move goes piece by piece; how long it is follows from the words.

    A piece takes `piece` seconds, and the next starts `stagger` seconds after it. Of typing, `a_second`
    pieces come in a second where the rhythm is even; drawn gaps are frames, tapped ones as they were tapped.
    """

    piece: Annotated[float, msgspec.Meta(ge=0, le=3600)] = 0.35
    stagger: Annotated[float, msgspec.Meta(ge=0, le=3600)] = 0.045
    a_second: Annotated[float, msgspec.Meta(ge=0.01, le=1000)] = 14.0


class Move(Node, frozen=True, kw_only=True):
    """Departures from rest over a span at the clip's start (entrance) or end (exit), or between.

    `length` in seconds is the whole span. `at_once` is how many pieces are in motion together;
    0 cuts them on. A `stagger` in seconds, when given, takes its place: the span stays, and each
    piece has what the stagger leaves of it.

    `point` is where the orders from-point and to-point measure distance from, in shares of the
    layer's block, right and down; it may lie outside.

    With a `pace` the length follows from the words, and `length`, `at_once` and `stagger` say nothing.
    By a pace, `starts` are the seconds at which pieces set off, in their order, in place of the stagger or
    rhythm; a piece without one follows the last at the median gap.

    A move starts `wait` seconds after the clip's start (an exit ends so long before its end), or, with
    `after`, as long after the end of the one before it of its role.

    A loop's `length` is one beat, and its pieces follow one another by :class:`Beats` in place of
    stagger and at once. With `typing` pieces are hidden until they come.
    """

    id: Id = msgspec.field(default_factory=new_id)
    name: limits.Name = ""
    role: Role
    length: Annotated[float, msgspec.Meta(ge=0, le=3600)] = 0.5
    pace: Pace | None = None
    starts: Annotated[tuple[Tap, ...], msgspec.Meta(max_length=20_000)] = ()
    wait: Annotated[float, msgspec.Meta(ge=0, le=3600)] = 0.0
    after: bool = False
    pieces: Pieces = "whole"
    order: Order = "reading"
    point: tuple[limits.Far, limits.Far] = (0.5, 0.5)
    seed: Annotated[int, msgspec.Meta(ge=0, le=2**53)] = 1
    at_once: Annotated[float, msgspec.Meta(ge=0, le=100_000)] = 1.0
    stagger: Annotated[float, msgspec.Meta(ge=0, le=3600)] | None = None
    piece_curve: limits.Curve = "cubic-out"
    order_curve: limits.Curve = "linear"
    pivot: Pivot = "piece"
    before: Literal["away", "hidden"] = "away"
    beats: Beats = Beats()
    typing: Typing | None = None
    piece_sound: PieceSound | None = None
    speed_sound: SpeedSound | None = None
    channels: tuple[Departure, ...] = ()

    @property
    def enters(self) -> bool:
        """Whether it ends at rest, after the clip's start."""
        return ROLES[self.role].side == "start"

    @property
    def leaves(self) -> bool:
        """Whether it begins at rest, before the clip's end."""
        return ROLES[self.role].side == "end"

    @property
    def beats_on(self) -> bool:
        """Whether it goes on and on from rest to rest."""
        return ROLES[self.role].side == "between"
