"""How well pictures are drawn while playing, so that none comes late."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass, field
from math import ceil

from rovix.engine.frame_costs import FrameCosts, Taken

ALL = 1 << 20  # more samples than anything asks for


@dataclass(frozen=True, slots=True)
class Quality:
    """`scale` is a share of the size each way; motion blur has at most so many `samples`."""

    scale: float = 1.0
    samples: int = ALL

    def covers(self, other: Quality) -> bool:
        """Whether a picture of this quality does where another is asked for."""
        return self.scale >= other.scale and self.samples >= other.samples

    def size(self, full: tuple[int, int]) -> tuple[int, int]:
        """The width and height in px of a picture that is `full` at its best; the width is even, as footage
        takes three times as long to be converted to an odd one (measured, 1920 px to 987)."""
        if self.scale >= 1:
            return full
        width = max(2, round(full[0] * self.scale / 2) * 2)
        return width, max(1, round(full[1] * width / full[0]))


FULL = Quality()
LADDER = (
    FULL, Quality(1.0, 12), Quality(0.75, 8), Quality(0.5, 8), Quality(0.5, 4), Quality(1 / 3, 4),
    Quality(1 / 3, 2),
)  # fmt: skip
"""From the best down. Motion blur is never left out."""


@dataclass(frozen=True, slots=True)
class Cost:
    """What a picture took in ms of one process: the `whole`; of that it was `busy`, and did not wait for
    footage or a core; of that `fixed`, which does not depend on the quality (planning it and taking over
    footage). `moments` are the most that one exposure in it has, 0 without motion blur."""

    whole: float
    busy: float = 0.0
    fixed: float = 0.0
    moments: int = 0


_ENOUGH = 8  # pictures that were measured, from which it begins by them
_FITS, _SPARE = 0.85, 0.75  # of what processes can do: what is used up, and what lets it go up again
_LOW, _GONE = 240, 100  # ms ahead at which it looks whether they last, and at which it acts whatever it saw
_PATIENCE = 15  # pictures in a row with time to spare before it goes up
_SETTLING = 150  # ms after a change before the next, as those ahead were drawn before it
_HARD, _MOST_RUN_UP = 1.6, 0.7  # seconds that a hard part lasts, mostly, and of pictures that are waited for
_BEGINS = 4  # the step that it begins at, at most
_HARD_FITS = 0.85  # of what processes can do: what the dearer half may take
_SURE = 0.6  # of what they can do: what the dearer half takes where no more is to be there before it begins
_HOPELESS = 2.4  # times what can be done at that step, from which it begins at the last all the same
_TOO_MUCH = 1.7  # times what can be done, by what was drawn last
_SHARE, _TRUSTED = 0.6, 300  # of its time that a process that draws while playing is busy, at first; ms
_FADING = 0.95  # of what was measured, at each picture
_HELPS = 0.9  # of what it takes now, below which a step is one
_STAYS = 0.3  # of the drawing of a full picture that stays however small it is


@dataclass(slots=True)
class Governor:
    """Chooses how pictures are drawn from what they cost, and from how many are ready ahead.

    `processes` draw; a picture is due every `frame_time` ms. As long as enough are ready nothing is done:
    going down makes what is at rest to be drawn anew too.
    """

    processes: int
    frame_time: float = 1000 / 30
    step: int = 0
    _costs: FrameCosts = field(default_factory=FrameCosts)
    _expected: list[Taken] = field(default_factory=list)
    """What the pictures that playing begins with are likely to take."""
    _at_work: float = _SHARE
    """Of its time that a process is busy while playing: it waits for footage, and shares cores with the
    window and who decodes. Not as measured beside other work, as that of cards, which makes way."""
    _whole: float = _TRUSTED
    _busy: float = _TRUSTED * _SHARE
    _calm: int = 0
    _since: int = 0

    @property
    def quality(self) -> Quality:
        return LADDER[self.step]

    @property
    def frames_away(self) -> int:
        """How many frames are due before a picture that is begun now is drawn."""
        return ceil(self._load(self.step) * self.processes)

    def run_up(self, least: float) -> float:
        """How many seconds of pictures are to be there before the clock starts: `least`, or more where what
        was measured says that drawing will hang behind."""
        step = min(self.step, _BEGINS)
        all_along = _HARD * _behind(self._load(step, self._expected), _FITS)
        half = len(self._expected) / 2 * self.frame_time / 1000
        return min(_MOST_RUN_UP, max(least, all_along, half * _behind(self._hard(step), _SURE)))

    def begin(self, frame_time: float, missing: Collection[int] | None = None, ready: int = 0) -> None:
        """Playing begins, with these frames to be drawn, if it is known which, and so many more that are
        ready: as well as what was measured allows."""
        self.frame_time, self._calm, self._since, self.step = frame_time, 0, 0, 0
        self._whole, self._busy = _TRUSTED, _TRUSTED * self._at_work
        self._expected = list(self._costs.recent)
        if missing is not None:
            self._expected = self._costs.expected(missing, ready)
        if len(self._expected) > _ENOUGH:
            # Where hard parts are that hard, what is saved before them is all that gets through them.
            hopeless = self._hard(_BEGINS) > _HOPELESS
            fitting = (step for step in range(_BEGINS) if self._hard(step) <= _HARD_FITS)
            self.step = len(LADDER) - 1 if hopeless else next(fitting, _BEGINS)

    def note_cost(self, frame: int, quality: Quality, cost: Cost) -> None:
        """The picture of a frame was drawn at a quality."""
        drawing = max(0.0, cost.busy - cost.fixed)
        self._whole, self._busy = _FADING * self._whole + cost.whole, _FADING * self._busy + cost.busy
        # How many moments there would be at its best is not known where there are as many as may be.
        moments = cost.moments * 2 if cost.moments >= quality.samples else cost.moments
        self._costs.note(frame, Taken(cost.fixed, drawing / _work(quality, moments), moments))

    def changed(self) -> None:
        """The project was edited."""
        self._costs.changed()

    def forget(self) -> None:
        """Another project is opened: what its frames take is not known."""
        self._costs = FrameCosts()

    def resized(self, area: float) -> None:
        """Pictures have so many times the px from now on; what was measured goes along as far as it may."""
        self._costs.resized(_STAYS + (1 - _STAYS) * area)

    def note_due(self, ahead: int, wanted: int) -> None:
        """A frame is due, and of the `wanted` frames after it `ahead` are ready."""
        self._since += 1
        self._at_work = self._busy / self._whole
        lasting = ahead >= min(self._frames(_LOW), wanted)
        self._calm = self._calm + 1 if ahead >= wanted - 2 else 0
        if not lasting and (self._since > self._frames(_SETTLING) or ahead == 0):
            self._lower(ahead < min(self._frames(_GONE), wanted))
        elif self.step > 0 and self._calm >= _PATIENCE and self._load(self.step - 1) <= _SPARE:
            self._go_to(self.step - 1)

    def _frames(self, time: float) -> int:
        return ceil(time / self.frame_time)

    def _lower(self, gone: bool) -> None:
        """To the next step that helps, and no farther at a time: what was measured last may be dearer than
        what comes, as what had to be drawn first. Below what it begins at only where nearly all is gone, or
        where it is too much to be got through by what is ready."""
        now = self._load(self.step)
        less = range(self.step + 1, len(LADDER) if gone or now > _TOO_MUCH else _BEGINS + 1)
        helping = next((step for step in less if self._load(step) < _HELPS * now), None)
        if helping is not None and (gone or now > _FITS):
            self._go_to(helping)

    def _go_to(self, step: int) -> None:
        self.step, self._calm, self._since = step, 0, 0

    def _hard(self, step: int) -> float:
        """The share of what the processes can do that the dearer half of what is expected takes."""
        taken = _at(step, self._expected)
        return self._share(taken[len(taken) // 2 :])

    def _load(self, step: int, costs: Sequence[Taken] | None = None) -> float:
        """The share of what the processes can do that pictures take, but for the two dearest: those given, or
        those drawn last; 0 where there are none."""
        taken = _at(step, self._costs.recent if costs is None else costs)
        return self._share(taken[:-2] or taken)

    def _share(self, taken: Sequence[float]) -> float:
        """Of what the processes can do in the time that so many pictures are on screen."""
        there = len(taken) * self.frame_time * self.processes * self._at_work
        return sum(taken) / there if taken else 0.0


def _behind(load: float, fits: float) -> float:
    """The share of pictures that come late where drawing takes more of what there is than fits."""
    return 1.0 - fits / load if load > fits else 0.0


def _at(step: int, costs: Iterable[Taken]) -> list[float]:
    """What pictures take at a step in ms, in rising order."""
    quality = LADDER[step]
    return sorted(taken.fixed + taken.drawing * _work(quality, taken.moments) for taken in costs)


def _work(quality: Quality, moments: int) -> float:
    """What drawing at a quality takes beside drawing in full: part of it goes with the area, and where
    there is motion blur with how many samples it has."""
    samples = min(1.0, quality.samples / moments) if moments else 1.0
    return (_STAYS + (1 - _STAYS) * quality.scale**2) * samples
