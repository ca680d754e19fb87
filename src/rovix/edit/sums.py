"""Numbers that people type into fields: plain, or as a sum."""

from __future__ import annotations

import ast
import operator
import re
from collections.abc import Callable
from math import isfinite, pi

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
