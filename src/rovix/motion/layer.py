"""One layer in motion: rest, keys and moves together, for many times and all pieces at once."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rovix.model import Media, PictureClip, TextClip
from rovix.model import Sequence as Reel
from rovix.model.identity import IdentityCache, RecentCache
from rovix.motion.beats import piece_beats
from rovix.motion.channels import CHANNELS
from rovix.motion.departure import MoveTiming, departures
from rovix.motion.distance import Stage
from rovix.motion.order import BY_PLACE
from rovix.motion.rest import rest_at
from rovix.motion.settle import is_changing, settled_layer
from rovix.motion.spans import MoveSpans, move_spans
from rovix.motion.stagger import piece_times
from rovix.motion.subject import SIGMAS, Subject, block_pivots, look_reach, look_spill, subject_of
from rovix.motion.transform import affine
from rovix.time import Rate

Floats = NDArray[np.float64]


@dataclass(frozen=True, slots=True, eq=False)
class LayerState:
    """A layer at t times, n pieces. All values are plain numbers in the model's units.

    `rest` holds (t,) arrays; `pieces` holds (t, n) arrays of departures, neutral where at rest.
    `layer` is (t, 4, 4), `local` (t, n, 4, 4): a piece's matrix in the world is layer @ local.
    `shown` is (t, n). `content` is the layer with its words, look or shape as they are at the first
    of the times, and `subject` is of that one.
    """

    content: PictureClip
    subject: Subject
    rest: dict[str, Floats]
    pieces: dict[str, Floats]
    layer: Floats
    local: Floats
    shown: NDArray[np.bool_]

    def opacity(self) -> Floats:
        """(t, n): the piece's own opacity, without the layer's; 0 where it is not shown."""
        return np.where(self.shown, self.pieces["opacity"], 0.0)

    @classmethod
    def joined(cls, states: Sequence[LayerState]) -> LayerState:
        """The states of a layer at times one after the other as one."""
        first = states[0]
        return cls(
            first.content,
            first.subject,
            {name: np.concatenate([state.rest[name] for state in states]) for name in first.rest},
            {name: np.concatenate([state.pieces[name] for state in states]) for name in first.pieces},
            *(np.concatenate([getattr(s, name) for s in states]) for name in ("layer", "local", "shown")),
        )


class LayerMotion:
    """A layer laid out in time; ask it :meth:`at` any real frame numbers of its clip."""

    def __init__(
        self,
        clip: PictureClip,
        size: tuple[int, int],
        rate: Rate,
        shown: Media | Reel | None = None,
        hugged: PictureClip | None = None,
        frame: float = 0.0,
    ) -> None:
        self.clip = clip
        self.content = settled_layer(clip, frame)
        self.size = size
        # Kept alive with the motion, so that the identities it is remembered by stay theirs.
        self.depends_on = (shown, hugged)
        self.subject = subject_of(self.content, size, shown, hugged)
        self.spans: MoveSpans = move_spans(clip.moves, clip.length, rate)
        self.timings = [self._timing(index, rate) for index in range(len(clip.moves))]
        self._stages = [self._stage(timing) for timing in self.timings]

    def at(self, frames: Floats) -> LayerState:
        """The layer's state at frames (t,) of its clip, whole or between."""
        frames = np.asarray(frames, dtype=np.float64)
        rest = rest_at(self.clip.place, frames)
        turning = block_pivots(self.subject, self.clip.place, frames)
        pieces, pivots, shown = self._departures(frames, turning)
        local = affine(pieces, pivots)
        return LayerState(self.content, self.subject, rest, pieces, affine(rest, turning), local, shown)

    def departures_of(self, index: int, frames: Floats) -> dict[str, Floats]:
        """What one move does by itself: (t, n) values of each channel that it touches."""
        return departures(self.timings[index], frames, self._stages[index])

    def stage_of(self, index: int) -> Stage:
        """What one move's distances are measured against."""
        return self._stages[index]

    def away_frame(self, index: int) -> float:
        """The frame of the clip at which an entrance or exit is fully away."""
        timing = self.timings[index]
        return float(timing.start if timing.move.role == "entrance" else timing.start + timing.span)

    def _departures(
        self, frames: Floats, turning: Floats
    ) -> tuple[dict[str, Floats], Floats, NDArray[np.bool_]]:
        shape = (len(frames), len(self.subject))
        values = {name: np.full(shape, rule.neutral) for name, rule in CHANNELS.items()}
        pivots = np.broadcast_to(turning[:, None], (*shape, 2))
        shown = np.ones(shape, dtype=bool)
        for timing, stage in zip(self.timings, self._stages, strict=True):
            for name, departure in departures(timing, frames, stage).items():
                values[name] = CHANNELS[name].combine(values[name], departure)
            active = (timing.progress(frames) < 1.0)[..., None]
            pivots = np.where(active, self.subject.pivots(timing.move, turning), pivots)
            if timing.move.before == "hidden":
                shown &= ~timing.hidden(frames)
        return values, pivots, shown

    def _timing(self, index: int, rate: Rate) -> MoveTiming:
        move = self.clip.moves[index]
        span = self.spans.frames(move, rate)
        owners, count = self.subject.owners(move.pieces)
        start = self.spans.start(move, rate)
        places = self.subject.places(move) if move.order in BY_PLACE else None
        if move.role == "loop":
            beats = piece_beats(move, count, span, rate, places)
            return MoveTiming(move, start, span, beats.times(), owners, beats)
        return MoveTiming(move, start, span, piece_times(move, count, span, rate, places), owners)

    def _stage(self, timing: MoveTiming) -> Stage:
        """Distances are measured where the move meets rest, with the piece scaled and turned away."""
        landing = np.array([float(timing.span if timing.move.role == "entrance" else timing.start)])
        rest = rest_at(self.clip.place, landing)
        turning = block_pivots(self.subject, self.clip.place, landing)
        layer = affine(rest, turning)[0]
        still = np.broadcast_to(np.eye(4), (len(self.subject), 4, 4))
        content = settled_layer(self.clip, float(landing[0]))
        reach = look_reach(content)
        plain = Stage(self.size, self.subject, layer, still, reach)
        away = self.away_frame(self.timings.index(timing))
        values = {name: np.full((1, len(self.subject)), rule.neutral) for name, rule in CHANNELS.items()}
        touched = departures(timing, np.array([float(away)]), plain)
        values |= {name: value for name, value in touched.items() if name not in ("x", "y")}
        blur = SIGMAS * float(rest["blur_across"][0]), SIGMAS * float(rest["blur_down"][0])
        spill = look_spill(content.look) if isinstance(content, TextClip) else (0.0, 0.0, 0.0, 0.0)
        turned = affine(values, self.subject.pivots(timing.move, turning))[0]
        return Stage(self.size, self.subject, layer, turned, reach, spill, blur)


_motions: IdentityCache[LayerMotion] = IdentityCache()
_changing: RecentCache[LayerMotion] = RecentCache(64)


def layer_motion(
    clip: PictureClip,
    size: tuple[int, int],
    rate: Rate,
    shown: Media | Reel | None = None,
    hugged: PictureClip | None = None,
    frame: float = 0.0,
) -> LayerMotion:
    """The motion of a clip in a sequence, kept as long as the clip lives.

    Where its words, look or shape change it is that with what they are at a frame of the clip.

    `shown` is its file or the sequence that it shows; `hugged` is the layer that a shape hugs.
    """
    detail: tuple[object, ...] = (size, rate, id(shown), id(hugged))
    if is_changing(clip):
        detail = (*detail, frame)
        return _changing.get(clip, lambda: LayerMotion(clip, size, rate, shown, hugged, frame), detail)
    return _motions.get(clip, lambda: LayerMotion(clip, size, rate, shown, hugged), detail)
