"""Frames to px and back, and where the ruler has its marks."""

from __future__ import annotations

from dataclasses import dataclass

from rovix.time import Rate

HEADER = 150
RULER = 30
MIN_SCALE, MAX_SCALE = 0.002, 40.0  # hours fit, too


@dataclass(frozen=True, slots=True)
class Scale:
    """`px` per frame; frame `first` stands at the tracks' left edge."""

    px: float
    first: float = 0.0

    def x(self, frame: float) -> float:
        return HEADER + (frame - self.first) * self.px

    def frame(self, x: float) -> float:
        return self.first + (x - HEADER) / self.px

    def zoomed(self, factor: float, x: float) -> Scale:
        """Zoomed with the frame under x staying there."""
        px = min(max(self.px * factor, MIN_SCALE), MAX_SCALE)
        return Scale(px, max(0.0, self.frame(x) - (x - HEADER) / px))


def ruler_step(scale: Scale, rate: Rate, room: float = 76.0) -> int:
    """Frames between two labels of the ruler: whole frames, seconds or minutes that give room."""
    nominal = rate.nominal
    seconds = [1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 1800, 3600]
    steps = [1, 2, 5, 10, *(s * nominal for s in seconds)]
    return next((step for step in steps if step * scale.px >= room), steps[-1])
