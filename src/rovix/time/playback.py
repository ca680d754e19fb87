"""Which frame of its material a clip shows: repetition, there and back."""

from __future__ import annotations

from fractions import Fraction


def played(position: Fraction, span: int | None, and_back: bool = False) -> Fraction:
    """The place in the material, counted from its first frame, at a position along the way.

    `position` is in frames of the material that have gone by. One pass has `span` frames and begins
    again after its last; there and back shows its first and last frame once each time, so that it
    joins. Without a span it goes on and on.

    >>> [int(played(Fraction(at), 4, and_back=True)) for at in range(8)]
    [0, 1, 2, 3, 2, 1, 0, 1]
    >>> [int(played(Fraction(at), 3)) for at in range(5)]
    [0, 1, 2, 0, 1]
    """
    if span is None:
        return position
    last = span - 1
    if and_back:
        return last - abs(last - position % (2 * last)) if last else Fraction(0)
    return position % span


def pass_length(span: int, and_back: bool = False) -> int:
    """Frames of the material that go by until everything begins again."""
    return max(1, 2 * (span - 1)) if and_back else span
