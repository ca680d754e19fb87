"""Numbers that people type into fields: plain, or as a sum."""

from __future__ import annotations

import ast
import operator
from collections.abc import Callable
from math import isfinite

_OPERATIONS: dict[type, Callable[[float, float], float]] = {
    ast.Add: operator.add,
    ast.Sub: operator.sub,
    ast.Mult: operator.mul,
    ast.Div: operator.truediv,
}


def evaluate_sum(text: str) -> float:
    """The value of `1920/2`, `-(3 + 4)*2`, `1,5` (a decimal comma). ValueError, with the reason, else.

    >>> evaluate_sum("1920/2 - 60")
    900.0
    """
    cleaned = text.strip().replace("−", "-").replace(",", ".").replace("×", "*").replace("÷", "/")
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


def _value(node: ast.expr) -> float:
    if isinstance(node, ast.Constant) and isinstance(node.value, int | float):
        return float(node.value)
    if isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.USub | ast.UAdd):
        return -_value(node.operand) if isinstance(node.op, ast.USub) else _value(node.operand)
    if isinstance(node, ast.BinOp) and type(node.op) in _OPERATIONS:
        return _OPERATIONS[type(node.op)](_value(node.left), _value(node.right))
    raise SyntaxError("no arithmetic")
