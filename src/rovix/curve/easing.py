"""Easing by its text: CSS Easing Functions Level 2, and the classic families."""

from __future__ import annotations

import re
from collections.abc import Callable
from functools import lru_cache

import numpy as np
from numpy.typing import ArrayLike, NDArray

from rovix.curve.bezier import cubic_bezier
from rovix.curve.families import FAMILIES, family
from rovix.curve.piecewise import linear_points, steps
from rovix.curve.smooth import LOOSE, SMOOTH
from rovix.curve.spring import spring_easing, spring_of
from rovix.curve.tangents import TANGENTS

Floats = NDArray[np.float64]
_NUMBER = r"[+-]?(?:\d+\.\d+|\.\d+|\d+)(?:e[+-]?\d+)?"
_CALL = re.compile(r"([a-z-]+)\((.*)\)", re.DOTALL)
_KEYWORDS = {
    "ease": (0.25, 0.1, 0.25, 1.0),
    "ease-in": (0.42, 0.0, 1.0, 1.0),
    "ease-out": (0.0, 0.0, 0.58, 1.0),
    "ease-in-out": (0.42, 0.0, 0.58, 1.0),
}
_MODES = ("in", "out", "in-out", "out-in")


class Easing:
    """Progress in, progress out: call it with an array of any shape, get float64 of that shape."""

    __slots__ = ("_function", "text")

    def __init__(self, text: str, function: Callable[[Floats], Floats]) -> None:
        self.text = text
        self._function = function

    def __call__(self, progress: ArrayLike) -> Floats:
        return self._function(np.asarray(progress, dtype=np.float64))

    def __repr__(self) -> str:
        return f"easing({self.text!r})"


def easing(text: str) -> Easing:
    """The easing that a text names; ValueError, naming the text and the reason, where it names none.

    CSS: ``linear``, ``ease``, ``ease-in``, ``ease-out``, ``ease-in-out``, ``step-start``,
    ``step-end``, ``cubic-bezier(x1, y1, x2, y2)``, ``steps(n, position)`` and ``linear()`` with two
    points or more. Inputs outside 0..1 go on as CSS Easing Functions Level 2 says: a Bezier along
    its end tangents, ``linear()`` along its end segments, ``steps()`` by further steps.

    Classic families: ``quad``, ``cubic``, ``quart``, ``quint``, ``sine``, ``expo``, ``circ``,
    ``back``, ``elastic``, ``bounce``, each ``-in``, ``-out``, ``-in-out``, ``-out-in``. No standard
    says how they go on outside 0..1; here they stay at their ends.

    Our own words: ``hold`` keeps the start until progress 1; ``spring(mass 1 stiffness 145
    damping 23)``, in any order and with a velocity per second if wished, is a spring over its
    settling time;
    ``mirrored(...)`` is another easing seen from its other end; ``smooth`` and ``smooth-loose`` by
    themselves start and end at rest, and between keys take their slopes from the keys around;
    ``tangents`` does too, and between keys goes along their handles.
    """
    return _easing(" ".join(text.lower().split()))


def easing_names() -> tuple[str, ...]:
    """Every name that stands without brackets, in the order people look for them."""
    named = ("linear", SMOOTH, LOOSE, TANGENTS, *_KEYWORDS, "hold", "step-start", "step-end")
    return (*named, *(f"{name}-{mode}" for name in FAMILIES for mode in _MODES))


@lru_cache(maxsize=1024)
def _easing(text: str) -> Easing:
    return Easing(text, _function(text))


def _function(text: str) -> Callable[[Floats], Floats]:
    if text == "linear":
        return lambda progress: progress
    if text in _KEYWORDS:
        return cubic_bezier(*_KEYWORDS[text])
    if text in ("step-end", "hold"):
        return steps(1, "jump-end")
    if text == "step-start":
        return steps(1, "jump-start")
    if text in (SMOOTH, LOOSE, TANGENTS):
        return _at_rest
    match = _CALL.fullmatch(text)
    if match and match[1] == "mirrored":
        inner = easing(match[2])
        return lambda progress: 1.0 - inner(1.0 - progress)
    if match and match[1] == "spring":
        return _spring(match[2], text)
    if match:
        return _called(match[1], [part.strip() for part in match[2].split(",")], text)
    name, _, mode = text.partition("-")
    if name in FAMILIES and mode in _MODES:
        return family(name, mode)
    raise ValueError(f"'{text}' is no easing. Write a CSS easing, or a family such as back-out.")


def _at_rest(progress: Floats) -> Floats:
    share = np.clip(progress, 0.0, 1.0)
    return share * share * (3 - 2 * share)


def _called(name: str, arguments: list[str], text: str) -> Callable[[Floats], Floats]:
    builders = {"cubic-bezier": _bezier, "steps": _steps, "linear": _linear}
    if name not in builders:
        raise ValueError(f"'{text}' is no easing: there is no '{name}()'.")
    return builders[name](arguments, text)


def _bezier(arguments: list[str], text: str) -> Callable[[Floats], Floats]:
    if len(arguments) != 4:
        raise ValueError(f"'{text}' needs four numbers, not {len(arguments)}.")
    x1, y1, x2, y2 = (_number(argument, text) for argument in arguments)
    if not (0 <= x1 <= 1 and 0 <= x2 <= 1):
        raise ValueError(f"'{text}' would run back in time: both x values lie from 0 to 1.")
    return cubic_bezier(x1, y1, x2, y2)


def _steps(arguments: list[str], text: str) -> Callable[[Floats], Floats]:
    if len(arguments) not in (1, 2) or not re.fullmatch(r"\+?\d+", arguments[0]):
        raise ValueError(f"'{text}' needs a whole number of steps and, if wished, a position.")
    count = int(arguments[0])
    position = {"start": "jump-start", "end": "jump-end"}.get(arguments[-1], arguments[-1])
    if len(arguments) == 1:
        position = "jump-end"
    if position not in ("jump-start", "jump-end", "jump-none", "jump-both"):
        raise ValueError(f"'{text}': '{arguments[1]}' is no step position.")
    least = 2 if position == "jump-none" else 1
    if count < least:
        raise ValueError(f"'{text}' needs at least {least} step{'s' if least > 1 else ''}.")
    return steps(count, position)


def _linear(arguments: list[str], text: str) -> Callable[[Floats], Floats]:
    stops: list[tuple[float, float | None]] = []
    for argument in arguments:
        output, inputs = _linear_stop(argument, text)
        stops += [(output, share) for share in inputs] or [(output, None)]
    if len(arguments) < 2:
        raise ValueError(f"'{text}' needs at least two points.")
    return linear_points(stops)


def _spring(numbers: str, text: str) -> Callable[[Floats], Floats]:
    try:
        return spring_easing(*spring_of(numbers))
    except ValueError as wrong:
        raise ValueError(f"'{text}': {wrong}") from wrong


def _linear_stop(argument: str, text: str) -> tuple[float, list[float]]:
    parts = argument.split()
    outputs = [part for part in parts if not part.endswith("%")]
    inputs = [_number(part[:-1], text) / 100 for part in parts if part.endswith("%")]
    # The number stands before or after its percentages, not between them.
    between = len(parts) == 3 and not parts[1].endswith("%")
    if len(outputs) != 1 or len(inputs) > 2 or between:
        raise ValueError(f"'{text}': '{argument}' is no point. Write a number and up to two percentages.")
    return _number(outputs[0], text), inputs


def _number(part: str, text: str) -> float:
    if not re.fullmatch(_NUMBER, part) or not np.isfinite(float(part)):
        raise ValueError(f"'{text}': '{part}' is no number.")
    return float(part)
