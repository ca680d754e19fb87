"""Numbers in words, and how they are written while they count."""

from __future__ import annotations

import re
import unicodedata
from dataclasses import dataclass
from decimal import ROUND_HALF_EVEN, Decimal

_NUMBER = re.compile(
    r"(?<![\w.,])([-−+]?)(\d{1,3}(?:([,\u2009\u202f\u00a0' ])\d{3})(?:\3\d{3})*|\d+)([.,]\d+)?(?!\d)"
)


@dataclass(frozen=True, slots=True)
class Number:
    """A number at characters `start` to `end` (not included) of a text, and how it is written.

    `group` parts thousands, `point` decimals of which there are `decimals`; either may be empty.
    `digits` is how many figures stand before the point, to be filled with 0 where it begins with one;
    `zero` is the code of its own figure 0.
    """

    start: int
    end: int
    value: Decimal
    group: str
    point: str
    decimals: int
    digits: int
    sign: str
    zero: int = ord("0")

    def written(self, value: float) -> str:
        """Another number written in the same way, halves to even as `format` does."""
        step = Decimal(1).scaleb(-self.decimals)
        rounded = Decimal(value).quantize(step, ROUND_HALF_EVEN)
        whole, _, part = f"{abs(rounded):.{self.decimals}f}".partition(".")
        whole = whole.zfill(self.digits)
        if self.group:
            whole = f"{int(whole):,}".replace(",", self.group) if self.digits <= 1 else whole
        minus = self.sign if self.sign in ("-", "−") else "−"
        sign = minus if rounded < 0 else ("+" if self.sign == "+" else "")
        return (sign + whole + (self.point + part if part else "")).translate(self._own_figures())

    def _own_figures(self) -> dict[int, int]:
        """From 0 to 9 to the figures that the number is written in, such as those of Devanagari."""
        return {ord("0") + figure: self.zero + figure for figure in range(10)}


def numbers_in(text: str) -> list[Number]:
    """The numbers of a text, in order: 24, 1,250, 3.5, −7, 007."""
    return [_number(match) for match in _NUMBER.finditer(text)]


def _number(match: re.Match[str]) -> Number:
    sign, whole, group, part = match.group(1), match.group(2), match.group(3) or "", match.group(4) or ""
    figures = re.sub(r"\D", "", whole)
    size = Decimal(f"{figures}.{part[1:]}" if part else figures)
    negative = sign in ("-", "−")
    filled = len(figures) if unicodedata.decimal(figures[0]) == 0 and len(figures) > 1 else 1
    value, decimals = -size if negative else size, max(0, len(part) - 1)
    zero = ord(figures[0]) - unicodedata.decimal(figures[0])
    return Number(match.start(), match.end(), value, group, part[:1], decimals, filled, sign, zero)
