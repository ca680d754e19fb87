"""The exact frame rate and its arithmetic with seconds."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache
from math import floor

# People write these; the broadcast rates behind them are exact fractions (SMPTE ST 12-1).
_BROADCAST = {
    "23.976": Fraction(24000, 1001),
    "23.98": Fraction(24000, 1001),
    "29.97": Fraction(30000, 1001),
    "47.95": Fraction(48000, 1001),
    "59.94": Fraction(60000, 1001),
    "119.88": Fraction(120000, 1001),
}
_WHOLE_FRAME = Fraction(1, 10**9)


@dataclass(frozen=True, slots=True, order=True)
class Rate:
    """Frames per second, exact.

    ``Rate(30)``, ``Rate("30000/1001")``, ``Rate("29.97")`` (the broadcast rate) or a Fraction;
    above 0 and at most 1000. A float is refused: 29.97 as a float is no rate that exists.

    >>> Rate("29.97")
    Rate('30000/1001')
    >>> Rate(30).frames(0.35)
    11
    """

    fraction: Fraction

    def __init__(self, rate: Rate | Fraction | int | str) -> None:
        object.__setattr__(self, "fraction", _exact(rate))
        if not 0 < self.fraction <= 1000:
            raise ValueError(f"A rate lies above 0 and at most at 1000 frames per second, not {self}.")

    def __str__(self) -> str:
        return str(self.fraction)

    def __repr__(self) -> str:
        return f"Rate({str(self)!r})"

    @property
    def nominal(self) -> int:
        """Whole frames a timecode second counts: 30 for 30000/1001. At least 1."""
        return max(1, floor(self.fraction + Fraction(1, 2)))

    @property
    def label(self) -> str:
        """For people: ``30``, ``29.97``, ``12.5``."""
        return f"{float(self.fraction):.3f}".rstrip("0").rstrip(".")

    def frames(self, seconds: float | Fraction) -> int:
        """The nearest whole frame to a time in seconds, halves up.

        A float is read as the decimal it prints as, so that 0.35 s at 30 fps is 10.5 frames
        and becomes 11, though its binary value lies a hair below.
        """
        return floor(exact_seconds(seconds) * self.fraction + Fraction(1, 2))

    def length(self, seconds: float | Fraction) -> int:
        """Like :meth:`frames`, but at least 1 unless the time is exactly 0."""
        return max(1, self.frames(seconds)) if seconds else 0

    def position(self, seconds: float | Fraction) -> Fraction:
        """A time in seconds as real frames; within 1e-9 of a whole frame it is that frame."""
        exact = exact_seconds(seconds) * self.fraction
        whole = floor(exact + Fraction(1, 2))
        return Fraction(whole) if abs(exact - whole) <= _WHOLE_FRAME else exact

    def seconds(self, frame: int | Fraction) -> Fraction:
        """The exact time in seconds at which a frame starts."""
        return Fraction(frame) / self.fraction


def exact_seconds(seconds: float | Fraction) -> Fraction:
    """Seconds as a fraction; a float is the decimal number it prints as."""
    return _printed(seconds) if isinstance(seconds, float) else Fraction(seconds)


@lru_cache(maxsize=4096)
def _printed(seconds: float) -> Fraction:
    return Fraction(repr(seconds))


def _exact(rate: Rate | Fraction | int | str) -> Fraction:
    if isinstance(rate, Rate):
        return rate.fraction
    if isinstance(rate, bool) or not isinstance(rate, Fraction | int | str):
        raise TypeError(f"A rate is a whole number, a fraction or text like '30000/1001', not {rate!r}.")
    if isinstance(rate, str):
        return _parsed(rate)
    return Fraction(rate)


def _parsed(text: str) -> Fraction:
    text = text.strip()
    if text in _BROADCAST:
        return _BROADCAST[text]
    try:
        return Fraction(text)
    except (ValueError, ZeroDivisionError):
        raise ValueError(f"'{text}' is not a rate. Write 25, 29.97 or 30000/1001.") from None
