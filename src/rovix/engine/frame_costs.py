"""What pictures took to draw, frame by frame, and what those that come are likely to take."""

from __future__ import annotations

from collections import deque
from collections.abc import Collection, Iterable
from dataclasses import dataclass, field, replace
from itertools import islice

_RECENT = 16  # pictures by which it is judged where too little is known of those that come
_KNOWN = 24  # frames, or half of those that come: enough to go by
_KEPT = 4000  # frames


@dataclass(frozen=True, slots=True)
class Taken:
    """What one picture takes in ms: `fixed` whatever its quality, `drawing` at its best; `moments` are those
    of its motion blur, 0 without."""

    fixed: float = 0.0
    drawing: float = 0.0
    moments: int = 0

    def times(self, share: float) -> Taken:
        """One that takes so many times the drawing."""
        return replace(self, drawing=self.drawing * share)


@dataclass(slots=True)
class FrameCosts:
    """What was measured, the latest of each frame. Of what the project was before it changed only the course
    over time counts: how much more or less it takes now is said by the frames drawn since."""

    recent: deque[Taken] = field(default_factory=lambda: deque(maxlen=_RECENT))
    _now: dict[int, Taken] = field(default_factory=dict)
    _before: dict[int, Taken] = field(default_factory=dict)
    _changed: bool = False

    def note(self, frame: int, taken: Taken) -> None:
        """A picture was drawn."""
        if self._changed:
            self._changed = False
            self._before.update(self._now)
            self._now.clear()
            _forget_oldest(self._before)
        self.recent.append(taken)
        self._now.pop(frame, None)  # the latest last
        self._now[frame] = taken
        _forget_oldest(self._now)

    def changed(self) -> None:
        """The project was edited."""
        self._changed = True

    def resized(self, share: float) -> None:
        """Drawing takes so many times what it took."""
        self.recent = deque((taken.times(share) for taken in self.recent), _RECENT)
        for known in (self._now, self._before):
            for frame, taken in known.items():
                known[frame] = taken.times(share)

    def expected(self, missing: Collection[int], ready: int) -> list[Taken]:
        """What frames that are to be drawn, and as many more that are ready, are likely to take: by what is
        known of them, or where that is too little by what was measured last."""
        if not missing:
            return []
        share = self._more()
        known = [found for frame in missing if (found := self._of(frame, share)) is not None]
        likely = known if len(known) >= min(_KNOWN, len(missing) / 2) else list(self.recent)
        return likely + [Taken()] * round(len(likely) * ready / len(missing))

    def _of(self, frame: int, share: float) -> Taken | None:
        if not self._changed and frame in self._now:
            return self._now[frame]
        before = self._now.get(frame) if self._changed else None
        before = before or self._before.get(frame)
        return None if before is None else before.times(share)

    def _more(self) -> float:
        """How many times what it took before drawing takes now, by the frames that are known of both."""
        if self._changed:
            return 1.0
        both = self._now.keys() & self._before.keys()
        before = sum(self._before[frame].drawing for frame in both)
        return sum(self._now[frame].drawing for frame in both) / before if before > 0 else 1.0


def _forget_oldest(known: dict[int, Taken]) -> None:
    gone: Iterable[int] = list(islice(known, max(0, len(known) - _KEPT)))
    for frame in gone:
        del known[frame]
