"""Where the values of a lane lie, and what of it is under a hand."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from PySide6.QtCore import QPointF

from rovix.curve import TANGENTS
from rovix.desktop.timeline.lanes.state import Lane
from rovix.desktop.timeline.scale import Scale
from rovix.edit.tangents import SIDES
from rovix.model import Clip, ColourKeys, Key, Keys
from rovix.model.fields import Animated
from rovix.motion.reading import key_value, values_of

KEY_REACH = 7.0
_EDGE = 9.0  # px left free at a lane's top and bottom
_NONE: frozenset[float] = frozenset()
_MOST = 700  # samples of a curve


@dataclass(frozen=True, slots=True)
class Handle:
    """The end of a key's tangent: `side` before or after the key of that frame."""

    frame: int
    side: str


class LaneCurve:
    """The curve of one lane: its channel's values over the clip, fitted into the lane's height."""

    def __init__(
        self,
        lane: Lane,
        clip: Clip,
        held: Animated | float,
        scale: Scale,
        chosen: frozenset[float] = _NONE,
    ) -> None:
        self.lane, self.clip, self.held, self.scale = lane, clip, held, scale
        self.chosen = chosen
        self.frames, self.values = self._sampled()
        self.low, self.high = self._range()

    @property
    def keys(self) -> tuple[Key, ...]:
        return () if isinstance(self.held, float) else self.held.keys  # type: ignore[return-value]

    @property
    def unit(self) -> float:
        """How many values are as far on screen as one frame."""
        return (self.high - self.low) / max(1.0, self.lane.height - 2 * _EDGE) * self.scale.px

    def x(self, frame: float) -> float:
        """The middle of a frame of the clip."""
        return self.scale.x(self.clip.start + frame) + self.scale.px / 2

    def frame(self, x: float) -> float:
        return self.scale.frame(x - self.scale.px / 2) - self.clip.start

    def y(self, value: float) -> float:
        share = (value - self.low) / (self.high - self.low)
        return self.lane.bottom - _EDGE - share * (self.lane.height - 2 * _EDGE)

    def value(self, y: float) -> float:
        share = (self.lane.bottom - _EDGE - y) / (self.lane.height - 2 * _EDGE)
        return self.low + share * (self.high - self.low)

    def point(self, key: Key) -> QPointF:
        return QPointF(self.x(key.frame), self.y(self._key_value(key)))

    def _key_value(self, key: Key) -> float:
        if isinstance(self.held, float | ColourKeys):
            return 0.5
        return key_value(self.held, key)

    def key_under(self, point: QPointF) -> Key | None:
        """The key under a point, the nearest first."""
        near = [(_way(self.point(key), point), n) for n, key in enumerate(self.keys)]
        distance, number = min(near, default=(KEY_REACH + 1, 0))
        return self.keys[number] if distance <= KEY_REACH else None

    def handles(self) -> list[tuple[Handle, QPointF, QPointF]]:
        """The tangents of selected keys, each with its key's point and its end."""
        if not isinstance(self.held, Keys):
            return []
        found = []
        for number, key in enumerate(self.held.keys):
            for side in SIDES if key.frame in self.chosen else ():
                if self._goes_along(number, side):
                    end = self.handle_of(number, side)
                    way = -1 if side == "before" else 1
                    tip = QPointF(self.x(key.frame + way * end[0]), self.y(key.value + end[1]))
                    found.append((Handle(key.frame, side), self.point(key), tip))
        return found

    def _goes_along(self, number: int, side: str) -> bool:
        keys = self.keys
        if side == "after":
            return number + 1 < len(keys) and keys[number].curve == TANGENTS
        return number > 0 and keys[number - 1].curve == TANGENTS

    def handle_of(self, number: int, side: str) -> tuple[float, float]:
        """A key's tangent, level and a third of the way long where it has none of its own."""
        own = getattr(self.keys[number], side)
        other = number + (1 if side == "after" else -1)
        room = abs(self.keys[other].frame - self.keys[number].frame)
        if own is None:
            return room / 3, 0.0
        cut = min(1.0, room / own[0]) if own[0] > 0 else 1.0
        return own[0] * cut, own[1] * cut

    def handle_under(self, point: QPointF) -> Handle | None:
        near = [(_way(tip, point), n) for n, (_, _, tip) in enumerate(self.handles())]
        distance, number = min(near, default=(KEY_REACH + 1, 0))
        return self.handles()[number][0] if distance <= KEY_REACH else None

    def _sampled(self) -> tuple[np.ndarray, np.ndarray]:
        last = max(1, self.clip.length - 1)
        count = int(min(_MOST, max(2, self.scale.px * last / 1.5)))
        frames = np.linspace(0.0, last, count)
        if isinstance(self.held, float):
            return frames, np.full(count, self.held)
        # Keys lie on the curve whatever the samples' spacing is, also right before a hold ends.
        own = np.array([key.frame for key in self.held.keys], dtype=np.float64)
        frames = np.unique(np.concatenate([frames, own, own - 1e-3]))
        frames = frames[(frames >= 0) & (frames <= last)]
        return frames, values_of(self.held, frames)

    def _range(self) -> tuple[float, float]:
        if isinstance(self.held, ColourKeys):
            return 0.0, 1.0
        values = [*self.values.tolist(), *(self._key_value(key) for key in self.keys)]
        low, high = min(values), max(values)
        if isinstance(self.held, Keys):
            ends = self._handle_values()
            low, high = min([low, *ends]), max([high, *ends])
        if high - low < 1e-9:
            return low - 1.0, high + 1.0
        return low, high

    def _handle_values(self) -> list[float]:
        return [
            key.value + self.handle_of(number, side)[1]
            for number, key in enumerate(self.keys)
            for side in SIDES
            if key.frame in self.chosen and self._goes_along(number, side)
        ]


def _way(one: QPointF, other: QPointF) -> float:
    return float(np.hypot(one.x() - other.x(), one.y() - other.y()))
