"""Half-open ranges of frames."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True, order=True)
class Span:
    """Frames from ``start`` (included) to ``end`` (not included); never shorter than 0."""

    start: int
    end: int

    def __post_init__(self) -> None:
        if self.end < self.start:
            raise ValueError(f"A span cannot end at frame {self.end}, before its start {self.start}.")

    @property
    def length(self) -> int:
        return self.end - self.start

    def __contains__(self, frame: float) -> bool:
        return self.start <= frame < self.end

    def overlaps(self, other: Span) -> bool:
        """Whether the two share at least one frame."""
        return self.start < other.end and other.start < self.end

    def clipped(self, other: Span) -> Span:
        """The part inside ``other``; empty, at its nearer edge, where they do not meet."""
        start = min(max(self.start, other.start), other.end)
        return Span(start, max(start, min(self.end, other.end)))

    def shifted(self, frames: int) -> Span:
        return Span(self.start + frames, self.end + frames)
