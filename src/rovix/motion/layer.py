"""One layer in motion: rest, keys and moves together, for many times and all pieces at once."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import partial

import numpy as np
from numpy.typing import NDArray

from rovix.model import Echoes, Media, PictureClip
from rovix.model import Sequence as Reel
from rovix.model.clip_kinds import has_words
from rovix.model.identity import IdentityCache, RecentCache
from rovix.motion.at_frame import at_frame, is_changing, layer_at
from rovix.motion.beats import piece_beats
from rovix.motion.channels import CHANNELS
from rovix.motion.crossing import CrossingWay, crossing_way
from rovix.motion.departure import Moments, MoveTiming, departures
from rovix.motion.distance import CLEARANCE, Stage
from rovix.motion.moved import Channels, ColourMix, Moved, placed
from rovix.motion.order import BY_PLACE
from rovix.motion.pace import clip_spans
from rovix.motion.rest import rest_at
from rovix.motion.spans import MoveSpans
from rovix.motion.stagger import piece_times
from rovix.motion.subject import (
    SIGMAS,
    Subject,
    block_pivots,
    effect_spill,
    ink_box,
    look_reach,
    look_spill,
    pivot_kind,
    subject_of,
)
from rovix.motion.transform import affine, box_corners, mapped, projected
from rovix.motion.typing import Typed
from rovix.motion.windows import Window, times_of
from rovix.time import Rate

Floats = NDArray[np.float64]


_NEUTRAL = {name: rule.neutral for name, rule in CHANNELS.items()}


@dataclass(frozen=True, slots=True, eq=False)
class LayerState:
    """A layer at t times, n pieces. All values are plain numbers in the model's units.

    `rest` holds (t,) arrays; `pieces` holds (t, n) arrays of departures, neutral where at rest.
    `layer` is (t, 4, 4), `local` (t, n, 4, 4): a piece's matrix in the world is layer @ local.
    `shown` is (t, n); `parted` (t, n) are the px to the right by which tracking moves pieces, which
    `local` has already. `content` is the layer with its words, look or shape as they are at the first
    of the times, and `subject` is of that one. `windows` are what is to be seen of pieces, `mixes`
    the colours laid over their fill, in order; `echoes` trail it as strongly as `pieces` say. `caret`
    (t, 4) is the box of a caret in the layer's px, NaN where there is none.
    """

    content: PictureClip
    subject: Subject
    rest: dict[str, Floats]
    pieces: Channels
    layer: Floats
    local: Floats
    shown: NDArray[np.bool_]
    parted: Floats
    windows: tuple[Window, ...] = ()
    mixes: tuple[ColourMix, ...] = ()
    echoes: Echoes | None = None
    caret: Floats | None = None

    def opacity(self) -> Floats:
        """(t, n): the piece's own opacity, without the layer's; 0 where it is not shown."""
        return np.where(self.shown, self.pieces["opacity"], 0.0)

    def departure(self, moment: int, piece: int) -> dict[str, float]:
        """A piece's departure in every channel at one of the moments."""
        touched = self.pieces
        return {
            name: touched[name].item(moment, piece) if name in touched else neutral
            for name, neutral in _NEUTRAL.items()
        }

    def part(self, part: slice) -> LayerState:
        """The state at some of the times alone, as it would be were they the only ones."""
        rest = {name: times_of(values, part) for name, values in self.rest.items()}
        return LayerState(
            self.content, self.subject, rest, self.pieces.part(part), times_of(self.layer, part),
            times_of(self.local, part), times_of(self.shown, part), times_of(self.parted, part),
            tuple(window.part(part) for window in self.windows),
            tuple(mix.part(part) for mix in self.mixes), self.echoes,
            None if self.caret is None else times_of(self.caret, part),
        )  # fmt: skip

    @classmethod
    def joined(cls, states: Sequence[LayerState]) -> LayerState:
        """The states of a layer at times one after the other as one, its windows and mixes left out."""
        first = states[0]
        return cls(
            first.content,
            first.subject,
            {name: np.concatenate([state.rest[name] for state in states]) for name in first.rest},
            _together(states),
            layer=np.concatenate([state.layer for state in states]),
            local=np.concatenate([state.local for state in states]),
            shown=np.concatenate([state.shown for state in states]),
            parted=np.concatenate([state.parted for state in states]),
        )


def _together(states: Sequence[LayerState]) -> Channels:
    made = Channels((sum(len(state.shown) for state in states), states[0].shown.shape[1]))
    made.update({name: np.concatenate([state.pieces[name] for state in states]) for name in CHANNELS})
    return made


class LayerMotion:
    """A layer laid out in time; ask it :meth:`at` any real frame numbers of its clip."""

    def __init__(
        self,
        clip: PictureClip,
        size: tuple[int, int],
        rate: Rate,
        shown: Media | Reel | None = None,
        fitted: PictureClip | None = None,
        frame: float = 0.0,
    ) -> None:
        self.clip = clip
        self.content = layer_at(clip, frame)
        self.size = size
        # Kept alive with the motion, so that the identities it is remembered by stay theirs.
        self.depends_on = (shown, fitted)
        self.subject = subject_of(self.content, size, shown, fitted)
        self.crossing = self._crossing_way(rate)
        self.spans: MoveSpans = clip_spans(clip, rate)
        self.timings = [self._timing(index, rate) for index in range(len(clip.moves))]
        self._stages = [self._stage(timing) for timing in self.timings]
        self.foreseen: dict[bytes, LayerState] = {}

    def at(self, frames: Floats) -> LayerState:
        """The layer's state at frames (t,) of its clip, whole or between."""
        frames = np.asarray(frames, dtype=np.float64)
        foreseen = self.foreseen.get(frames.tobytes())
        return self._at(frames) if foreseen is None else foreseen

    def foresee(self, asked: Sequence[Floats]) -> list[LayerState]:
        """The states at arrays of frames, each (t,) as :meth:`at` will be asked for it, evaluated in one go:
        a hundred frames cost little more than one. They are known from then on."""
        whole = self._at(np.concatenate(asked))
        ends = np.cumsum([len(frames) for frames in asked]).tolist()
        states = [whole.part(slice(end - len(frames), end)) for frames, end in zip(asked, ends, strict=True)]
        self.foreseen.update((frames.tobytes(), state) for frames, state in zip(asked, states, strict=True))
        return states

    def is_foreseen(self, frames: Floats) -> bool:
        """Whether these very frames need no evaluating any more."""
        return frames.tobytes() in self.foreseen

    def _at(self, frames: Floats) -> LayerState:
        rest = self.rest(frames)
        turning = block_pivots(self.subject, self.clip.transform, frames)
        departed = self._departures(frames, turning)
        pieces = departed.values
        local, parted = placed(self.subject, pieces, departed.pivots, departed.pivoted)
        return LayerState(
            self.content, self.subject, rest, pieces, affine(rest, turning), local, departed.shown, parted,
            tuple(departed.windows), tuple(departed.mixes), departed.echoes, departed.caret,
        )  # fmt: skip

    def rest(self, frames: Floats) -> dict[str, Floats]:
        """The layer's place before any move, with what a crossing adds to it."""
        found = rest_at(self.clip.transform, frames)
        way = self.crossing
        if way is None:
            return found
        name = ("x", "y")[way.axis]
        return {**found, name: found[name] + way.at(frames)}

    def _crossing_way(self, rate: Rate) -> CrossingWay | None:
        if self.clip.crossing is None:
            return None
        rest = rest_at(self.clip.transform, np.array([0.0]))
        matrix = affine(rest, block_pivots(self.subject, self.clip.transform, np.array([0.0])))[0]
        content = layer_at(self.clip, 0.0)
        spill = look_spill(content.look) if has_words(content) else (0.0, 0.0, 0.0, 0.0)
        reach = look_reach(content) + CLEARANCE
        left, up, right, down = np.array(spill) + self._effects_spill(0.0) + reach
        room = np.array([-left, -up, right, down])
        blur = SIGMAS * np.array([rest["blur_x"][0], rest["blur_y"][0]]) + CLEARANCE
        corners = box_corners(self.subject.ink + room)
        is_out = partial(_is_out, matrix, corners, blur, self.size)
        word = self._px_a_word(matrix, self.clip.crossing.across)
        return crossing_way(self.clip.crossing, self.clip.length, rate, is_out, self.size, word)

    def _px_a_word(self, matrix: Floats, across: bool) -> float | None:
        """Px of the frame that a word takes along the way; None for what has no words."""
        layout = self.subject.layout
        count = len(layout.text.split()) if layout is not None else 0
        if not count:
            return None
        corners = mapped(projected(matrix, self.size), box_corners(np.array([ink_box(self.subject)])))[0]
        return float(np.ptp(corners[:, 0 if across else 1])) / count

    def departures_of(self, index: int, frames: Floats) -> dict[str, Floats]:
        """What one move does by itself: (t, n) values of each channel that it touches."""
        return departures(Moments(self.timings[index], frames), self._stages[index])

    def stage_of(self, index: int) -> Stage:
        """What one move's distances are measured against."""
        return self._stages[index]

    def away_frame(self, index: int) -> float:
        """The frame of the clip at which an entrance or exit is fully away."""
        timing = self.timings[index]
        return float(timing.start if timing.move.enters else timing.start + timing.span)

    def _departures(self, frames: Floats, turning: Floats) -> Moved:
        departed = Moved.at_rest(self.subject, frames, turning)
        for timing, stage in zip(self.timings, self._stages, strict=True):
            departed.add(timing, stage)
        return departed

    def _timing(self, index: int, rate: Rate) -> MoveTiming:
        move = self.clip.moves[index]
        span = self.spans.frames(move, rate)
        owners, count = self.subject.owners(move.pieces)
        start = self.spans.start(move, rate)
        places = self.subject.places(move) if move.order in BY_PLACE else None
        fps = float(rate.fraction)
        if move.typing is not None and not move.beats_on:
            typed = Typed.of(move, self.subject, span, fps)
            return MoveTiming(move, start, span, typed.times, owners, fps, typed=typed)
        if move.beats_on:
            beats = piece_beats(move, count, span, rate, places)
            return MoveTiming(move, start, span, beats.times(), owners, fps, beats)
        return MoveTiming(move, start, span, piece_times(move, count, span, rate, places), owners, fps)

    def _stage(self, timing: MoveTiming) -> Stage:
        """Distances are measured where the move meets rest, with the piece scaled and turned away."""
        landing = np.array([float(timing.span if timing.move.enters else timing.start)])
        rest = self.rest(landing)
        turning = block_pivots(self.subject, self.clip.transform, landing)
        layer = affine(rest, turning)[0]
        still = np.broadcast_to(np.eye(4), (len(self.subject), 4, 4))
        content = layer_at(self.clip, float(landing[0]))
        reach = look_reach(content)
        spill = look_spill(content.look) if has_words(content) else (0.0, 0.0, 0.0, 0.0)
        # With room for the smoothing of edges, so that none cuts into what is at rest.
        boxes = self.subject.boxes(timing.move.pieces, reach + CLEARANCE, spill)
        plain = Stage(self.size, self.subject, layer, still, reach, boxes, np.zeros((1, 2)), spill)
        away = self.away_frame(self.timings.index(timing))
        values = Channels((1, len(self.subject)))
        touched = departures(Moments(timing, np.array([float(away)])), plain)
        values.update({name: value for name, value in touched.items() if name not in ("x", "y")})
        blurs = [np.hypot(rest[name][0], values[name][0]) for name in ("blur_x", "blur_y")]
        pivots = self.subject.pivots(timing.move, turning)
        always = np.ones((1, len(self.subject)), dtype=bool)
        turned = placed(self.subject, values, pivots, [(pivot_kind(timing.move), always)])[0][0]
        blur = SIGMAS * np.stack(blurs, axis=1)
        left, up, right, down = (np.array(spill) + self._effects_spill(float(landing[0]))).tolist()
        return Stage(self.size, self.subject, layer, turned, reach, boxes, blur, (left, up, right, down))

    def _effects_spill(self, frame: float) -> Floats:
        """(4,): px that the layer's effects show beyond its look at a frame."""
        return effect_spill(at_frame(effect, frame) for effect in self.clip.effects)


def _is_out(
    matrix: Floats, corners: Floats, blur: Floats, size: tuple[int, int], axis: int, distance: float
) -> bool:
    """Whether pieces (n, 4, 2) of a layer are all off the frame, moved along an axis by so many px."""
    moved = np.eye(4)
    moved[axis, 3] = distance
    found = mapped(projected(moved @ matrix, size), corners)
    seen = found[np.isfinite(found).all(axis=(1, 2))]
    low, high = seen.min(axis=1) - blur, seen.max(axis=1) + blur
    return not bool(((low < np.array(size)) & (high > 0)).all(axis=1).any())


_motions: IdentityCache[LayerMotion] = IdentityCache()
_changing: RecentCache[LayerMotion] = RecentCache(64)


def layer_motion(
    clip: PictureClip,
    size: tuple[int, int],
    rate: Rate,
    shown: Media | Reel | None = None,
    fitted: PictureClip | None = None,
    frame: float = 0.0,
) -> LayerMotion:
    """The motion of a clip in a sequence, kept as long as the clip lives.

    Where its words, look or shape change it is that with what they are at a frame of the clip.

    `shown` is its file or the sequence that it shows; `fitted` is the layer that a shape fits.
    """
    detail: tuple[object, ...] = (size, rate, id(shown), id(fitted))
    if is_changing(clip):
        detail = (*detail, frame)
        return _changing.get(clip, lambda: LayerMotion(clip, size, rate, shown, fitted, frame), detail)
    return _motions.get(clip, lambda: LayerMotion(clip, size, rate, shown, fitted), detail)
