"""Numbers that people type into fields: plain, or as a sum."""

from __future__ import annotations

import ast
import operator
import re
from collections.abc import Callable
from dataclasses import dataclass
from math import inf, isfinite, pi

_OPERATIONS: dict[type, Callable[[float, float], float]] = {
    ast.Add: operator.add,
    ast.Sub: operator.sub,
    ast.Mult: operator.mul,
    ast.Div: operator.truediv,
}


UNITS: dict[str, dict[str, float]] = {
    "°": {"deg": 1.0, "°": 1.0, "turn": 360.0, "grad": 0.9, "rad": 180 / pi},
    "s": {"s": 1.0, "ms": 0.001},
    "px": {"px": 1.0}, "%": {"%": 1.0}, "f": {"f": 1.0}, "em": {"em": 1.0}, "dB": {"dB": 1.0},
}  # fmt: skip
"""What may be typed behind numbers of a field in each unit, and how many of that unit it is: the units of
CSS Values and Units Level 4 for angles and times."""
_NUMBER = re.compile(r"(\d+\.?\d*(?:[eE][-+]?\d+)?|\.\d+)\s*(?![eE][-+]?\d)([^\W\d_]+|°|%)")


def evaluate_sum(text: str, unit: str = "", rate: float | None = None) -> float:
    """The value of `1920/2`, `-(3 + 4)*2`, `1,5` (a decimal comma), in degrees `2turn + 40deg`.

    With a `rate` of frames a second, times take frames and frames times: `12f`, `0.4s`. ValueError, with
    the reason, for anything else.

    >>> evaluate_sum("1920/2 - 60")
    900.0
    """
    cleaned = text.strip().replace("−", "-").replace(",", ".").replace("×", "*").replace("÷", "/")
    factors = UNITS.get(unit, {}) | _times(unit, rate)
    cleaned = _NUMBER.sub(lambda found: _in_unit(found, factors), cleaned)
    try:
        tree = ast.parse(cleaned, mode="eval")
        value = _value(tree.body)
    except (SyntaxError, RecursionError, MemoryError):
        raise ValueError(f"'{text.strip()}' is no number or sum.") from None
    except (ZeroDivisionError, OverflowError):
        raise ValueError(f"'{text.strip()}' has no value.") from None
    if not isfinite(value):
        raise ValueError(f"'{text.strip()}' has no value.")
    return value


@dataclass(frozen=True, slots=True)
class Sum:
    """What was typed into a field: a value, or what to do to the one that is there.

    `goes_on` says which; then `operation` is done to the old value with `value`.
    """

    value: float
    operation: Callable[[float, float], float] | None = None

    @property
    def goes_on(self) -> bool:
        """Whether it goes on from the value that is there."""
        return self.operation is not None

    def __call__(self, old: float) -> float:
        """The new value; ValueError where there is none."""
        if self.operation is None:
            return self.value
        try:
            made = self.operation(old, self.value)
        except (ZeroDivisionError, OverflowError):
            made = inf
        if not isfinite(made):
            raise ValueError("That has no value.")
        return made


_GOING_ON = {
    "+": operator.add,
    "*": operator.mul,
    "×": operator.mul,
    "/": operator.truediv,
    "÷": operator.truediv,
}
_TAKING = re.compile(r"^([-−])=\s*")


def sum_from(text: str, unit: str = "", rate: float | None = None) -> Sum:
    """What was typed, as :func:`evaluate_sum` reads it; `+10`, `*1.1`, `/2` and `-=10` go on from the
    value that is there. Factors have no unit.

    >>> sum_from("+10")(32), sum_from("*1.5")(32), sum_from("-=2")(32), sum_from("-10")(32)
    (42.0, 48.0, 30.0, -10.0)
    """
    cleaned = text.strip()
    taking = _TAKING.match(cleaned)
    if taking:
        return Sum(evaluate_sum(cleaned[taking.end() :], unit, rate), operator.sub)
    work = _GOING_ON.get(cleaned[:1])
    if work is None:
        return Sum(evaluate_sum(cleaned, unit, rate))
    value = evaluate_sum(cleaned[1:], unit if work is operator.add else "", rate)
    if work is operator.truediv and not value:
        raise ValueError(f"'{cleaned}' has no value.")
    return Sum(value, work)


def _times(unit: str, rate: float | None) -> dict[str, float]:
    """Frames in a field of seconds, seconds in one of frames."""
    if rate is None or unit not in ("s", "f"):
        return {}
    return {"f": 1 / rate} if unit == "s" else {"s": rate, "ms": rate / 1000}


def _in_unit(found: re.Match[str], factors: dict[str, float]) -> str:
    """A number with a unit behind it as so many of the field's unit."""
    if found[2] not in factors:
        known = f"here it is {', '.join(factors)}" if factors else "here numbers have none"
        raise ValueError(f"'{found[2]}' is no unit of this field; {known}.")
    return f"({found[1]}*{factors[found[2]]!r})"


def _value(node: ast.expr) -> float:
    if isinstance(node, ast.Constant) and isinstance(node.value, int | float):
        return float(node.value)
    if isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.USub | ast.UAdd):
        return -_value(node.operand) if isinstance(node.op, ast.USub) else _value(node.operand)
    if isinstance(node, ast.BinOp) and type(node.op) in _OPERATIONS:
        return _OPERATIONS[type(node.op)](_value(node.left), _value(node.right))
    raise SyntaxError("no arithmetic")
