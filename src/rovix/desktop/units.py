"""How numbers of a unit are shown and stepped."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from rovix.model.effects.rows import Numbers


@dataclass(frozen=True, slots=True)
class NumberFormat:
    """A unit; the number shown is the value times `factor`; a step is in what is shown."""

    unit: str
    factor: float = 1.0
    decimals: int = 1
    step: float = 1.0


_FORMATS = {
    "px": NumberFormat("px"), "°": NumberFormat("°"), "%": NumberFormat("%", 100.0),
    "f": NumberFormat("f", decimals=2, step=0.1), "s": NumberFormat("s", decimals=2, step=0.1),
    "×": NumberFormat("×", decimals=3, step=0.05), "": NumberFormat("", decimals=3, step=0.05),
}  # fmt: skip


def format_of(row: Numbers, item: Any) -> NumberFormat:
    """How an effect's row shows its numbers, in the unit that it has now."""
    unit = row.unit if isinstance(row.unit, str) else row.unit(item)
    plain = _FORMATS[unit]
    return NumberFormat(
        unit,
        plain.factor,
        plain.decimals if row.decimals is None else row.decimals,
        plain.step if row.step is None else row.step,
    )
