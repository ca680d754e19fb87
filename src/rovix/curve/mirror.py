"""An easing run backwards."""

from __future__ import annotations

import re

from rovix.curve.easing import easing

_KEYWORDS = {
    "linear": "linear",
    "smooth": "smooth",
    "smooth-loose": "smooth-loose",
    "tangents": "tangents",
    "ease": "cubic-bezier(0.75, 0, 0.75, 0.9)",
    "ease-in": "ease-out",
    "ease-out": "ease-in",
    "ease-in-out": "ease-in-out",
    "hold": "step-start",
    "step-end": "step-start",
    "step-start": "step-end",
}
_JUMPS = {"start": "end", "end": "start", "jump-start": "jump-end", "jump-end": "jump-start"}


def reversed_easing(text: str) -> str:
    """The easing r with r(p) = 1 - e(1 - p): the same way, seen from its other end.

    >>> reversed_easing("back-out")
    'back-in'
    >>> reversed_easing("cubic-bezier(0.2, 0, 0.4, 1)")
    'cubic-bezier(0.6, 0.0, 0.8, 1.0)'
    """
    text = easing(text).text
    if text in _KEYWORDS:
        return _KEYWORDS[text]
    call = re.fullmatch(r"([a-z-]+)\((.*)\)", text)
    if call:
        return _reversed_call(call[1], [part.strip() for part in call[2].split(",")])
    name, _, mode = text.partition("-")
    return f"{name}-{ {'in': 'out', 'out': 'in'}.get(mode, mode) }"


def _reversed_call(name: str, arguments: list[str]) -> str:
    if name == "mirrored":
        return ", ".join(arguments)
    if name == "spring":
        return f"mirrored(spring({', '.join(arguments)}))"
    if name == "cubic-bezier":
        x1, y1, x2, y2 = (_tidy(1 - float(argument)) for argument in arguments)
        return f"cubic-bezier({x2}, {y2}, {x1}, {y1})"
    if name == "steps":
        position = arguments[1] if len(arguments) > 1 else "end"
        return f"steps({arguments[0]}, {_JUMPS.get(position, position)})"
    return "linear(" + ", ".join(_reversed_stop(argument) for argument in reversed(arguments)) + ")"


def _reversed_stop(argument: str) -> str:
    parts = argument.split()
    output = next(part for part in parts if not part.endswith("%"))
    shares = [f"{_tidy(100 - float(part[:-1]))}%" for part in reversed(parts) if part.endswith("%")]
    return " ".join([str(_tidy(1 - float(output))), *shares])


def _tidy(value: float) -> float:
    return round(value, 12) + 0.0
